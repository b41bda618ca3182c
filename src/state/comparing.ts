'use client';
import { useEffect, useRef, useState } from 'react';
import type { ModelEntry } from '../contract/models';
import type { StateView } from '../contract/states';
import { describeError } from '../core/base/problem';
import type { Problem } from '../core/base/problem';
import { MOST_MEASURED, sortChanges } from '../core/compare/change-shares';
import { listStateChanges } from '../core/compare/state-changes';
import type { SeenState, StateChange } from '../core/compare/state-changes';
import type { ComparedStates } from '../core/evaluate/state-comparer';
import { unwrap } from '../workers/answer';
import type { RemoteWorker } from '../workers/pool';
import { isLive, readSide, sideKey } from './compared-sides';
import type { Side } from './compared-sides';
import type { Evaluation } from './evaluation';
import { commit } from './editing';
import { useDocument, useView } from './use-stores';

/** Of pictures, pixels a side: the first look, the whole; and for measuring, the same. */
const SIZES = { first: 96, whole: 320 } as const;
const MEASURED = { order: 40, whole: 128 } as const;
/** How long an edit rests before the pictures follow, milliseconds. */
const REST = 250;

/** A change with what it accounts for, and how it is put back in the open document. */
export interface FoundChange {
  readonly change: Omit<StateChange, 'undo'>;
  /** 1 for all of the difference; null until it is measured, or where it cannot be. */
  readonly share: number | null;
  readonly isMeasured: boolean;
  readonly restore: (() => void) | null;
}
/** What is known of two states beside each other. */
export interface Comparison {
  readonly compared: ComparedStates | null;
  readonly changes: readonly FoundChange[];
  /** The sum of all shares; null until all are measured. */
  readonly sum: number | null;
  readonly problem: Problem | null;
}
const NOTHING: Comparison = { compared: null, changes: [], sum: null, problem: null };

interface Asked {
  readonly evaluation: Evaluation;
  readonly models: readonly ModelEntry[];
  readonly states: readonly StateView[];
  readonly before: Side;
  readonly after: Side;
  /** Whether kept states are seen from where they were kept. */
  readonly own: boolean;
}

let number = 0;

/** Puts one change back in the open document, as a step of its own. */
function restorer({ change, after }: { change: StateChange; after: Side }): (() => void) | null {
  if (after.of !== 'now' || (change.kind === 'scene' && change.place === 'Stage')) return null;
  return () => {
    commit(
      `Put back ${change.what}`,
      (document) =>
        // The camera and the model are of no account for what is in the document.
        change.undo({ document, model: '', camera: NO_CAMERA }).document,
    );
  };
}
const NO_CAMERA: SeenState['camera'] = {
  eye: [0, 0, 1],
  target: [0, 0, 0],
  fieldRad: 1,
  aspect: 1,
};

/** Compares two states step by step; `tell` hears of each, `isOld` says when nobody listens. */
async function run(
  { evaluation, models, states, before, after, own }: Asked,
  isOld: () => boolean,
  tell: (known: Partial<Comparison>) => void,
): Promise<void> {
  const [a, b] = [await readSide(before, states, own), await readSide(after, states, own)];
  if (!a || !b || isOld()) return;
  const nameOf = (id: string): string => models.find((each) => each.id === id)?.name ?? 'Model';
  for (const { model } of [a, b]) await evaluation.models.load(model, nameOf(model));
  if (isOld()) return;
  const worker = evaluation.pool.background;
  const asked = ++number;
  const modelNames = Object.fromEntries([a, b].map(({ model }) => [model, nameOf(model)]));
  const request = { before: a, after: b, modelNames, size: SIZES.first };
  tell({ compared: await unwrap(worker.compareStates(asked, request)), problem: null });
  const changes = listStateChanges(a, b, nameOf);
  const found = changes.map((change): FoundChange => ({
    change,
    share: null,
    isMeasured: false,
    restore: restorer({ change, after }),
  }));
  tell({ changes: found, sum: null });
  if (isOld()) return;
  tell({ compared: await unwrap(worker.compareAgain(asked, SIZES.whole)) });
  for (const size of [MEASURED.order, MEASURED.whole])
    await measure(worker, asked, found, size, isOld, tell);
}

/** Measures each change on pictures of a size, and tells their order as it is found. */
async function measure(
  worker: RemoteWorker,
  asked: number,
  found: FoundChange[],
  size: number,
  isOld: () => boolean,
  tell: (known: Partial<Comparison>) => void,
): Promise<void> {
  for (let k = 0; k < Math.min(found.length, MOST_MEASURED); k++) {
    if (isOld()) return;
    const known = found[k];
    const share = await unwrap(worker.changeShare(asked, k, size));
    if (known) found[k] = { ...known, share, isMeasured: true };
    tell({ changes: sortChanges(found) });
  }
  tell({
    changes: sortChanges(found),
    sum: found.reduce((sum, { share }) => sum + (share ?? 0), 0),
  });
}

/** Two states compared; what follows the open document is compared again when that changes. */
export function useComparison(asked: Asked | null): Comparison {
  const [known, setKnown] = useState<Comparison>(NOTHING);
  const follows = asked !== null && (isLive(asked.before) || isLive(asked.after));
  const document = useDocument((state) => (follows ? state.document : null));
  const camera = useView((state) => (asked ? state.camera : null));
  const key = asked && JSON.stringify([sideKey(asked.before), sideKey(asked.after), asked.own]);
  const states = asked?.states;
  // What is asked is told by its key: its parts are made anew with every drawing.
  const latest = useRef(asked);
  useEffect(() => {
    latest.current = asked;
  });
  useEffect(() => {
    const { current } = latest;
    if (!current || key === null) return;
    let old = false;
    const tell = (news: Partial<Comparison>): void => {
      if (!old) setKnown((before) => ({ ...before, ...news }));
    };
    const timer = setTimeout(() => {
      run(current, () => old, tell).catch((error: unknown) => {
        tell({ problem: describeError(error) });
      });
    }, REST);
    return () => {
      old = true;
      clearTimeout(timer);
    };
  }, [key, document, camera, states]);
  return asked ? known : NOTHING;
}
