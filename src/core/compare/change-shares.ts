import type { NetworkDocument } from '../graph/document';
import type { Picture } from '../evaluate/picture';
import type { DocumentChange } from './change';
import { comparePictures } from './picture-difference';
import type { PictureDifference } from './picture-difference';

/** A change and how much of the picture's difference it accounts for. */
export interface MeasuredChange {
  readonly change: DocumentChange;
  /**
   * 1 − what is left of the mean difference when this alone is undone, relative to all of it: 1
   * where it explains everything, 0 where it changes nothing, below 0 where it hides part of what
   * the others do. Null where it was not measured, or cannot be undone alone.
   */
  readonly share: number | null;
}
/** Two states compared, and what accounts for the difference. */
export interface MeasuredDifference {
  readonly difference: PictureDifference;
  /** What accounts for most first; words and what was not measured last. */
  readonly changes: readonly MeasuredChange[];
  /** The sum of all shares: near 1 where the changes act apart, else they act on each other. */
  readonly sum: number;
}

/** Each change costs a picture. */
const MOST_MEASURED = 32;

/** Modes are named before values of the same share: they are the ones that are overlooked. */
const ORDER: Readonly<Record<DocumentChange['kind'], number>> = {
  mode: 0,
  wiring: 1,
  value: 2,
  dial: 3,
  scene: 4,
  words: 5,
};

/**
 * Measures what each change between two states accounts for: each is undone alone, and the picture
 * compared with the earlier one.
 * @param draw a picture of a state, always of the same size and from the same camera; what it
 *   throws for a state with one change undone leaves that change unmeasured
 */
export function measureChanges(
  before: NetworkDocument,
  after: NetworkDocument,
  changes: readonly DocumentChange[],
  draw: (document: NetworkDocument) => Picture,
): MeasuredDifference & { readonly pictures: readonly [Picture, Picture] } {
  const [first, last] = [draw(before), draw(after)];
  const difference = comparePictures(first, last);
  let left = MOST_MEASURED;
  const measure = (change: DocumentChange): number | null => {
    if (change.kind === 'words' || difference.mean === 0) return difference.mean === 0 ? 0 : null;
    if (left-- <= 0) return null;
    try {
      return 1 - comparePictures(first, draw(change.undo(after))).mean / difference.mean;
    } catch {
      return null;
    }
  };
  const measured = changes.map((change) => ({ change, share: measure(change) }));
  return {
    difference,
    changes: sortChanges(measured),
    sum: measured.reduce((sum, { share }) => sum + (share ?? 0), 0),
    pictures: [first, last],
  };
}

/** What accounts for most first. */
export function sortChanges(measured: readonly MeasuredChange[]): readonly MeasuredChange[] {
  const weight = ({ share }: MeasuredChange): number => (share === null ? -Infinity : share);
  return [...measured].sort(
    (a, b) => weight(b) - weight(a) || ORDER[a.change.kind] - ORDER[b.change.kind],
  );
}
