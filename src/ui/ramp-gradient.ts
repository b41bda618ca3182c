import { rampColour } from '@/core/compile/ramp-rows';
import type { RampValue } from '@/core/graph/document';
import type { RampModes } from '@/core/nodes/ramp-table';
import { toHex } from '@/core/surface/colour-science';

const SAMPLES = 120;

/**
 * A CSS gradient through many colours of a ramp, so that holds, splines and perceptual blending
 * look as they will.
 * @param placeAt which place of the ramp stands at a share of the width, 0–1
 */
export function rampGradient(
  ramp: RampValue,
  modes: RampModes,
  placeAt: (share: number) => number = (share) => share,
): string {
  const parts = Array.from({ length: SAMPLES + 1 }, (_, k) => {
    const colour = toHex(rampColour(ramp, modes, placeAt(k / SAMPLES)));
    return `${colour} ${((k / SAMPLES) * 100).toFixed(2)}%`;
  });
  return `linear-gradient(90deg, ${parts.join(', ')})`;
}
