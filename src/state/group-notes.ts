'use client';
import { useEffect } from 'react';
import { useStore } from 'zustand';
import { getSession } from '../contract/session';
import { PLAIN_NAMES, namingRule } from '../core/edit/naming-rule';
import { influenceNotes } from '../core/notes/group-measures';
import { listNotes, proofNotes } from '../core/notes/group-notes';
import type { GroupNote } from '../core/notes/group-note';
import type { GroupDefinition } from '../core/graph/document';
import { unwrap } from '../workers/answer';
import type { RemoteWorker } from '../workers/pool';
import type { Evaluation } from './evaluation';
import { inspection, tellFound } from './inspection';
import { STUDY } from './reference-models';
import { stores } from './stores';
import { useCall } from './use-call';
import { useDocument, useView } from './use-stores';

/** How long nothing must change before dials are tried, milliseconds. */
const REST = 700;

/** What the inspector found in the open group. */
export interface InspectorNotes {
  readonly notes: readonly GroupNote[];
  /** What is still to be tried; 0 when all is known. */
  readonly waiting: number;
}

type Task = (worker: RemoteWorker) => Promise<readonly GroupNote[]>;

/** All that is measured of a group, each by whichever worker is free; influence is told last. */
function listTasks(
  evaluation: Evaluation,
  groupId: string,
  path: readonly string[],
  models: readonly string[],
): Task[] {
  const { document } = stores.document.getState();
  const { documents } = evaluation.pool;
  const dials = document.groups[groupId]?.dials ?? [];
  const on = (worker: RemoteWorker) => ({
    document: documents.bring(worker, document),
    path,
    models,
  });
  return [
    ...dials.map(
      ({ id }): Task =>
        (worker) =>
          unwrap(worker.measureDial(on(worker), id)),
    ),
    (worker) => unwrap(worker.measurePairs(on(worker))),
    (worker) => unwrap(worker.measureUnplugging(on(worker))),
    async (worker) => influenceNotes(await unwrap(worker.rankInfluence(on(worker)))),
  ];
}

/**
 * Has the open group tried by the workers whenever it changes, and keeps what is found in
 * `inspection`.
 */
export function useInspection(evaluation: Evaluation, { id }: GroupDefinition): void {
  const groups = useDocument((state) => state.document.groups);
  const modelId = useDocument((state) => state.modelId);
  const path = useView((state) => state.path);
  useEffect(() => {
    let live = true;
    tellFound(id, { waiting: 1 });
    const run = async (): Promise<void> => {
      await evaluation.models.load(STUDY.id, STUDY.name);
      const tasks = listTasks(evaluation, id, path, [...new Set([modelId, STUDY.id])]);
      const found: (readonly GroupNote[])[] = tasks.map(() => []);
      let [next, waiting] = [0, tasks.length];
      const work = async (worker: RemoteWorker): Promise<void> => {
        for (let k = next++; k < tasks.length; k = next++) {
          const notes = await tasks[k]?.(worker);
          if (!live) return;
          found[k] = notes ?? [];
          tellFound(id, { measured: found.flat(), waiting: --waiting });
        }
      };
      tellFound(id, { waiting });
      await Promise.all(evaluation.pool.all.map(work));
    };
    const timer = setTimeout(() => {
      // What a network does wrong is said elsewhere; what was found so far stays.
      run().catch(() => {
        if (live) tellFound(id, { waiting: 0 });
      });
    }, REST);
    return () => {
      live = false;
      clearTimeout(timer);
      tellFound(id, { waiting: 0 });
    };
  }, [evaluation, groups, id, modelId, path]);
}

/** All notes on a group: those that need no computing at once, the others as they are found. */
export function useGroupNotes(group: GroupDefinition): InspectorNotes {
  const found = useStore(inspection);
  const document = useDocument((state) => state.document);
  const { data } = useCall(getSession);
  // The studio's own rule where it has one; else names are advised upon.
  const rule = data?.naming ? namingRule(data.naming) : PLAIN_NAMES;
  const isAbout = found.groupId === group.id;
  const notes = [
    ...listNotes(document, group.id, rule),
    ...proofNotes(group, isAbout ? found.proof : null),
    ...(isAbout ? found.measured : []),
  ];
  return {
    notes: [
      ...notes.filter(({ tone }) => tone === 'fault'),
      ...notes.filter(({ tone }) => tone === 'fact'),
    ],
    waiting: isAbout ? found.waiting : 0,
  };
}
