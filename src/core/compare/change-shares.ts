import type { Picture } from '../evaluate/picture';
import type { ChangeKind } from './change';
import { comparePictures } from './picture-difference';
import type { PictureDifference } from './picture-difference';

/** A change of something that is drawn, which can be put back alone. */
export interface UndoableChange<State> {
  readonly kind: ChangeKind;
  readonly undo: (after: State) => State;
}
/** A change and how much of the picture's difference it accounts for. */
export interface MeasuredChange<Change> {
  readonly change: Change;
  /**
   * 1 − what is left of the mean difference when this alone is undone, relative to all of it: 1
   * where it explains everything, 0 where it changes nothing, below 0 where it hides part of what
   * the others do. Null where it was not measured, or cannot be undone alone.
   */
  readonly share: number | null;
}
/** Two states compared, and what accounts for the difference. */
export interface MeasuredDifference<Change> {
  readonly difference: PictureDifference;
  /** What accounts for most first; words and what was not measured last. */
  readonly changes: readonly MeasuredChange<Change>[];
  /** The sum of all shares: near 1 where the changes act apart, else they act on each other. */
  readonly sum: number;
}

/** Each change costs a picture. */
export const MOST_MEASURED = 64;

/** Modes are named before values of the same share: they are the ones that are overlooked. */
const ORDER: Readonly<Record<ChangeKind, number>> = {
  mode: 0,
  wiring: 1,
  value: 2,
  dial: 3,
  scene: 4,
  words: 5,
};

/** Measures what single changes between two states account for, in any order. */
export class ShareMeter<State> {
  readonly pictures: readonly [Picture, Picture];
  readonly difference: PictureDifference;

  /** @param draw a picture of a state, always of the same size */
  constructor(
    before: State,
    private readonly after: State,
    private readonly draw: (state: State) => Picture,
  ) {
    this.pictures = [draw(before), draw(after)];
    this.difference = comparePictures(...this.pictures);
  }

  /**
   * The share of one change. Null for words where something differs, and where the state without
   * the change cannot be drawn.
   */
  share({ kind, undo }: UndoableChange<State>): number | null {
    if (this.difference.mean === 0) return 0;
    if (kind === 'words') return null;
    try {
      const without = this.draw(undo(this.after));
      return 1 - comparePictures(this.pictures[0], without).mean / this.difference.mean;
    } catch {
      return null;
    }
  }
}

/**
 * Measures what each change between two states accounts for: each is undone alone, and the picture
 * compared with the earlier one.
 * @param draw a picture of a state, always of the same size and from the same camera; what it
 *   throws for a state with one change undone leaves that change unmeasured
 */
export function measureChanges<State, Change extends UndoableChange<State>>(
  before: State,
  after: State,
  changes: readonly Change[],
  draw: (state: State) => Picture,
): MeasuredDifference<Change> & { readonly pictures: readonly [Picture, Picture] } {
  const meter = new ShareMeter(before, after, draw);
  let left = MOST_MEASURED;
  const measured = changes.map((change) => ({
    change,
    share: change.kind === 'words' || left-- > 0 ? meter.share(change) : null,
  }));
  return {
    difference: meter.difference,
    changes: sortChanges(measured),
    sum: measured.reduce((sum, { share }) => sum + (share ?? 0), 0),
    pictures: meter.pictures,
  };
}

/** What accounts for most first. */
export function sortChanges<
  Measured extends {
    readonly change: { readonly kind: ChangeKind };
    readonly share: number | null;
  },
>(measured: readonly Measured[]): readonly Measured[] {
  const weight = ({ share }: Measured): number => (share === null ? -Infinity : share);
  return [...measured].sort(
    (a, b) => weight(b) - weight(a) || ORDER[a.change.kind] - ORDER[b.change.kind],
  );
}
