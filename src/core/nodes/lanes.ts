import type { Builder } from '../ir/builder';
import type { F32, I32, Lanes3 } from '../ir/types';
import type { FlexLanes, ModelReads } from './define';
import { input, option } from './define';
import { mixBits } from '../ir/library/hash';
import { cos, sin } from '../ir/library/transcendental';

/** A function applied to each of three lanes. */
export const map3 = (lanes: Lanes3, f: (lane: F32, axis: number) => F32): Lanes3 => [
  f(lanes[0], 0),
  f(lanes[1], 1),
  f(lanes[2], 2),
];
/** A function applied to each pair of lanes. */
export const zip3 = (a: Lanes3, b: Lanes3, f: (x: F32, y: F32) => F32): Lanes3 => [
  f(a[0], b[0]),
  f(a[1], b[1]),
  f(a[2], b[2]),
];
/** Three constants; one stands for all three. */
export const constant3 = (b: Builder, x: number, y = x, z = x): Lanes3 => [b.f(x), b.f(y), b.f(z)];

/**
 * Applies a function lane by lane to inputs of one or three lanes; a single lane counts for all.
 */
export function eachLane(
  inputs: readonly FlexLanes[],
  f: (lanes: readonly F32[]) => F32,
): FlexLanes {
  const width = Math.max(...inputs.map((lanes) => lanes.length));
  return Array.from({ length: width }, (_, k) =>
    f(inputs.map((lanes) => (lanes.length === 1 ? lanes[0] : lanes[k]) as F32)),
  );
}

/** Unit vector; the fallback where the vector has no length. */
export function normalise(b: Builder, v: Lanes3, fallback: Lanes3): Lanes3 {
  const squared = b.dot(v, v);
  const good = b.lt(b.f(1e-20), squared);
  const inverse = b.div(b.f(1), b.sqrt(b.select(good, squared, b.f(1))));
  return map3(v, (lane, axis) => b.select(good, b.mul(lane, inverse), fallback[axis] as F32));
}

/** Luminance of linear Rec. 709. */
export const luminance = (b: Builder, c: Lanes3): F32 =>
  b.dot(c, constant3(b, 0.2126, 0.7152, 0.0722));

/** x ≥ edge as 0 or 1. */
export const stepAt = (b: Builder, x: F32, edge: F32): F32 =>
  b.select(b.le(edge, x), b.f(1), b.f(0));

/** (x − from)/(to − from); where the ends are equal, the step at them. */
export function position01(b: Builder, x: F32, from: F32, to: F32): F32 {
  const width = b.sub(to, from);
  const flat = b.eq(width, b.f(0));
  return b.select(flat, stepAt(b, x, from), b.div(b.sub(x, from), b.select(flat, b.f(1), width)));
}

/** t²(3 − 2t) */
export const smooth = (b: Builder, t: F32): F32 =>
  b.mul(b.mul(t, t), b.sub(b.f(3), b.mul(t, b.f(2))));

/** Inputs and option shared by every pattern. */
export const PATTERN_INPUTS = {
  at: input.vector({
    title: 'Coordinates',
    help: 'Where the pattern is read; unwired, the position on the object.',
    default: 'position',
    soft: [-1, 1],
  }),
  scale: input.scalar({
    title: 'Scale',
    help: 'How many features fit across the object.',
    default: 8,
    soft: [0.5, 64],
    hard: [0, 100000],
    step: 0.1,
    low: 'a few large features',
    high: 'fine grain',
    unit: 'features across the object',
  }),
  seed: input.seed('Another pattern of the same kind; whole numbers.'),
};
/** The option of patterns for what their scale counts across. */
export const perOption = option('Per', 'What the scale counts across.', {
  object: ['Object', 'Features across the object, whatever its size.'],
  unit: [
    'Coordinate unit',
    'Features per metre, or per unit of the coordinates that are wired in.',
  ],
});

/** Coordinates in units of features. */
export function patternCoordinates(
  b: Builder,
  at: Lanes3,
  scale: F32,
  per: 'object' | 'unit',
  model: ModelReads,
): Lanes3 {
  const factor = per === 'object' ? b.div(scale, b.max(model.size, b.f(1e-12))) : scale;
  return map3(at, (lane) => b.mul(lane, factor));
}

