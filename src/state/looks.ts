import type { TapResult } from '../core/evaluate/tap-results';

/**
 * The values that become black and white where a pinned value is exaggerated; null where it is none
 * that can be.
 */
export function getStretch(
  tap: Pick<TapResult, 'kind' | 'statistics'> | undefined,
): readonly [number, number] | 'constant' | null {
  if (!tap?.statistics || tap.kind === 'surface') return null;
  const { minimum, maximum, constant } = tap.statistics;
  if (constant || !(maximum > minimum)) return 'constant';
  return [minimum, maximum];
}
