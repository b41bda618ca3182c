import type { Builder } from '../ir/builder';
import { log2 } from '../ir/library/transcendental';
import type { F32, I32, Lanes3 } from '../ir/types';
import type { ModelReads } from './define';
import { option } from './define';
import { slopeAlongSurface } from './edges';
import type { ImageTable } from './image-table';

/** What lies outside an image. */
export type Wrap = 'repeat' | 'mirror' | 'hold' | 'once';
/** Red, green, blue and alpha. */
export type Texel = readonly [F32, F32, F32, F32];

/** The option of image nodes for what lies outside. */
export const wrapOption = option('Beyond the edge', 'What lies outside the image.', {
  repeat: ['Repeats', 'The image begins again.'],
  mirror: ['Mirrors', 'Every other one is turned over.'],
  hold: ['Holds', 'The edge goes on.'],
  once: ['Nothing', 'Clear: alpha 0, no colour.'],
});
/** The option of image nodes for values between texels. */
export const filterOption = option('Between texels', 'How values between texels are found.', {
  smooth: [
    'Smooth',
    'Mixed from the four around, and from reduced sizes where the image is small.',
  ],
  texel: ['Texel by texel', 'The nearest one, at full size.'],
});
/** The option of image nodes for what whole numbers mean. */
export const readingOption = option(
  'Read as',
  'Whether whole numbers went through the sRGB curve. Images with float numbers are linear ' +
    'either way.',
  {
    automatic: [
      'Automatic',
      'As a colour where its colour ends in a colour, as data where it ends in numbers, ' +
        'vectors or a normal map.',
    ],
    colour: ['Colour', 'Through the sRGB curve, into linear light.'],
    data: ['Data', 'Numbers as they are stored.'],
  },
);

/**
 * Which size to read, 0 the full one: log₂ of how many texels a sample stands for. Null: the full
 * one.
 */
export function imageLevel(
  b: Builder,
  image: ImageTable,
  u: F32,
  v: F32,
  model: ModelReads,
): F32 | null {
  const footprint = model.footprint('images');
  if (!footprint) return null;
  const across = b.mul(slopeAlongSurface(b, u, model), image.width),
    down = b.mul(slopeAlongSurface(b, v, model), image.height);
  const texels = b.mul(footprint, b.max(across, down));
  // In this order what is no number counts as the full size.
  return b.min(b.max(b.f(0), log2(b, b.max(b.f(1e-6), texels))), image.lastLevel);
}

/** A place along one side, in whole texels, brought into 0 … count − 1. */
function wrapped(b: Builder, at: F32, count: F32, wrap: Wrap): F32 {
  const last = b.sub(count, b.f(1));
  let place = at;
  if (wrap === 'repeat') place = b.sub(at, b.mul(count, b.floor(b.div(at, count))));
  if (wrap === 'mirror') {
    const twice = b.mul(count, b.f(2));
    const turn = b.sub(at, b.mul(twice, b.floor(b.div(at, twice))));
    place = b.min(turn, b.sub(b.sub(twice, b.f(1)), turn));
  }
  // Also where rounding, or a place that is no number, would leave the sheet.
  return b.min(b.max(b.f(0), place), last);
}

/** Where a size stands in the sheet, and its sides, all in texels. */
function sizeAt(
  b: Builder,
  image: ImageTable,
  level: F32 | null,
): { readonly width: F32; readonly height: F32; readonly x: F32; readonly y: F32 } {
  if (!level) return { width: image.width, height: image.height, x: b.f(0), y: b.f(0) };
  // 2^−level out of the bits of its exponent.
  const share = b.bitsToFloat(b.ishl(b.isub(b.i(127), b.toInt(level)), 23));
  const isFull = b.lt(level, b.f(0.5));
  const side = (full: F32): F32 => b.max(b.floor(b.mul(full, share)), b.f(1));
  return {
    width: side(image.width),
    height: side(image.height),
    x: b.select(isFull, b.f(0), image.width),
    y: b.select(isFull, b.f(0), b.sub(image.rows, b.mul(b.mul(image.rows, b.f(2)), share))),
  };
}

