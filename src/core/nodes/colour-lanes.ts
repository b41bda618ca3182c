import type { Builder } from '../ir/builder';
import { pow } from '../ir/library/transcendental';
import type { Bool, F32, Lanes3 } from '../ir/types';
import { luminance, map3 } from './lanes';

/** The largest of three lanes. */
export const largestOf = (b: Builder, [r, g, bl]: Lanes3): F32 => b.max(b.max(r, g), bl);
/** The smallest of three lanes. */
export const smallestOf = (b: Builder, [r, g, bl]: Lanes3): F32 => b.min(b.min(r, g), bl);

/**
 * Place on the hexagonal colour wheel in sixths of a turn, 0 to 6 from red by green and blue; and
 * whether there is none (grey).
 */
export function hueOf(
  b: Builder,
  [r, g, bl]: Lanes3,
): { readonly sixths: F32; readonly isGrey: Bool; readonly chroma: F32; readonly largest: F32 } {
  const largest = largestOf(b, [r, g, bl]);
  const chroma = b.sub(largest, smallestOf(b, [r, g, bl]));
  const isGrey = b.le(chroma, b.f(0));
  const divisor = b.select(isGrey, b.f(1), chroma);
  const sector = (x: F32, y: F32, base: number): F32 =>
    b.add(b.div(b.sub(x, y), divisor), b.f(base));
  const sixths = b.select(
    b.eq(largest, r),
    sector(g, bl, 6),
    b.select(b.eq(largest, g), sector(bl, r, 2), sector(r, g, 4)),
  );
  return { sixths, isGrey, chroma, largest };
}

/**
 * A colour turned round the hexagonal wheel by degrees; largest and smallest channel stay. At 0 it
 * is untouched.
 */
export function turnHue(b: Builder, colour: Lanes3, degrees: F32): Lanes3 {
  const { sixths, chroma, largest } = hueOf(b, colour);
  const turned = b.add(sixths, b.div(degrees, b.f(60)));
  // Each channel is a trapezoid of the angle around the wheel of six sectors.
  const channel = (shift: number): F32 => {
    const at = b.add(turned, b.f(shift));
    const wrapped = b.sub(at, b.mul(b.f(6), b.floor(b.div(at, b.f(6)))));
    return b.sub(largest, b.mul(chroma, b.saturate(b.min(wrapped, b.sub(b.f(4), wrapped)))));
  };
  const still = b.eq(degrees, b.f(0));
  return [
    b.select(still, colour[0], channel(5)),
    b.select(still, colour[1], channel(3)),
    b.select(still, colour[2], channel(1)),
  ];
}

/** Away from a grey by a factor; at 1 untouched. */
export function saturateFrom(b: Builder, colour: Lanes3, grey: F32, amount: F32): Lanes3 {
  const still = b.eq(amount, b.f(1));
  return map3(colour, (lane) =>
    b.select(still, lane, b.add(grey, b.mul(b.sub(lane, grey), amount))),
  );
}

/** Matrices of Oklab. Source: B. Ottosson, 2020 (public domain). */
export const OKLAB = {
  toCone: [
    [0.4122214708, 0.5363325363, 0.0514459929],
    [0.2119034982, 0.6806995451, 0.1073969566],
    [0.0883024619, 0.2817188376, 0.6299787005],
  ],
  toLab: [
    [0.2104542553, 0.793617785, -0.0040720468],
    [1.9779984951, -2.428592205, 0.4505937099],
    [0.0259040371, 0.7827717662, -0.808675766],
  ],
  fromLab: [
    [1, 0.3963377774, 0.2158037573],
    [1, -0.1055613458, -0.0638541728],
    [1, -0.0894841775, -1.291485548],
  ],
  fromCone: [
    [4.0767416621, -3.3077115913, 0.2309699292],
    [-1.2684380046, 2.6097574011, -0.3413193965],
    [-0.0041960863, -0.7034186147, 1.707614701],
  ],
} as const;
type Matrix = readonly (readonly [number, number, number])[];
const times = (b: Builder, matrix: Matrix, v: Lanes3): Lanes3 =>
  matrix.map((row) => b.dot(row.map((x) => b.f(x)) as unknown as Lanes3, v)) as unknown as Lanes3;

