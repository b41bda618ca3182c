import type { SurfaceMesh } from './surface-mesh';
import { getEdges, nextCorner } from './topology';

const { atan2, hypot, sqrt } = Math;

/**
 * Numbers per triangle: area, curvature integral, mean curvature inside, and the jumps across its
 * three edges.
 */
export const FACTS = 6;

/**
 * What curvature is gathered from: per triangle its area and the mean curvature of its normal field
 * (half the divergence of the linearly interpolated normals, exact on spheres and cylinders however
 * coarse), plus, on edges where the normals jump, half the angle of the jump (radians, convex
 * positive; counted on one of its two sides) per length.
 * Source: D. Cohen-Steiner and J.-M. Morvan, Restricted Delaunay Triangulations and Normal Cycle,
 * 2003, for the edge measure; the divergence term replaces it inside smooth-shaded triangles.
 */
export function curvatureFacts(mesh: CurvedMesh): Float32Array<ArrayBuffer> {
  const { positions, indices } = mesh;
  const triangles = indices.length / 3;
  const facts = new Float32Array(triangles * FACTS);
  const corners = new CornerNormals(mesh);
  const n = new Float64Array(9);
  for (let t = 0; t < triangles; t++) {
    const a = (indices[t * 3] as number) * 3,
      b = (indices[t * 3 + 1] as number) * 3,
      c = (indices[t * 3 + 2] as number) * 3;
    const ax = positions[a] as number,
      ay = positions[a + 1] as number,
      az = positions[a + 2] as number;
    const ux = (positions[b] as number) - ax,
      uy = (positions[b + 1] as number) - ay,
      uz = (positions[b + 2] as number) - az;
    const vx = (positions[c] as number) - ax,
      vy = (positions[c + 1] as number) - ay,
      vz = (positions[c + 2] as number) - az;
    const fx = uy * vz - uz * vy,
      fy = uz * vx - ux * vz,
      fz = ux * vy - uy * vx;
    const squared = fx * fx + fy * fy + fz * fz;
    if (squared < 1e-48) continue;
    for (let k = 0; k < 3; k++) corners.write(t * 3 + k, n, k * 3);
    // The gradient of a corner's barycentric weight is n × (opposite edge) / 2·area, with n = f /
    // 2·area.
    const divergence =
      (across(n, 0, fx, fy, fz, vx - ux, vy - uy, vz - uz) +
        across(n, 3, fx, fy, fz, -vx, -vy, -vz) +
        across(n, 6, fx, fy, fz, ux, uy, uz)) /
      squared;
    const area = sqrt(squared) / 2;
    facts[t * FACTS] = area;
    facts[t * FACTS + 1] = (area * divergence) / 2;
    facts[t * FACTS + 2] = divergence / 2;
  }
  addJumps(mesh, corners, facts);
  return facts;
}

type CurvedMesh = Pick<SurfaceMesh, 'positions' | 'indices' | 'normals' | 'size'>;

/**
 * A normal that leans farther from its face than this does not tell of that face: it was averaged
 * over a hard edge.
 */
export const FARTHEST_LEAN_RAD = (40 * Math.PI) / 180;

/**
 * Normals at the corners of triangles: the vertex's own, or the face's where the two contradict
 * each other.
 */
class CornerNormals {
  private readonly leaning: Uint8Array;

  constructor(private readonly mesh: CurvedMesh) {
    this.leaning = findLeaning(mesh);
  }

  /** Writes the normal of a corner (three to a triangle) into three numbers from `at`. */
  write(corner: number, into: Float64Array, at: number): void {
    const { indices, normals, positions } = this.mesh;
    if (this.leaning[corner] === 1) {
      writeFace(positions, indices, corner - (corner % 3), into, at);
      return;
    }
    const v = (indices[corner] as number) * 3;
    into[at] = normals[v] as number;
    into[at + 1] = normals[v + 1] as number;
    into[at + 2] = normals[v + 2] as number;
  }
}

/** Writes the unit normal of the triangle that begins at a corner; zeros for one without area. */
function writeFace(
  positions: Float32Array,
  indices: Uint32Array,
  first: number,
  into: Float64Array,
  at: number,
): void {
  const a = (indices[first] as number) * 3,
    b = (indices[first + 1] as number) * 3,
    c = (indices[first + 2] as number) * 3;
  const ux = (positions[b] as number) - (positions[a] as number),
    uy = (positions[b + 1] as number) - (positions[a + 1] as number),
    uz = (positions[b + 2] as number) - (positions[a + 2] as number);
  const vx = (positions[c] as number) - (positions[a] as number),
    vy = (positions[c + 1] as number) - (positions[a + 1] as number),
    vz = (positions[c + 2] as number) - (positions[a + 2] as number);
  const x = uy * vz - uz * vy,
    y = uz * vx - ux * vz,
    z = ux * vy - uy * vx;
  const length = sqrt(x * x + y * y + z * z);
  const inverse = length > 0 ? 1 / length : 0;
  into[at] = x * inverse;
  into[at + 1] = y * inverse;
  into[at + 2] = z * inverse;
}

