import { radicalInverse2 } from '../base/random';
import type { Bvh } from './bvh';
import { castRay } from './ray-cast';
import type { Hit } from './ray-cast';
import type { SamplePoints } from './sample-points';

export interface OcclusionOptions {
  /** How far rays look, metres. */
  readonly reach: number;
  /** Half angle of the cone, radians. */
  readonly coneRad: number;
  /** 0: every hit counts alike; larger: distant hits count less. */
  readonly falloff: number;
  readonly side: 'open' | 'solid' | 'both';
  readonly rays: number;
  /** Object size, metres; decides how far rays start off the surface. */
  readonly size: number;
}

/**
 * Openness per point, 0 covered to 1 open: the cosine-weighted share of rays that meet nothing within reach; a hit at
 * distance d counts (d/reach)^falloff as open when falloff is above 0. Rays below the triangle itself are left out.
 * Same points and options give the same result on every machine.
 */
export function computeOpenness(bvh: Bvh, points: SamplePoints, options: OcclusionOptions, first = 0, count = points.count): Float32Array<ArrayBuffer> {
  const result = new Float32Array(count);
  for (let k = 0; k < count; k++) {
    const sides = options.side === 'both' ? [1, -1] : [options.side === 'open' ? 1 : -1];
    let sum = 0;
    for (const sign of sides) sum += opennessAt(bvh, points, first + k, sign, options);
    result[k] = sum / sides.length;
  }
  return result;
}

/** A hash of the point's place, so that neighbours use differently turned sets of rays. Not its index: that may change with the resolution. */
function turnOf(index: number): number {
  let h = Math.imul(index + 1, 0x9e3779b9);
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  return ((h ^ (h >>> 15)) >>> 0) / 4294967296;
}

function opennessAt(bvh: Bvh, points: SamplePoints, index: number, sign: number, options: OcclusionOptions): number {
  const { positions, normals, faceNormals } = points;
  const at = index * 3;
  const [nx, ny, nz] = [0, 1, 2].map((k) => (normals[at + k] as number) * sign) as [number, number, number];
  const [fx, fy, fz] = [0, 1, 2].map((k) => (faceNormals[at + k] as number) * sign) as [number, number, number];
  const start = options.size * 2e-5;
  const ox = (positions[at] as number) + fx * start, oy = (positions[at + 1] as number) + fy * start, oz = (positions[at + 2] as number) + fz * start;
  const s = nz >= 0 ? 1 : -1;
  const a = -1 / (s + nz), b = nx * ny * a;
  const [tx, ty, tz] = [1 + s * nx * nx * a, s * b, -s * nx];
  const [bx, by, bz] = [b, s + ny * ny * a, -ny];
  const turn = turnOf(index);
  const spread = Math.sin(options.coneRad);
  let open = 0, counted = 0;
  for (let ray = 0; ray < options.rays; ray++) {
    const radius = Math.sqrt((ray + 0.5) / options.rays) * spread;
    const angle = 2 * Math.PI * ((radicalInverse2(ray) + turn) % 1);
    const x = radius * Math.cos(angle), y = radius * Math.sin(angle), z = Math.sqrt(Math.max(0, 1 - radius * radius));
    const dx = tx * x + bx * y + nx * z, dy = ty * x + by * y + ny * z, dz = tz * x + bz * y + nz * z;
    if (dx * fx + dy * fy + dz * fz <= 1e-4) continue;
    counted++;
    const met = castRay(bvh, ox, oy, oz, dx, dy, dz, options.reach, options.falloff === 0, hit);
    if (!met) open++;
    else if (options.falloff > 0) open += Math.pow(Math.min(1, hit.distance / options.reach), 1 / options.falloff);
  }
  return counted === 0 ? 1 : open / counted;
}

const hit: Hit = { distance: 0, triangle: 0, u: 0, v: 0 };
