import type { TapResult } from '../core/evaluate/tap-results';
import type { StageLook } from './stores';

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

/** The values that stand for the ends of a way of looking: of a sign, the same on either side. */
export function rangeOfLook(
  look: StageLook,
  tap: Pick<TapResult, 'kind' | 'statistics'> | undefined,
): readonly [number, number] {
  if (look === 'signed') {
    const { minimum = -1, maximum = 1 } = tap?.statistics ?? {};
    const full = Math.max(Math.abs(minimum), Math.abs(maximum));
    return Number.isFinite(full) && full > 0 ? [-full, full] : [-1, 1];
  }
  const stretch = getStretch(tap);
  return stretch === null || stretch === 'constant' ? [0, 1] : stretch;
}
