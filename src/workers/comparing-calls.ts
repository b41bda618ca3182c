import type { SeenState } from '../core/compare/state-changes';
import { StateComparer, noComparison } from '../core/evaluate/state-comparer';
import type { Desk } from './desk';

/** Two states to be compared, and the names of the models they are on. */
export interface ComparisonRequest {
  readonly before: SeenState;
  readonly after: SeenState;
  readonly modelNames: Readonly<Record<string, string>>;
  /** Of the pictures, pixels a side. */
  readonly size: number;
}

/** Calls for comparing two states; a worker holds the comparison that was begun last. */
export function comparingCalls({ models, answer }: Desk) {
  let held: { readonly number: number; readonly comparer: StateComparer } | null = null;
  const of = (number: number): StateComparer => {
    if (held?.number === number) return held.comparer;
    throw noComparison();
  };
  return {
    /** Begins a comparison under a number. */
    compareStates: (number: number, { before, after, modelNames, size }: ComparisonRequest) =>
      answer(() => {
        const comparer = new StateComparer(
          before,
          after,
          (id) => {
            const { analysis, measured } = models.get(id);
            return { analysis, maps: measured };
          },
          (id) => modelNames[id] ?? id,
        );
        held = { number, comparer };
        return comparer.compare(size);
      }),
    /** The same comparison at another size. */
    compareAgain: (number: number, size: number) => answer(() => of(number).compare(size)),
    /** What one of its changes accounts for. */
    changeShare: (number: number, place: number, size: number) =>
      answer(() => of(number).share(place, size)),
  };
}
