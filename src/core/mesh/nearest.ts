import type { Bvh } from './bvh';

/** Squared distance from a point to the segment from the origin along (ux, uy, uz). */
function squaredToEdge(ux: number, uy: number, uz: number, px: number, py: number, pz: number): number {
  const squared = ux * ux + uy * uy + uz * uz;
  const t = squared > 0 ? Math.min(1, Math.max(0, (ux * px + uy * py + uz * pz) / squared)) : 0;
  const dx = px - ux * t, dy = py - uy * t, dz = pz - uz * t;
  return dx * dx + dy * dy + dz * dz;
}

/**
 * Squared distance from a point to a triangle given by a corner and two edges from it: to its plane where the point lies over the
 * triangle, else to the nearest of its edges, which also serves triangles without area. Written out in scalars: it runs for every
 * texel of a map.
 */
export function squaredToTriangle(triangles: Float32Array, t: number, x: number, y: number, z: number): number {
  const ux = triangles[t + 3] as number, uy = triangles[t + 4] as number, uz = triangles[t + 5] as number;
  const vx = triangles[t + 6] as number, vy = triangles[t + 7] as number, vz = triangles[t + 8] as number;
  const px = x - (triangles[t] as number), py = y - (triangles[t + 1] as number), pz = z - (triangles[t + 2] as number);
  const nx = uy * vz - uz * vy, ny = uz * vx - ux * vz, nz = ux * vy - uy * vx;
  const area = nx * nx + ny * ny + nz * nz;
  // Barycentric weights times the squared area: of the second corner, then of the third.
  const s = (py * vz - pz * vy) * nx + (pz * vx - px * vz) * ny + (px * vy - py * vx) * nz;
  const w = (uy * pz - uz * py) * nx + (uz * px - ux * pz) * ny + (ux * py - uy * px) * nz;
  if (area > 0 && s >= 0 && w >= 0 && s + w <= area) {
    const height = px * nx + py * ny + pz * nz;
    return height * height / area;
  }
  return Math.min(squaredToEdge(ux, uy, uz, px, py, pz), squaredToEdge(vx, vy, vz, px, py, pz), squaredToEdge(vx - ux, vy - uy, vz - uz, px - ux, py - uy, pz - uz));
}

const stack = new Uint32Array(128);
const boxes = new Float64Array(128);

function squaredToBox(bounds: Float32Array, node: number, x: number, y: number, z: number): number {
  const b = node * 6;
  const dx = Math.max((bounds[b] as number) - x, 0, x - (bounds[b + 3] as number));
  const dy = Math.max((bounds[b + 1] as number) - y, 0, y - (bounds[b + 4] as number));
  const dz = Math.max((bounds[b + 2] as number) - z, 0, z - (bounds[b + 5] as number));
  return dx * dx + dy * dy + dz * dz;
}

/**
 * Distance from a point to the nearest triangle whose part counts, at most `most`.
 * @param parts per triangle; @param part the part asked for, or, with `isOther`, the one left out
 */
export function distanceToPart(bvh: Bvh, parts: Uint32Array, part: number, isOther: boolean, x: number, y: number, z: number, most: number): number {
  const { bounds, links, order, triangles } = bvh;
  let best = most * most, depth = 0;
  if (links.length === 0) return most;
  stack[depth] = 0;
  boxes[depth++] = squaredToBox(bounds, 0, x, y, z);
  while (depth > 0) {
    depth--;
    if ((boxes[depth] as number) >= best) continue;
    const node = stack[depth] as number;
    const first = links[node * 2] as number, count = links[node * 2 + 1] as number;
    if (count === 0) {
      const left = squaredToBox(bounds, node + 1, x, y, z), right = squaredToBox(bounds, first, x, y, z);
      const leftFirst = left < right;
      stack[depth] = leftFirst ? first : node + 1;
      boxes[depth++] = leftFirst ? right : left;
      stack[depth] = leftFirst ? node + 1 : first;
      boxes[depth++] = leftFirst ? left : right;
    } else for (let place = first; place < first + count; place++) {
      if ((parts[order[place] as number] === part) === isOther) continue;
      const squared = squaredToTriangle(triangles, place * 9, x, y, z);
      if (squared < best) best = squared;
    }
  }
  return Math.sqrt(best);
}