function texelAt(b: Builder, image: ImageTable, column: I32, row: I32): Texel {
  return [0, 1, 2, 3].map((channel) =>
    b.texel(image.slot, channel, column, row),
  ) as unknown as Texel;
}

/** One size of an image at (u, v), from the four texels around. */
function bilinear(
  b: Builder,
  image: ImageTable,
  u: F32,
  v: F32,
  level: F32 | null,
  wrap: Wrap,
): Texel {
  const size = sizeAt(b, image, level);
  const along = (
    t: F32,
    count: F32,
    offset: F32,
  ): { readonly share: F32; readonly low: I32; readonly high: I32 } => {
    const place = b.sub(b.mul(t, count), b.f(0.5));
    const low = b.floor(place);
    const texel = (at: F32): I32 => b.toInt(b.add(wrapped(b, at, count, wrap), offset));
    // Infinite coordinates have no share; they count as the texel itself.
    return {
      share: b.min(b.max(b.f(0), b.sub(place, low)), b.f(1)),
      low: texel(low),
      high: texel(b.add(low, b.f(1))),
    };
  };
  const x = along(u, size.width, size.x),
    y = along(v, size.height, size.y);
  const [a, c, d, e] = [
    texelAt(b, image, x.low, y.low),
    texelAt(b, image, x.high, y.low),
    texelAt(b, image, x.low, y.high),
    texelAt(b, image, x.high, y.high),
  ];
  return [0, 1, 2, 3].map((k) =>
    b.mix(b.mix(a[k as 0], c[k as 0], x.share), b.mix(d[k as 0], e[k as 0], x.share), y.share),
  ) as unknown as Texel;
}

/**
 * An image at (u, v), u to the right, v down, 0–1 over the image: smooth between texels and,
 * given a level, between reduced sizes. Its derivatives are those of the interpolation. Sources: L.
 * Williams, Pyramidal Parametrics, SIGGRAPH 1983; glTF 2.0 samplers.
 */
export function sampleImage(
  b: Builder,
  image: ImageTable,
  u: F32,
  v: F32,
  level: F32 | null,
  modes: { readonly wrap: Wrap; readonly filter: 'smooth' | 'texel' },
): Texel {
  const read =
    modes.filter === 'texel'
      ? nearest(b, image, u, v, modes.wrap)
      : level
        ? trilinear(b, image, u, v, level, modes.wrap)
        : bilinear(b, image, u, v, null, modes.wrap);
  if (modes.wrap !== 'once') return read;
  const inside = b.and(
    b.and(b.le(b.f(0), u), b.lt(u, b.f(1))),
    b.and(b.le(b.f(0), v), b.lt(v, b.f(1))),
  );
  return read.map((lane) => b.select(inside, lane, b.f(0))) as unknown as Texel;
}

function nearest(b: Builder, image: ImageTable, u: F32, v: F32, wrap: Wrap): Texel {
  const at = (t: F32, count: F32): I32 =>
    b.toInt(wrapped(b, b.floor(b.mul(t, count)), count, wrap));
  return texelAt(b, image, at(u, image.width), at(v, image.height));
}

function trilinear(b: Builder, image: ImageTable, u: F32, v: F32, level: F32, wrap: Wrap): Texel {
  const low = b.floor(level);
  const share = b.sub(level, low);
  const fine = bilinear(b, image, u, v, low, wrap);
  // Where every sample is magnified there is nothing to mix in.
  const rounds = b.countIfAny(b.lt(b.f(0), share), 1);
  return b.loop(rounds, fine, (_, carried) => {
    const coarse = bilinear(b, image, u, v, b.min(b.add(low, b.f(1)), image.lastLevel), wrap);
    return carried.map((lane, k) => b.mix(lane as F32, coarse[k as 0], share));
  }) as unknown as Texel;
}

/** Texture coordinates scaled about the origin and shifted. */
export function placedAt(b: Builder, at: Lanes3, repeat: F32, offset: Lanes3): readonly [F32, F32] {
  return [b.add(b.mul(at[0], repeat), offset[0]), b.add(b.mul(at[1], repeat), offset[1])];
}
