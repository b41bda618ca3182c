import type { SurfaceMesh } from './surface-mesh';
import { edgesOf, nextCorner } from './topology';

const { atan2, hypot, sqrt } = Math;

/** Numbers per triangle: area, curvature integral, mean curvature inside, and the jumps across its three edges. */
export const FACTS = 6;

/**
 * What curvature is gathered from: per triangle its area and the mean curvature of its normal field (half the divergence
 * of the linearly interpolated normals, exact on spheres and cylinders however coarse), plus, on edges where the normals
 * jump, half the angle of the jump (radians, convex positive; counted on one of its two sides) per length.
 * Source: D. Cohen-Steiner and J.-M. Morvan, Restricted Delaunay Triangulations and Normal Cycle, 2003, for the edge
 * measure; the divergence term replaces it inside smooth-shaded triangles.
 */
export function curvatureFacts(mesh: Pick<SurfaceMesh, 'positions' | 'indices' | 'normals' | 'size'>): Float32Array<ArrayBuffer> {
  const { positions, indices, normals } = mesh;
  const triangles = indices.length / 3;
  const facts = new Float32Array(triangles * FACTS);
  for (let t = 0; t < triangles; t++) {
    const a = (indices[t * 3] as number) * 3, b = (indices[t * 3 + 1] as number) * 3, c = (indices[t * 3 + 2] as number) * 3;
    const ax = positions[a] as number, ay = positions[a + 1] as number, az = positions[a + 2] as number;
    const ux = (positions[b] as number) - ax, uy = (positions[b + 1] as number) - ay, uz = (positions[b + 2] as number) - az;
    const vx = (positions[c] as number) - ax, vy = (positions[c + 1] as number) - ay, vz = (positions[c + 2] as number) - az;
    const fx = uy * vz - uz * vy, fy = uz * vx - ux * vz, fz = ux * vy - uy * vx;
    const squared = fx * fx + fy * fy + fz * fz;
    if (squared < 1e-48) continue;
    // The gradient of a corner's barycentric weight is n × (opposite edge) / 2·area, with n = f / 2·area.
    const divergence = (across(normals, a, fx, fy, fz, vx - ux, vy - uy, vz - uz) + across(normals, b, fx, fy, fz, -vx, -vy, -vz) + across(normals, c, fx, fy, fz, ux, uy, uz)) / squared;
    const area = sqrt(squared) / 2;
    facts[t * FACTS] = area;
    facts[t * FACTS + 1] = area * divergence / 2;
    facts[t * FACTS + 2] = divergence / 2;
  }
  addJumps(mesh, facts);
  return facts;
}

/** normal · (f × edge). */
function across(normals: Float32Array, v: number, fx: number, fy: number, fz: number, ex: number, ey: number, ez: number): number {
  return (normals[v] as number) * (fy * ez - fz * ey) + (normals[v + 1] as number) * (fz * ex - fx * ez) + (normals[v + 2] as number) * (fx * ey - fy * ex);
}

/** Writes the angle between the normals across every edge that two triangles share, at one of its two corners, and adds it to the integrals. */
function addJumps(mesh: Pick<SurfaceMesh, 'positions' | 'indices' | 'normals' | 'size'>, facts: Float32Array): void {
  const { across: neighbours } = edgesOf(mesh);
  const { positions, indices } = mesh;
  for (let k = 0; k < indices.length; k++) {
    const other = neighbours[k] as number;
    if (other < 0 || other >= k || runsAlike(mesh, k, other)) continue;
    const t = (k - k % 3) / 3;
    const jump = jumpAngle(mesh, k, other);
    if (jump === 0 || facts[t * FACTS] === 0) continue;
    const p = (indices[k] as number) * 3, q = (indices[nextCorner(k)] as number) * 3;
    const length = hypot((positions[q] as number) - (positions[p] as number), (positions[q + 1] as number) - (positions[p + 1] as number), (positions[q + 2] as number) - (positions[p + 2] as number));
    facts[t * FACTS + 3 + k % 3] = jump;
    facts[t * FACTS + 1] = (facts[t * FACTS + 1] as number) + jump * 0.5 * length;
  }
}

/** Whether two triangles run along their edge in the same direction: one of them is turned round, and its normals tell nothing. */
function runsAlike({ positions, indices }: Pick<SurfaceMesh, 'positions' | 'indices'>, corner: number, other: number): boolean {
  const p = (indices[corner] as number) * 3, q = (indices[other] as number) * 3, r = (indices[nextCorner(other)] as number) * 3;
  let same = 0, opposite = 0;
  for (let axis = 0; axis < 3; axis++) {
    same += ((positions[p + axis] as number) - (positions[q + axis] as number)) ** 2;
    opposite += ((positions[p + axis] as number) - (positions[r + axis] as number)) ** 2;
  }
  return same < opposite;
}

/** The angle from the mean normal along an edge in one triangle to that in the other; below 0 in a hollow. */
function jumpAngle({ positions, indices, normals }: Pick<SurfaceMesh, 'positions' | 'indices' | 'normals'>, corner: number, other: number): number {
  const p = (indices[corner] as number) * 3, q = (indices[nextCorner(corner)] as number) * 3, r = (indices[other] as number) * 3, s = (indices[nextCorner(other)] as number) * 3;
  const hx = (normals[p] as number) + (normals[q] as number), hy = (normals[p + 1] as number) + (normals[q + 1] as number), hz = (normals[p + 2] as number) + (normals[q + 2] as number);
  const tx = (normals[r] as number) + (normals[s] as number), ty = (normals[r + 1] as number) + (normals[s + 1] as number), tz = (normals[r + 2] as number) + (normals[s + 2] as number);
  const cx = hy * tz - hz * ty, cy = hz * tx - hx * tz, cz = hx * ty - hy * tx;
  const angle = atan2(hypot(cx, cy, cz), hx * tx + hy * ty + hz * tz);
  const along = cx * ((positions[q] as number) - (positions[p] as number)) + cy * ((positions[q + 1] as number) - (positions[p + 1] as number)) + cz * ((positions[q + 2] as number) - (positions[p + 2] as number));
  return along >= 0 ? angle : -angle;
}
