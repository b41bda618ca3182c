import type { Vec3 } from '../base/vector';
import { dot, scale } from '../base/vector';
import { displayColour, sampleSurface, shadePoint } from '../surface/shade';
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

/** A finished surface as a scene lights each of its points. `lanes` as SURFACE_LANES. */
export function paintSurface(
  seen: VisiblePoints,
  lanes: readonly Float32Array[],
  lighting: (point: number) => ShadedScene,
): Picture {
  const picture = blank(seen);
  seen.pixels.forEach((pixel, k) => {
    const view: Vec3 = [
      seen.views[k * 3] as number,
      seen.views[k * 3 + 1] as number,
      seen.views[k * 3 + 2] as number,
    ];
    const surface = sampleSurface(lanes, k);
    const facing = dot(surface.normal, view) < -0.2 ? scale(surface.normal, -1) : surface.normal;
    const colour = shadePoint({ ...surface, normal: facing }, view, lighting(k));
    displayColour(colour, surface.unlit).forEach((channel, c) => {
      picture.pixels[pixel * 4 + c] = channel;
    });
    picture.pixels[pixel * 4 + 3] = 255 * Math.min(1, Math.max(0, surface.opacity));
  });
  return picture;
}

/** Halves a picture, averaging with coverage: anti-aliasing for pictures made at twice the size. */
export function halve(picture: Picture): Picture {
  const width = picture.width >> 1,
    height = picture.height >> 1;
  const pixels = new Uint8ClampedArray(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const sources = [0, 1, picture.width, picture.width + 1].map(
        (step) => (y * 2 * picture.width + x * 2 + step) * 4,
      );
      const alpha = sources.reduce((sum, at) => sum + (picture.pixels[at + 3] as number), 0);
      for (let c = 0; c < 3; c++) {
        const weighted = sources.reduce(
          (sum, at) =>
            sum + (picture.pixels[at + c] as number) * (picture.pixels[at + 3] as number),
          0,
        );
        pixels[(y * width + x) * 4 + c] = alpha > 0 ? weighted / alpha : 0;
      }
      pixels[(y * width + x) * 4 + 3] = alpha / 4;
    }
  return { width, height, pixels };
}
