import type { Builder } from '../ir/builder';
import type { F32, Lanes3 } from '../ir/types';
import type { FlexLanes, ModelReads } from './define';
import { input, option } from './define';

export const map3 = (lanes: Lanes3, f: (lane: F32, axis: number) => F32): Lanes3 => [f(lanes[0], 0), f(lanes[1], 1), f(lanes[2], 2)];
export const zip3 = (a: Lanes3, b: Lanes3, f: (x: F32, y: F32) => F32): Lanes3 => [f(a[0], b[0]), f(a[1], b[1]), f(a[2], b[2])];
export const constant3 = (b: Builder, x: number, y = x, z = x): Lanes3 => [b.f(x), b.f(y), b.f(z)];

/** Applies a function lane by lane to inputs of one or three lanes; a single lane counts for all. */
export function eachLane(inputs: readonly FlexLanes[], f: (lanes: readonly F32[]) => F32): FlexLanes {
  const width = Math.max(...inputs.map((lanes) => lanes.length));
  return Array.from({ length: width }, (_, k) => f(inputs.map((lanes) => (lanes.length === 1 ? lanes[0] : lanes[k]) as F32)));
}

/** Unit vector; the fallback where the vector has no length. */
export function normalise(b: Builder, v: Lanes3, fallback: Lanes3): Lanes3 {
  const squared = b.dot(v, v);
  const good = b.lt(b.f(1e-20), squared);
  const inverse = b.div(b.f(1), b.sqrt(b.select(good, squared, b.f(1))));
  return map3(v, (lane, axis) => b.select(good, b.mul(lane, inverse), fallback[axis] as F32));
}

/** Luminance of linear Rec. 709. */
export const luminance = (b: Builder, c: Lanes3): F32 => b.dot(c, constant3(b, 0.2126, 0.7152, 0.0722));

/** x ≥ edge as 0 or 1. */
export const stepAt = (b: Builder, x: F32, edge: F32): F32 => b.select(b.le(edge, x), b.f(1), b.f(0));

/** (x − from)/(to − from); where the ends are equal, the step at them. */
export function position01(b: Builder, x: F32, from: F32, to: F32): F32 {
  const width = b.sub(to, from);
  const flat = b.eq(width, b.f(0));
  return b.select(flat, stepAt(b, x, from), b.div(b.sub(x, from), b.select(flat, b.f(1), width)));
}

/** t²(3 − 2t) */
export const smooth = (b: Builder, t: F32): F32 => b.mul(b.mul(t, t), b.sub(b.f(3), b.mul(t, b.f(2))));

/** Inputs and option shared by every pattern. */
export const PATTERN_INPUTS = {
  at: input.vector({ title: 'Coordinates', help: 'Where the pattern is read; unwired, the position on the object.', default: 'position', soft: [-1, 1] }),
  scale: input.scalar({
    title: 'Scale', help: 'How many features fit across the object.', default: 8, soft: [0.5, 64], hard: [0, 100000], step: 0.1,
    low: 'a few large features', high: 'fine grain', unit: 'features across the object',
  }),
  seed: input.scalar({ title: 'Seed', help: 'Another pattern of the same kind; whole numbers.', default: 0, soft: [0, 100], hard: [0, 1000000], step: 1 }),
};
export const perOption = option('Per', 'What the scale counts across.', {
  object: ['Object', 'Features across the object, whatever its size.'],
  unit: ['Coordinate unit', 'Features per metre, or per unit of the coordinates that are wired in.'],
});

/** Coordinates in units of features. */
export function patternCoordinates(b: Builder, at: Lanes3, scale: F32, per: 'object' | 'unit', model: ModelReads): Lanes3 {
  const factor = per === 'object' ? b.div(scale, b.max(model.size, b.f(1e-12))) : scale;
  return map3(at, (lane) => b.mul(lane, factor));
}