/**
 * For every corner whether its normal leans farther from its face than `FARTHEST_LEAN_RAD`, 1 or 0.
 * Normals that point away from their face altogether are another fault, and are left alone.
 */
export function findLeaning({
  positions,
  indices,
  normals,
}: Pick<SurfaceMesh, 'positions' | 'indices' | 'normals'>): Uint8Array {
  const least = Math.cos(FARTHEST_LEAN_RAD);
  const leaning = new Uint8Array(indices.length);
  const face = new Float64Array(3);
  for (let k = 0; k < indices.length; k++) {
    if (k % 3 === 0) writeFace(positions, indices, k, face, 0);
    const v = (indices[k] as number) * 3;
    const cosine =
      (face[0] as number) * (normals[v] as number) +
      (face[1] as number) * (normals[v + 1] as number) +
      (face[2] as number) * (normals[v + 2] as number);
    if (cosine > 0 && cosine < least) leaning[k] = 1;
  }
  return leaning;
}

/** normal · (f × edge). */
function across(
  normals: Float64Array,
  v: number,
  fx: number,
  fy: number,
  fz: number,
  ex: number,
  ey: number,
  ez: number,
): number {
  return (
    (normals[v] as number) * (fy * ez - fz * ey) +
    (normals[v + 1] as number) * (fz * ex - fx * ez) +
    (normals[v + 2] as number) * (fx * ey - fy * ex)
  );
}

/**
 * Writes the angle between the normals across every edge that two triangles share, at one of its
 * two corners, and adds it to the integrals.
 */
function addJumps(mesh: CurvedMesh, corners: CornerNormals, facts: Float32Array): void {
  const { across: neighbours } = getEdges(mesh);
  const { positions, indices } = mesh;
  for (let k = 0; k < indices.length; k++) {
    const other = neighbours[k] as number;
    if (other < 0 || other >= k || runsAlike(mesh, k, other)) continue;
    const t = (k - (k % 3)) / 3;
    const jump = jumpAngle(mesh, corners, k, other);
    if (jump === 0 || facts[t * FACTS] === 0) continue;
    const p = (indices[k] as number) * 3,
      q = (indices[nextCorner(k)] as number) * 3;
    const length = hypot(
      (positions[q] as number) - (positions[p] as number),
      (positions[q + 1] as number) - (positions[p + 1] as number),
      (positions[q + 2] as number) - (positions[p + 2] as number),
    );
    facts[t * FACTS + 3 + (k % 3)] = jump;
    facts[t * FACTS + 1] = (facts[t * FACTS + 1] as number) + jump * 0.5 * length;
  }
}

/**
 * Whether two triangles run along their edge in the same direction: one of them is turned round,
 * and its normals tell nothing.
 */
function runsAlike(
  { positions, indices }: Pick<SurfaceMesh, 'positions' | 'indices'>,
  corner: number,
  other: number,
): boolean {
  const p = (indices[corner] as number) * 3,
    q = (indices[other] as number) * 3,
    r = (indices[nextCorner(other)] as number) * 3;
  let same = 0,
    opposite = 0;
  for (let axis = 0; axis < 3; axis++) {
    same += ((positions[p + axis] as number) - (positions[q + axis] as number)) ** 2;
    opposite += ((positions[p + axis] as number) - (positions[r + axis] as number)) ** 2;
  }
  return same < opposite;
}

/** Four normals, written anew for every edge. */
const SCRATCH = new Float64Array(12);

/**
 * The angle from the mean normal along an edge in one triangle to that in the other; below 0 in a
 * hollow.
 */
function jumpAngle(
  { positions, indices }: CurvedMesh,
  corners: CornerNormals,
  corner: number,
  other: number,
): number {
  const p = (indices[corner] as number) * 3,
    q = (indices[nextCorner(corner)] as number) * 3;
  const n = SCRATCH;
  corners.write(corner, n, 0);
  corners.write(nextCorner(corner), n, 3);
  corners.write(other, n, 6);
  corners.write(nextCorner(other), n, 9);
  const hx = (n[0] as number) + (n[3] as number),
    hy = (n[1] as number) + (n[4] as number),
    hz = (n[2] as number) + (n[5] as number);
  const tx = (n[6] as number) + (n[9] as number),
    ty = (n[7] as number) + (n[10] as number),
    tz = (n[8] as number) + (n[11] as number);
  const cx = hy * tz - hz * ty,
    cy = hz * tx - hx * tz,
    cz = hx * ty - hy * tx;
  const angle = atan2(hypot(cx, cy, cz), hx * tx + hy * ty + hz * tz);
  const along =
    cx * ((positions[q] as number) - (positions[p] as number)) +
    cy * ((positions[q + 1] as number) - (positions[p + 1] as number)) +
    cz * ((positions[q + 2] as number) - (positions[p + 2] as number));
  return along >= 0 ? angle : -angle;
}
