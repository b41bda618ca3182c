import type { Vec3 } from '../base/vector';
import { dot, scale } from '../base/vector';
import { sampleSurface, shadePoint } from '../surface/shade';
import { displayColour } from '../surface/tone';
import type { ShadedScene } from '../surface/shade';
import { encodeSrgb } from '../surface/colour-science';
import type { VisiblePoints } from './camera';

/** RGBA pixels, rows from the top; the background is transparent. */
export interface Picture {
  readonly width: number;
  readonly height: number;
  readonly pixels: Uint8ClampedArray<ArrayBuffer>;
}

const blank = (seen: VisiblePoints): Picture => ({
  width: seen.width,
  height: seen.height,
  pixels: new Uint8ClampedArray(seen.width * seen.height * 4),
});

/**
 * A value shown flat: scalars as grey, vectors and colours as they are, data without the sRGB
 * curve. Not-a-number shows madder red.
 */
export function paintValues(
  seen: VisiblePoints,
  lanes: readonly Float32Array[],
  isColour: boolean,
): Picture {
  const picture = blank(seen);
  const byte = (value: number): number =>
    255 * (isColour ? encodeSrgb(Math.min(1, Math.max(0, value))) : value);
  seen.pixels.forEach((pixel, k) => {
    const values = [0, 1, 2].map((c) => (lanes[c] ?? lanes[0])?.[k] ?? 0);
    const bad = values.some((value) => Number.isNaN(value));
    values.forEach((value, c) => {
      picture.pixels[pixel * 4 + c] = bad ? ([170, 40, 50][c] as number) : byte(value);
    });
    picture.pixels[pixel * 4 + 3] = 255;
  });
  return picture;
}

/** Two neutral greys that take turns where nothing is known yet, sRGB bytes. */
export const UNKNOWN_GREYS = [104, 150] as const;
/** Stripes of a picture that shows nothing yet, across its diagonal. */
const STRIPES = 12;

/** Where something will be seen of which nothing is known yet: hatched. */
export function paintUnknown(seen: VisiblePoints): Picture {
  const picture = blank(seen);
  const width = Math.max(2, (seen.width + seen.height) / STRIPES);
  for (const pixel of seen.pixels) {
    const across = (pixel % seen.width) + Math.floor(pixel / seen.width);
    const grey = UNKNOWN_GREYS[Math.floor((2 * across) / width) % 2] ?? 0;
    picture.pixels.set([grey, grey, grey, 255], pixel * 4);
  }
  return picture;
}

/** A finished surface as a scene lights each of its points. `lanes` as SURFACE_LANES. */
export function paintSurface(
  seen: VisiblePoints,
  lanes: readonly Float32Array[],
  lighting: (point: number) => ShadedScene,
): Picture {
  const picture = blank(seen);
  const { pixels } = picture;
  for (let k = 0; k < seen.pixels.length; k++) {
    const first = (seen.pixels[k] as number) * 4;
    const view: Vec3 = [
      seen.views[k * 3] as number,
      seen.views[k * 3 + 1] as number,
      seen.views[k * 3 + 2] as number,
    ];
    const sampled = sampleSurface(lanes, k);
    const surface =
      dot(sampled.normal, view) < -0.2
        ? { ...sampled, normal: scale(sampled.normal, -1) }
        : sampled;
    const shown = displayColour(shadePoint(surface, view, lighting(k)), surface.unlit);
    pixels[first] = shown[0];
    pixels[first + 1] = shown[1];
    pixels[first + 2] = shown[2];
    pixels[first + 3] = 255 * Math.min(1, Math.max(0, surface.opacity));
  }
  return picture;
}

/** Halves a picture, averaging with coverage: anti-aliasing for pictures made at twice the size. */
export function halve(picture: Picture): Picture {
  const width = picture.width >> 1,
    height = picture.height >> 1;
  const pixels = new Uint8ClampedArray(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      averageFour(picture, (y * 2 * picture.width + x * 2) * 4, pixels, (y * width + x) * 4);
  return { width, height, pixels };
}
/** Averages a pixel, the one beside it and the two below. */
function averageFour(
  { width, pixels }: Picture,
  from: number,
  into: Uint8ClampedArray,
  at: number,
): void {
  const [a, b, c, d] = [from, from + 4, from + width * 4, from + width * 4 + 4] as const;
  const [wa, wb, wc, wd] = [
    pixels[a + 3] as number,
    pixels[b + 3] as number,
    pixels[c + 3] as number,
    pixels[d + 3] as number,
  ] as const;
  const alpha = wa + wb + wc + wd;
  if (alpha === 0) return;
  for (let channel = 0; channel < 3; channel++)
    into[at + channel] =
      ((pixels[a + channel] as number) * wa +
        (pixels[b + channel] as number) * wb +
        (pixels[c + channel] as number) * wc +
        (pixels[d + channel] as number) * wd) /
      alpha;
  into[at + 3] = alpha / 4;
}
