import { cross, dot, length, normalise, scale, sub } from '../base/vector';
import type { Vec3 } from '../base/vector';
import { weldVertices } from './topology';

export interface IndexedTriangles { readonly positions: Float32Array; readonly indices: Uint32Array }
export interface ShadedTriangles {
  readonly positions: Float32Array<ArrayBuffer>;
  readonly normals: Float32Array<ArrayBuffer>;
  readonly indices: Uint32Array<ArrayBuffer>;
  /** The vertex each new vertex was made from. */
  readonly sources: Uint32Array<ArrayBuffer>;
}

/**
 * Shades smoothly across edges flatter than `creaseRad` and keeps the others hard, splitting vertices there. Corners are
 * weighted by their angle. Source: G. Thürmer and C. Wüthrich, Computing Vertex Normals from Polygonal Facets, 1998.
 */
export function smoothNormals(mesh: IndexedTriangles, creaseRad: number): ShadedTriangles {
  const corners = mesh.indices.length;
  const at = (v: number): Vec3 => [mesh.positions[v * 3] as number, mesh.positions[v * 3 + 1] as number, mesh.positions[v * 3 + 2] as number];
  const welded = weldVertices(mesh.positions, 0);
  const faces: Vec3[] = [];
  const weights = new Float64Array(corners);
  const around = new Map<number, number[]>();
  for (let t = 0; t < corners / 3; t++) {
    const points = [0, 1, 2].map((k) => at(mesh.indices[t * 3 + k] as number)) as [Vec3, Vec3, Vec3];
    faces.push(normalise(cross(sub(points[1], points[0]), sub(points[2], points[0]))));
    for (let k = 0; k < 3; k++) {
      const here = points[k] as Vec3;
      const p = normalise(sub(points[(k + 1) % 3] as Vec3, here)), q = normalise(sub(points[(k + 2) % 3] as Vec3, here));
      weights[t * 3 + k] = Math.atan2(length(cross(p, q)), dot(p, q));
      const key = welded[mesh.indices[t * 3 + k] as number] as number;
      const list = around.get(key);
      if (list) list.push(t * 3 + k);
      else around.set(key, [t * 3 + k]);
    }
  }
  const limit = Math.cos(creaseRad);
  const made = new Map<string, number>();
  const positions: number[] = [], normals: number[] = [], sources: number[] = [];
  const indices = new Uint32Array(corners);
  for (let c = 0; c < corners; c++) {
    const vertex = mesh.indices[c] as number;
    const own = faces[Math.floor(c / 3)] as Vec3;
    let sum: Vec3 = [0, 0, 0];
    for (const other of around.get(welded[vertex] as number) ?? []) {
      const face = faces[Math.floor(other / 3)] as Vec3;
      if (dot(own, face) >= limit) sum = [0, 1, 2].map((k) => (sum[k] as number) + (face[k] as number) * (weights[other] as number)) as unknown as Vec3;
    }
    const n = length(sum) > 0 ? scale(sum, 1 / length(sum)) : own;
    const key = `${String(vertex)}:${n.map((x) => Math.round(x * 4096)).join(',')}`;
    let index = made.get(key);
    if (index === undefined) {
      index = positions.length / 3;
      made.set(key, index);
      positions.push(...at(vertex));
      normals.push(...n);
      sources.push(vertex);
    }
    indices[c] = index;
  }
  return { positions: Float32Array.from(positions), normals: Float32Array.from(normals), indices, sources: Uint32Array.from(sources) };
}
