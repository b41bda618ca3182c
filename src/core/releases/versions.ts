/** What a release means for those who use the one before. */
export const RELEASE_CLASSES = ['first', 'same', 'compatible', 'breaking'] as const;
/** One of `RELEASE_CLASSES`. */
export type ReleaseClass = (typeof RELEASE_CLASSES)[number];

const numbersOf = (version: string): readonly number[] => version.split('.').map(Number);

/** Compares versions of three numbers: below 0 where `a` is the older. */
export function compareVersions(a: string, b: string): number {
  const [x, y] = [numbersOf(a), numbersOf(b)];
  for (let k = 0; k < 3; k++) if (x[k] !== y[k]) return (x[k] ?? 0) - (y[k] ?? 0);
  return 0;
}

/** The newest of some versions; null of none. */
export const newestOf = (versions: readonly string[]): string | null =>
  [...versions].sort(compareVersions).at(-1) ?? null;

/**
 * The version that a class asks for after `before`: the last number for *same*, the second for
 * *compatible*, the first for *breaking*. One that is taken already is passed over.
 */
export function nextVersion(
  before: string | null,
  releaseClass: ReleaseClass,
  taken: readonly string[] = [],
): string {
  if (before === null) return '1.0.0';
  const [major = 0, minor = 0, patch = 0] = numbersOf(before);
  const step = (by: number): string =>
    releaseClass === 'breaking'
      ? `${String(major + by)}.0.0`
      : releaseClass === 'compatible'
        ? `${String(major)}.${String(minor + by)}.0`
        : `${String(major)}.${String(minor)}.${String(patch + by)}`;
  for (let by = 1; ; by++) if (!taken.includes(step(by))) return step(by);
}
