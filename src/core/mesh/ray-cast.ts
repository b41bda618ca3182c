import type { Bvh } from './bvh';

export interface Hit { distance: number; triangle: number; u: number; v: number }

const stack = new Uint32Array(128);

/**
 * The nearest hit of a ray within `reach`, or, with `any`, some hit. Direction need not be a unit vector; distances count
 * in its length. Barycentric u and v belong to the second and third corner.
 * Source of the triangle test: T. Möller and B. Trumbore, Fast, Minimum Storage Ray/Triangle Intersection, 1997.
 */
export function castRay(bvh: Bvh, ox: number, oy: number, oz: number, dx: number, dy: number, dz: number, reach: number, any: boolean, hit: Hit): boolean {
  const { bounds, links, order, triangles } = bvh;
  if (links.length === 0) return false;
  const ix = 1 / dx, iy = 1 / dy, iz = 1 / dz;
  let nearest = reach, found = false, depth = 0;
  stack[depth++] = 0;
  while (depth > 0) {
    const node = stack[--depth] as number;
    const b = node * 6;
    const x1 = ((bounds[b] as number) - ox) * ix, x2 = ((bounds[b + 3] as number) - ox) * ix;
    const y1 = ((bounds[b + 1] as number) - oy) * iy, y2 = ((bounds[b + 4] as number) - oy) * iy;
    const z1 = ((bounds[b + 2] as number) - oz) * iz, z2 = ((bounds[b + 5] as number) - oz) * iz;
    const enter = Math.max(x1 < x2 ? x1 : x2, y1 < y2 ? y1 : y2, z1 < z2 ? z1 : z2);
    const leave = Math.min(x1 < x2 ? x2 : x1, y1 < y2 ? y2 : y1, z1 < z2 ? z2 : z1);
    if (leave < 0 || enter > leave * 1.0000004 || enter > nearest) continue;
    const first = links[node * 2] as number, count = links[node * 2 + 1] as number;
    if (count === 0) {
      stack[depth++] = first;
      stack[depth++] = node + 1;
      continue;
    }
    for (let place = first; place < first + count; place++) {
      const t = place * 9;
      const e1x = triangles[t + 3] as number, e1y = triangles[t + 4] as number, e1z = triangles[t + 5] as number;
      const e2x = triangles[t + 6] as number, e2y = triangles[t + 7] as number, e2z = triangles[t + 8] as number;
      const px = dy * e2z - dz * e2y, py = dz * e2x - dx * e2z, pz = dx * e2y - dy * e2x;
      const determinant = e1x * px + e1y * py + e1z * pz;
      if (determinant === 0) continue;
      const inverse = 1 / determinant;
      const sx = ox - (triangles[t] as number), sy = oy - (triangles[t + 1] as number), sz = oz - (triangles[t + 2] as number);
      const u = (sx * px + sy * py + sz * pz) * inverse;
      if (u < -1e-9 || u > 1.000000001) continue;
      const qx = sy * e1z - sz * e1y, qy = sz * e1x - sx * e1z, qz = sx * e1y - sy * e1x;
      const v = (dx * qx + dy * qy + dz * qz) * inverse;
      if (v < -1e-9 || u + v > 1.000000001) continue;
      const distance = (e2x * qx + e2y * qy + e2z * qz) * inverse;
      if (distance <= 0 || distance > nearest) continue;
      nearest = distance;
      found = true;
      hit.distance = distance;
      hit.triangle = order[place] as number;
      hit.u = u;
      hit.v = v;
      if (any) return true;
    }
  }
  return found;
}
