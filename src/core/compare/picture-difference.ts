import type { Picture } from '../evaluate/picture';
import { decodeSrgb, toOklabColour } from '../surface/colour-science';

/** How far two pictures of equal size are apart; steps of 1/255, over the pixels either covers. */
export interface PictureDifference {
  /** The mean over pixels of the largest difference of a channel, 0–1. */
  readonly mean: number;
  /** The largest difference of any channel, 0–1. */
  readonly largest: number;
  /** The share of pixels that differ by more than one step in any channel. */
  readonly share: number;
}

/** Of one pixel: the largest difference of a channel, 0–255; -1 where neither covers it. */
function pixelDifference(a: Picture, b: Picture, k: number): number {
  if (a.pixels[k + 3] === 0 && b.pixels[k + 3] === 0) return -1;
  let most = 0;
  for (let c = 0; c < 4; c++)
    most = Math.max(most, Math.abs((a.pixels[k + c] ?? 0) - (b.pixels[k + c] ?? 0)));
  return most;
}

/** How far two pictures of equal size are apart. */
export function comparePictures(a: Picture, b: Picture): PictureDifference {
  let [covered, differ, sum, largest] = [0, 0, 0, 0];
  for (let k = 0; k < a.pixels.length; k += 4) {
    const most = pixelDifference(a, b, k);
    if (most < 0) continue;
    covered++;
    sum += most;
    largest = Math.max(largest, most);
    if (most > 1) differ++;
  }
  const pixels = Math.max(1, covered);
  return { mean: sum / pixels / 255, largest: largest / 255, share: differ / pixels };
}

/**
 * Where two pictures of equal size differ, as a grey picture: mid-grey where they are the same,
 * lighter where the second is lighter, exaggerated so many times; clear where neither covers.
 */
export function differencePicture(a: Picture, b: Picture, exaggerate: number): Picture {
  const pixels = new Uint8ClampedArray(a.pixels.length);
  for (let k = 0; k < a.pixels.length; k += 4) {
    if (pixelDifference(a, b, k) < 0) continue;
    for (let c = 0; c < 3; c++)
      pixels[k + c] = 128 + ((b.pixels[k + c] ?? 0) - (a.pixels[k + c] ?? 0)) * exaggerate * 0.5;
    pixels[k + 3] = 255;
  }
  return { width: a.width, height: a.height, pixels };
}

/** Behind what is not covered, sRGB 0–1: transparent pixels are compared as seen before it. */
const BEHIND = 0.5;

/** A pixel as perceived: lightness and two opponent axes of Oklab. */
function perceived({ pixels }: Picture, k: number): readonly [number, number, number] {
  const alpha = (pixels[k + 3] ?? 0) / 255;
  const linear = (c: number): number =>
    decodeSrgb(((pixels[k + c] ?? 0) / 255) * alpha + BEHIND * (1 - alpha));
  return toOklabColour([linear(0), linear(1), linear(2)]);
}

/**
 * How far two pictures of equal size are apart to the eye: the mean distance in Oklab over the
 * pixels either covers; 0.02 is just noticeable, black and white are 1 apart. Source: ΔEOK of CSS
 * Color Module Level 4, after B. Ottosson, A perceptual color space for image processing, 2020.
 */
export function perceptualDifference(a: Picture, b: Picture): number {
  let [covered, sum] = [0, 0];
  for (let k = 0; k < a.pixels.length; k += 4) {
    const most = pixelDifference(a, b, k);
    if (most < 0) continue;
    covered++;
    if (most === 0) continue;
    const [x, y] = [perceived(a, k), perceived(b, k)];
    sum += Math.hypot(x[0] - y[0], x[1] - y[1], x[2] - y[2]);
  }
  return sum / Math.max(1, covered);
}
