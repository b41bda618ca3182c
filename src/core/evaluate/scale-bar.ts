import { length, sub } from '../base/vector';
import type { Camera } from './camera';

/** A bar of a round length, as long as it is at the place the camera looks at. */
export interface ScaleBar {
  readonly metres: number;
  readonly pixels: number;
}

/**
 * The longest round length (1, 2 or 5 times a power of ten) that fits into a width.
 *
 * @param height of the picture, pixels
 * @param most width of the bar, pixels
 * @returns null where the camera stands in what it looks at
 */
export function scaleBar(
  { eye, target, fieldRad }: Camera,
  height: number,
  most: number,
): ScaleBar | null {
  const metresPerPixel = (2 * length(sub(target, eye)) * Math.tan(fieldRad / 2)) / height;
  const room = metresPerPixel * most;
  if (!(room > 0) || !Number.isFinite(room)) return null;
  const decade = 10 ** Math.floor(Math.log10(room));
  const factor = [5, 2, 1].find((each) => each * decade <= room * (1 + 1e-9)) ?? 1;
  const metres = factor * decade;
  return { metres, pixels: metres / metresPerPixel };
}
