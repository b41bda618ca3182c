import type { Builder } from '../ir/builder';
import type { F32, Lanes3 } from '../ir/types';
import type { ModelReads } from './define';
import { cross, map3, normalise } from './lanes';

/**
 * Unit directions along the surface in which u grows, and across it in which v grows, square to a
 * normal; they make the frame of a normal map.
 */
export interface TangentFrame {
  readonly along: Lanes3;
  readonly across: Lanes3;
  readonly normal: Lanes3;
}

/**
 * The tangent frame of the texture coordinates at the point: dP/du ∝ ±(∇v × n), then squared
 * to the normal, the bitangent turned to the side in which v grows. Where the texture coordinates
 * have no slope, some direction along the surface.
 */
export function tangentFrame(b: Builder, normal: Lanes3, model: ModelReads): TangentFrame {
  const [du, dv] = model.textureSlopes();
  const aside = cross(b, dv, normal);
  const turned = b.lt(b.dot(du, aside), b.f(0));
  const upright = b.lt(b.abs(normal[1]), b.f(0.9));
  const somewhere = normalise(
    b,
    cross(
      b,
      [b.f(0), b.select(upright, b.f(1), b.f(0)), b.select(upright, b.f(0), b.f(1))],
      normal,
    ),
    [b.f(1), b.f(0), b.f(0)],
  );
  const along = normalise(
    b,
    map3(aside, (lane) => b.select(turned, b.neg(lane), lane)),
    somewhere,
  );
  const square = cross(b, normal, along);
  const mirrored = b.lt(b.dot(dv, square), b.f(0));
  return { along, across: map3(square, (lane) => b.select(mirrored, b.neg(lane), lane)), normal };
}

/** x·along + y·across + z·normal, made unit. */
export function outOfFrame(b: Builder, frame: TangentFrame, x: F32, y: F32, z: F32): Lanes3 {
  return normalise(
    b,
    map3(frame.normal, (lane, k) =>
      b.add(b.add(b.mul(frame.along[k as 0], x), b.mul(frame.across[k as 0], y)), b.mul(lane, z)),
    ),
    frame.normal,
  );
}
