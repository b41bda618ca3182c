import type { Influence } from './influence';
import type { Picture } from './picture';

/** Bytes of the colour a region is drawn in. */
const TINT = [245, 217, 66] as const;
/** Every so many pixels across the diagonal, a hatch line. */
const HATCH = 4;
const [FAINTEST, STRONGEST, HATCHED] = [50, 200, 150] as const;

/**
 * A region as a picture to lay over what is shown: the stronger a value changes a place just now,
 * the more it is tinted; hatched where only other settings change it.
 */
export function drawInfluence({ width, height, strength, reach, largest }: Influence): Picture {
  const pixels = new Uint8ClampedArray(width * height * 4);
  for (let pixel = 0; pixel < width * height; pixel++) {
    const slope = strength[pixel] ?? 0;
    const isHatched =
      reach[pixel] === 1 &&
      (pixel % width) % HATCH === (HATCH - (Math.floor(pixel / width) % HATCH)) % HATCH;
    const alpha =
      slope > 0
        ? FAINTEST + (STRONGEST - FAINTEST) * Math.sqrt(slope / largest)
        : isHatched
          ? HATCHED
          : 0;
    pixels.set([...TINT, alpha], pixel * 4);
  }
  return { width, height, pixels };
}

/** The shares of the visible surface that a value changes just now, and at any setting. */
export function influenceShares({ strength, reach }: Influence): {
  readonly now: number;
  readonly ever: number;
} {
  let [seen, now, ever] = [0, 0, 0];
  strength.forEach((slope, pixel) => {
    if (Number.isNaN(slope)) return;
    seen++;
    if (slope > 0) now++;
    if (reach[pixel] === 1) ever++;
  });
  return seen > 0 ? { now: now / seen, ever: ever / seen } : { now: 0, ever: 0 };
}
