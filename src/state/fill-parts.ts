import type { ValueKind } from '../core/graph/document';
import type { FillResult } from '../core/evaluate/fill';

/**
 * Values of points in their order, as the workers that shared them out gave them: `share` points
 * each, the last the rest.
 */
export interface FillParts {
  readonly kind: ValueKind;
  readonly count: number;
  readonly share: number;
  readonly parts: readonly FillResult[];
}

export const buffersOfFill = ({ parts }: FillParts): ArrayBuffer[] =>
  parts.flatMap(({ lanes }) => lanes.map(({ buffer }) => buffer));

/** The lanes of all workers one after the other; a lane that none gave stays empty. */
export function joinFill({ kind, count, share, parts }: FillParts): FillResult {
  const [first] = parts;
  if (!first) throw new Error('Invariant broken: no worker');
  const isKnown = parts.every((part) => part.isKnown);
  if (parts.length === 1) return { kind, isKnown, lanes: first.lanes };
  const lanes = first.lanes.map((_, lane) => {
    const isGiven = parts.some((part) => (part.lanes[lane]?.length ?? 0) > 0);
    const whole = new Float32Array(isGiven ? count : 0);
    parts.forEach((part, k) => {
      const piece = part.lanes[lane];
      if (piece && isGiven) whole.set(piece, k * share);
    });
    return whole;
  });
  return { kind, isKnown, lanes };
}
