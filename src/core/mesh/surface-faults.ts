import { cross, dot, length, sub } from '../base/vector';
import type { Vec3 } from '../base/vector';
import { findLeaning } from './curvature';
import { computeFaceNormals } from './sample-points';
import { getCorners, triangleCount, vertexAt } from './surface-mesh';
import type { SurfaceMesh } from './surface-mesh';
import { getEdges, nextCorner, weldTriples } from './topology';

const DEGREE = Math.PI / 180;
/** Edges of faceted areas are bent by more than the least, and by less than a crease would be. */
const FACET = { least: 2 * DEGREE, most: 40 * DEGREE } as const;

/**
 * Six times the volume a mesh encloses, by the sum over its triangles: below 0 where they face
 * inwards.
 */
export function signedVolume(mesh: SurfaceMesh): number {
  let sum = 0;
  for (let t = 0; t < triangleCount(mesh); t++) {
    const [a, b, c] = getCorners(mesh, t).map((corner) => sub(corner, mesh.centre)) as [
      Vec3,
      Vec3,
      Vec3,
    ];
    sum += dot(a, cross(b, c));
  }
  return sum;
}

/** The share of corners whose normal was averaged over a hard edge. */
export const shareLeaning = (mesh: SurfaceMesh): number =>
  findLeaning(mesh).reduce((sum, each) => sum + each, 0) / Math.max(1, mesh.indices.length);

/** The share of corners, 0 to 1, whose normal points away from their face. */
export function shareInverted(mesh: SurfaceMesh): number {
  const faces = computeFaceNormals(mesh);
  let inverted = 0;
  for (let k = 0; k < mesh.indices.length; k++) {
    const t = ((k / 3) | 0) * 3,
      v = (mesh.indices[k] as number) * 3;
    if (
      (faces[t] as number) * (mesh.normals[v] as number) +
        (faces[t + 1] as number) * (mesh.normals[v + 1] as number) +
        (faces[t + 2] as number) * (mesh.normals[v + 2] as number) <
      0
    )
      inverted++;
  }
  return inverted / Math.max(1, mesh.indices.length);
}

/** Gently bent edges, and those of them across which the normals jump as the faces do. */
function readBentEdges(
  mesh: SurfaceMesh,
  take: (corner: number, other: number, isHard: boolean) => void,
): void {
  const { across } = getEdges(mesh);
  const faces = computeFaceNormals(mesh);
  for (let k = 0; k < across.length; k++) {
    const other = across[k] as number;
    if (other < 0 || other > k) continue;
    const angle = angleBetween(vertexAt(faces, (k / 3) | 0), vertexAt(faces, (other / 3) | 0));
    if (angle < FACET.least || angle > FACET.most) continue;
    const jump = angleBetween(
      vertexAt(mesh.normals, mesh.indices[k] as number),
      vertexAt(mesh.normals, mesh.indices[nextCorner(other)] as number),
    );
    take(k, other, jump > angle * 0.5);
  }
}

/** The share of gently bent edges across which the normals jump as the faces do. */
export function shareFaceted(mesh: SurfaceMesh): number {
  let bent = 0,
    hard = 0;
  readBentEdges(mesh, (_corner, _other, isHard) => {
    bent++;
    if (isHard) hard++;
  });
  return bent === 0 ? 0 : hard / bent;
}

/** 1 for each corner that begins a gently bent edge across which the normals jump. */
export function findFaceted(mesh: SurfaceMesh): Uint8Array {
  const faceted = new Uint8Array(mesh.indices.length);
  readBentEdges(mesh, (corner, other, isHard) => {
    if (isHard) faceted[corner] = faceted[other] = 1;
  });
  return faceted;
}

const angleBetween = (a: Vec3, b: Vec3): number => Math.atan2(length(cross(a, b)), dot(a, b));

/** How many triangles have the same three vertices as an earlier one. */
export function countDuplicates(indices: Uint32Array): number {
  const keys = new Int32Array(indices.length);
  for (let t = 0; t < indices.length; t += 3) {
    const a = indices[t] as number,
      b = indices[t + 1] as number,
      c = indices[t + 2] as number;
    const low = Math.min(a, b, c),
      high = Math.max(a, b, c);
    keys[t] = low;
    keys[t + 1] = a + b + c - low - high;
    keys[t + 2] = high;
  }
  return weldTriples(keys).reduce((count, first, t) => count + (first === t ? 0 : 1), 0);
}
