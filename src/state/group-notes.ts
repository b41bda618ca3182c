'use client';
import { useEffect, useState } from 'react';
import { influenceNotes } from '../core/evaluate/dial-measures';
import { listNotes } from '../core/evaluate/group-notes';
import type { GroupNote } from '../core/evaluate/group-notes';
import type { GroupDefinition } from '../core/graph/document';
import { unwrap } from '../workers/answer';
import type { Evaluation } from './evaluation';
import { stores } from './stores';
import { useDocument, useView } from './use-stores';

/** The model every group is tried on beside the current one. */
const STUDY = 'demo-study';
/** How long nothing must change before dials are tried, milliseconds. */
const REST = 700;

/** What the inspector found in the open group. */
export interface InspectorNotes {
  readonly notes: readonly GroupNote[];
  /** Dials still to be tried; 0 when all is known. */
  readonly waiting: number;
}

const order = (notes: readonly GroupNote[]): readonly GroupNote[] => [
  ...notes.filter(({ tone }) => tone === 'fault'),
  ...notes.filter(({ tone }) => tone === 'fact'),
];

/**
 * The inspector's notes on the open group: those that need no computing at once, then dial by dial
 * as they are tried; begun anew when the group changes.
 */
export function useGroupNotes(evaluation: Evaluation, group: GroupDefinition): InspectorNotes {
  const groups = useDocument((state) => state.document.groups);
  const modelId = useDocument((state) => state.modelId);
  const path = useView((state) => state.path);
  const [measured, setMeasured] = useState<readonly GroupNote[]>([]);
  const [waiting, setWaiting] = useState(0);
  const { id } = group;
  useEffect(() => {
    let live = true;
    const run = async (): Promise<void> => {
      const { document } = stores.document.getState();
      const dials = document.groups[id]?.dials.filter(({ kind }) => kind === 'scalar') ?? [];
      await evaluation.models.load(STUDY, 'Study form');
      const models = [...new Set([modelId, STUDY])];
      const { background, documents } = evaluation.pool;
      const tried = { document: documents.bring(background, document), path, models };
      let found: readonly GroupNote[] = [];
      const tell = (notes: readonly GroupNote[], left: number): void => {
        found = [...found, ...notes];
        setMeasured(found);
        setWaiting(left);
      };
      setWaiting(dials.length + 1);
      for (const [k, dial] of dials.entries()) {
        const notes = await unwrap(background.measureDial(tried, dial.id));
        if (!live) return;
        tell(notes, dials.length - k);
      }
      const ranked = await unwrap(background.rankInfluence(tried));
      if (live) tell(influenceNotes(ranked), 0);
    };
    const timer = setTimeout(() => {
      // What a network does wrong is said elsewhere; what was found so far stays.
      run().catch(() => {
        if (live) setWaiting(0);
      });
    }, REST);
    return () => {
      live = false;
      clearTimeout(timer);
    };
  }, [evaluation, groups, id, modelId, path]);
  return {
    notes: order([...listNotes(stores.document.getState().document, id), ...measured]),
    waiting,
  };
}
