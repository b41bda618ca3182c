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
 * New results by their keys; those that show nothing new stay the objects they were, so that their
 * cards are not drawn again.
 */
export function reconcileTaps(
  before: ReadonlyMap<string, TapResult>,
  results: readonly TapResult[],
): ReadonlyMap<string, TapResult> {
  const kept = results.map((result) => {
    const known = before.get(result.key);
    return known && isSame(known, result) ? known : result;
  });
  return kept.length === before.size && kept.every((result) => before.get(result.key) === result)
    ? before
    : new Map(kept.map((result) => [result.key, result]));
}
