import type { TapResult } from '../core/evaluate/tap-results';

const alike = (a: ArrayLike<number> | null, b: ArrayLike<number> | null): boolean => {
  if (a === null || b === null) return a === b;
  if (a.length !== b.length) return false;
  for (let k = 0; k < a.length; k++) if (a[k] !== b[k]) return false;
  return true;
};

function isSame(a: TapResult, b: TapResult): boolean {
  return (
    a.kind === b.kind &&
    a.picture.width === b.picture.width &&
    a.picture.height === b.picture.height &&
    JSON.stringify(a.statistics) === JSON.stringify(b.statistics) &&
    alike(a.histogram, b.histogram) &&
    alike(a.picture.pixels, b.picture.pixels)
  );
}

/**
 * Results with new ones among them, by their keys; those that show nothing new stay the objects
 * they were, so that their cards are not drawn again.
 * @param wanted of what there is otherwise, nothing stays
 */
export function reconcileTaps(
  before: ReadonlyMap<string, TapResult>,
  results: readonly TapResult[],
  wanted: ReadonlySet<string>,
): ReadonlyMap<string, TapResult> {
  const changed = results.filter((result) => {
    const known = before.get(result.key);
    return !known || !isSame(known, result);
  });
  const isGone = [...before.keys()].some((key) => !wanted.has(key));
  if (changed.length === 0 && !isGone) return before;
  const kept = new Map([...before].filter(([key]) => wanted.has(key)));
  for (const result of changed) if (wanted.has(result.key)) kept.set(result.key, result);
  return kept;
}