/**
 * Linear Rec. 709 to Oklab (lightness, green–red, blue–yellow); channels below 0 count as 0.
 * Source: B. Ottosson, 2020 (public domain).
 */
export function toOklab(b: Builder, colour: Lanes3): Lanes3 {
  const cone = times(
    b,
    OKLAB.toCone,
    map3(colour, (lane) => b.max(lane, b.f(0))),
  );
  return times(
    b,
    OKLAB.toLab,
    map3(cone, (lane) => pow(b, lane, b.f(1 / 3))),
  );
}

/** Oklab to linear Rec. 709; channels outside the gamut come out below 0 or above 1. */
export function fromOklab(b: Builder, lab: Lanes3): Lanes3 {
  const root = times(b, OKLAB.fromLab, lab);
  return times(
    b,
    OKLAB.fromCone,
    map3(root, (lane) => b.mul(b.mul(lane, lane), lane)),
  );
}

/**
 * sRGB to linear light and back, per channel; the straight piece goes on below 0. Source: IEC
 * 61966-2-1:1999.
 */
export function decodeSrgbLane(b: Builder, x: F32): F32 {
  return b.select(
    b.le(x, b.f(0.04045)),
    b.mul(x, b.f(1 / 12.92)),
    pow(b, b.mul(b.add(x, b.f(0.055)), b.f(1 / 1.055)), b.f(2.4)),
  );
}
/** Linear light to sRGB in lanes, 0 to 1. Source: IEC 61966-2-1:1999. */
export function encodeSrgbLane(b: Builder, x: F32): F32 {
  return b.select(
    b.le(x, b.f(0.0031308)),
    b.mul(x, b.f(12.92)),
    b.sub(b.mul(pow(b, x, b.f(1 / 2.4)), b.f(1.055)), b.f(0.055)),
  );
}

/**
 * A colour with the luminance given; what leaves 0 to `most` is drawn towards grey. Source: W3C
 * Compositing and Blending, 10.2 (with Rec. 709 luminance).
 */
export function withLuminance(b: Builder, colour: Lanes3, target: F32, most: F32): Lanes3 {
  const shift = b.sub(target, luminance(b, colour));
  const moved = map3(colour, (lane) => b.add(lane, shift));
  const grey = luminance(b, moved);
  const [low, high] = [smallestOf(b, moved), largestOf(b, moved)];
  const [below, above] = [b.lt(low, b.f(0)), b.lt(most, high)];
  const towards = (lane: F32, room: F32, span: F32): F32 =>
    b.add(grey, b.div(b.mul(b.sub(lane, grey), room), span));
  const safe = (span: F32, used: Bool): F32 =>
    b.select(b.and(used, b.lt(b.f(0), span)), span, b.f(1));
  const [downwards, upwards] = [safe(b.sub(grey, low), below), safe(b.sub(high, grey), above)];
  return map3(moved, (lane) => {
    const lifted = b.select(below, towards(lane, grey, downwards), lane);
    return b.select(above, towards(lifted, b.sub(most, grey), upwards), lifted);
  });
}

/**
 * A colour with its channels spread from 0 to the saturation given; greys become black. Source: W3C
 * Compositing and Blending, 10.2.
 */
export function withSaturation(b: Builder, colour: Lanes3, saturation: F32): Lanes3 {
  const low = smallestOf(b, colour);
  const span = b.sub(largestOf(b, colour), low);
  const isGrey = b.le(span, b.f(0));
  const factor = b.select(isGrey, b.f(0), b.div(saturation, b.select(isGrey, b.f(1), span)));
  return map3(colour, (lane) => b.mul(b.sub(lane, low), factor));
}
