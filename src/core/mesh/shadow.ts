import type { Vec3 } from '../base/vector';
import { radicalInverse2 } from '../base/random';
import { RAY } from './mesh-kernel';
import type { MeshKernel } from './mesh-kernel';
import type { SamplePoints } from './sample-points';

const { sqrt, cos, sin, hypot, PI } = Math;

/**
 * A light as the model sees it: a unit direction towards it when it is far, its place in metres
 * when it is near.
 */
export interface ShadowLight {
  readonly at: Vec3;
  readonly isNear: boolean;
}

/**
 * Half the angle under which a light is seen, as a tangent: about half a degree, like the sun; what
 * keeps borders of shadows from being jagged.
 */
const LIGHT_RADIUS = 0.012;
/**
 * How far a ray starts above the surface, in object sizes: more than rounding, less than what is
 * seen.
 */
const LIFTED = 5e-4;
const FARTHEST = 1e30;
const POINTS_AT_ONCE = 8192;

/** Places on the disc of a light, evenly spread; the first is its middle. */
function discOf(rays: number): readonly (readonly [number, number])[] {
  return Array.from({ length: rays }, (_, k) => {
    const radius = sqrt(k / rays) * LIGHT_RADIUS,
      angle = 2 * PI * radicalInverse2(k);
    return [radius * cos(angle), radius * sin(angle)] as const;
  });
}

/**
 * How much of a light the model itself keeps from each point: 0 lit, 1 in its shadow. A point that
 * faces away is left to the shading: only what stands between counts.
 * @param size diameter of the model's smallest enclosing sphere, metres
 */
export function shadowsOn(
  kernel: MeshKernel,
  points: SamplePoints,
  light: ShadowLight,
  size: number,
  rays: number,
  first = 0,
  count = points.count,
): Float32Array<ArrayBuffer> {
  const disc = discOf(rays);
  const result = new Float32Array(count);
  const batch = new Float32Array(Math.min(count, POINTS_AT_ONCE) * rays * RAY);
  for (let from = 0; from < count; from += POINTS_AT_ONCE) {
    const here = Math.min(POINTS_AT_ONCE, count - from);
    for (let k = 0; k < here; k++)
      writeRays(batch, k * rays * RAY, points, first + from + k, light, size * LIFTED, disc);
    const { triangles } = kernel.castRays(batch.subarray(0, here * rays * RAY));
    for (let k = 0; k < here; k++) {
      let met = 0;
      for (let ray = 0; ray < rays; ray++) if ((triangles[k * rays + ray] as number) >= 0) met++;
      result[from + k] = met / rays;
    }
  }
  return result;
}

function writeRays(
  into: Float32Array,
  at: number,
  { positions, normals }: SamplePoints,
  point: number,
  { at: towards, isNear }: ShadowLight,
  lift: number,
  disc: readonly (readonly [number, number])[],
): void {
  const p = point * 3;
  const nx = normals[p] as number,
    ny = normals[p + 1] as number,
    nz = normals[p + 2] as number;
  const x = (positions[p] as number) + nx * lift,
    y = (positions[p + 1] as number) + ny * lift,
    z = (positions[p + 2] as number) + nz * lift;
  let dx = isNear ? towards[0] - x : towards[0],
    dy = isNear ? towards[1] - y : towards[1],
    dz = isNear ? towards[2] - z : towards[2];
  const distance = hypot(dx, dy, dz) || 1;
  dx /= distance;
  dy /= distance;
  dz /= distance;
  // A point that faces away casts a ray of no length.
  const far = nx * dx + ny * dy + nz * dz <= 0 ? 0 : isNear ? distance : FARTHEST;
  // Two directions across the light (Duff and others, Building an Orthonormal Basis, Revisited,
  // 2017).
  const sign = dz >= 0 ? 1 : -1,
    a = -1 / (sign + dz),
    b = dx * dy * a;
  const ux = 1 + sign * dx * dx * a,
    uy = sign * b,
    uz = -sign * dx,
    vx = b,
    vy = sign + dy * dy * a,
    vz = -dy;
  disc.forEach(([across, along], ray) => {
    const rx = dx + ux * across + vx * along,
      ry = dy + uy * across + vy * along,
      rz = dz + uz * across + vz * along;
    const scale = 1 / hypot(rx, ry, rz);
    into.set([x, y, z, rx * scale, ry * scale, rz * scale, far, 0], at + ray * RAY);
  });
}
