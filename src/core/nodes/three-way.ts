import type { Builder } from '../ir/builder';
import { cos, sin } from '../ir/library/transcendental';
import type { F32, Lanes3 } from '../ir/types';
import { map3 } from './lanes';

const RADIANS = Math.PI / 180;

/**
 * How much of each of three projections is seen, by the normal; together 1. At blend 0 only the
 * nearest axis counts, at 1 they run into each other widely.
 */
export function threeWayWeights(b: Builder, normal: Lanes3, blend: F32): Lanes3 {
  const size = map3(normal, (lane) => b.abs(lane));
  const largest = b.max(b.max(size[0], size[1]), size[2]);
  const width = b.mul(b.max(b.saturate(blend), b.f(1e-3)), largest);
  const raised = map3(size, (lane) => {
    const over = b.max(b.sub(lane, b.sub(largest, width)), b.f(0));
    return b.mul(over, over);
  });
  const total = b.max(b.add(b.add(raised[0], raised[1]), raised[2]), b.f(1e-20));
  return map3(raised, (lane) => b.div(lane, total));
}

/**
 * The plane coordinates of each projection, along X, Y and Z, as seen from outside: never mirrored,
 * v down.
 */
export function threeWayPlanes(
  b: Builder,
  at: Lanes3,
  normal: Lanes3,
  turn: Lanes3,
): readonly [Plane, Plane, Plane] {
  const side = map3(normal, (lane) => b.select(b.lt(lane, b.f(0)), b.f(-1), b.f(1)));
  const [x, y, z] = at;
  return [
    turned(b, b.neg(b.mul(z, side[0])), b.neg(y), turn[0]),
    turned(b, x, b.mul(z, side[1]), turn[1]),
    turned(b, b.mul(x, side[2]), b.neg(y), turn[2]),
  ];
}
/** Coordinates in one of three planes, and the turn that led to them. */
export interface Plane {
  readonly u: F32;
  readonly v: F32;
  readonly sine: F32;
  readonly cosine: F32;
}

function turned(b: Builder, u: F32, v: F32, degrees: F32): Plane {
  const angle = b.mul(degrees, b.f(RADIANS));
  const [sine, cosine] = [sin(b, angle), cos(b, angle)];
  return {
    u: b.sub(b.mul(u, cosine), b.mul(v, sine)),
    v: b.add(b.mul(u, sine), b.mul(v, cosine)),
    sine,
    cosine,
  };
}

/** A direction of a projection's plane (u, v) back in space, the way `threeWayPlanes` came. */
export function outOfPlane(
  b: Builder,
  axis: 0 | 1 | 2,
  plane: Plane,
  u: F32,
  v: F32,
  normal: Lanes3,
): Lanes3 {
  const [flatU, flatV] = [
    b.add(b.mul(u, plane.cosine), b.mul(v, plane.sine)),
    b.sub(b.mul(v, plane.cosine), b.mul(u, plane.sine)),
  ];
  const side = b.select(b.lt(normal[axis], b.f(0)), b.f(-1), b.f(1));
  const none = b.f(0);
  if (axis === 0) return [none, b.neg(flatV), b.neg(b.mul(flatU, side))];
  if (axis === 1) return [flatU, none, b.mul(flatV, side)];
  return [b.mul(flatU, side), b.neg(flatV), none];
}