/** x / y; 0 where y is 0. */
export function divide(b: Builder, x: F32, y: F32): F32 {
  const zero = b.eq(y, b.f(0));
  return b.select(zero, b.f(0), b.div(x, b.select(zero, b.f(1), y)));
}

/** The smaller of two, rounded over a width: min(x, y) − max(w − |x − y|, 0)²/(4w). */
export function smoothMinimum(b: Builder, x: F32, y: F32, width: F32): F32 {
  const w = b.max(width, b.f(1e-6));
  const h = b.div(b.max(b.sub(w, b.abs(b.sub(x, y))), b.f(0)), w);
  return b.sub(b.min(x, y), b.mul(b.mul(b.mul(h, h), w), b.f(0.25)));
}

/** x − floor(x), 0 up to 1. */
export const fraction = (b: Builder, x: F32): F32 => b.sub(x, b.floor(x));

/** The cross product in lanes, right-handed. */
export const cross = (b: Builder, u: Lanes3, v: Lanes3): Lanes3 => [
  b.sub(b.mul(u[1], v[2]), b.mul(u[2], v[1])),
  b.sub(b.mul(u[2], v[0]), b.mul(u[0], v[2])),
  b.sub(b.mul(u[0], v[1]), b.mul(u[1], v[0])),
];

const RADIANS = Math.PI / 180;
/** A vector turned about a unit axis. Source: O. Rodrigues, 1840. */
export function turnAbout(b: Builder, v: Lanes3, axis: Lanes3, degrees: F32): Lanes3 {
  const angle = b.mul(degrees, b.f(RADIANS));
  const [s, c] = [sin(b, angle), cos(b, angle)];
  const along = b.mul(b.dot(axis, v), b.sub(b.f(1), c));
  const aside = cross(b, axis, v);
  return map3(v, (lane, k) =>
    b.add(b.add(b.mul(lane, c), b.mul(aside[k as 0], s)), b.mul(axis[k as 0], along)),
  );
}

/** A vector turned about the fixed axes, by degrees about each, in the order given. */
export function turnInOrder(
  b: Builder,
  v: Lanes3,
  degrees: Lanes3,
  order: readonly (0 | 1 | 2)[] = [0, 1, 2],
): Lanes3 {
  let turned = v;
  for (const axis of order) {
    const angle = b.mul(degrees[axis], b.f(RADIANS));
    const [s, c] = [sin(b, angle), cos(b, angle)];
    const [i, j] = [((axis + 1) % 3) as 0 | 1 | 2, ((axis + 2) % 3) as 0 | 1 | 2];
    const next: [F32, F32, F32] = [...turned];
    next[i] = b.sub(b.mul(turned[i], c), b.mul(turned[j], s));
    next[j] = b.add(b.mul(turned[i], s), b.mul(turned[j], c));
    turned = next;
  }
  return turned;
}

/** A random number from 0 up to 1, from the upper 24 bits of a word. */
export const chance = (b: Builder, bits: I32): F32 =>
  b.mul(b.toFloat(b.ishrUnsigned(bits, 8)), b.f(1 / 16777216));
/** Another word of the same cell, for another random number. */
export const reseed = (b: Builder, bits: I32, salt: number): I32 =>
  mixBits(b, b.ixor(bits, b.i(salt)));

/** Two of three coordinates, for flat patterns. */
export const planeOption = option('Plane', 'In which plane the pattern lies.', {
  xy: ['X and Y', 'Seen from the front; with texture coordinates wired in, their plane.'],
  xz: ['X and Z', 'Seen from above.'],
  zy: ['Z and Y', 'Seen from the side.'],
});
/** The two coordinates of a place in a plane of the axes. */
export function inPlane(at: Lanes3, plane: 'xy' | 'xz' | 'zy'): readonly [F32, F32] {
  return plane === 'xy' ? [at[0], at[1]] : plane === 'xz' ? [at[0], at[2]] : [at[2], at[1]];
}
