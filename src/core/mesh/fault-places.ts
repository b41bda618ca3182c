import { findLeaning } from './curvature';
import type { FindingCode } from './finding';
import { computeFaceNormals } from './sample-points';
import { findFaceted } from './surface-faults';
import { triangleCount } from './surface-mesh';
import type { SurfaceMesh } from './surface-mesh';
import { WELD_SHARE, nextCorner, weldVertices } from './topology';
import { rasteriseOverlaps } from './atlas';

/** Marks triangles by corners that were found. */
function markCorners(mesh: SurfaceMesh, isFound: (corner: number) => boolean): Uint8Array {
  const marked = new Uint8Array(triangleCount(mesh));
  for (let corner = 0; corner < mesh.indices.length; corner++)
    if (isFound(corner)) marked[(corner / 3) | 0] = 1;
  return marked;
}

/** The corners that begin each edge, by its two welded vertices; collapsed ones have none. */
function listEdgeUses(mesh: SurfaceMesh): readonly (readonly number[])[] {
  const { indices } = mesh;
  const welded = weldVertices(mesh.positions, mesh.size * WELD_SHARE);
  const uses = new Map<number, number[]>();
  const at = (corner: number): number => welded[indices[corner] as number] as number;
  for (let corner = 0; corner < indices.length; corner++) {
    const first = corner - (corner % 3);
    const [a, b, c] = [at(first), at(first + 1), at(first + 2)];
    if (a === b || b === c || c === a) continue;
    const [from, to] = [at(corner), at(nextCorner(corner))];
    const key = Math.min(from, to) * welded.length + Math.max(from, to);
    const known = uses.get(key);
    if (known) known.push(corner);
    else uses.set(key, [corner]);
  }
  return [...uses.values()];
}

function markEdges(
  mesh: SurfaceMesh,
  isFound: (corners: readonly number[]) => boolean,
): Uint8Array {
  const found = new Set(listEdgeUses(mesh).filter(isFound).flat());
  return markCorners(mesh, (corner) => found.has(corner));
}

function markFlipped(mesh: SurfaceMesh): Uint8Array {
  const welded = weldVertices(mesh.positions, mesh.size * WELD_SHARE);
  const from = (corner: number): number => welded[mesh.indices[corner] as number] as number;
  return markEdges(mesh, ([a, b]) => a !== undefined && b !== undefined && from(a) === from(b));
}

function markInverted(mesh: SurfaceMesh): Uint8Array {
  const faces = computeFaceNormals(mesh);
  return markCorners(mesh, (corner) => {
    const face = ((corner / 3) | 0) * 3,
      vertex = (mesh.indices[corner] as number) * 3;
    const cosine = [0, 1, 2].reduce(
      (sum, axis) => sum + (faces[face + axis] as number) * (mesh.normals[vertex + axis] as number),
      0,
    );
    return cosine < 0;
  });
}

function markDuplicates(mesh: SurfaceMesh): Uint8Array {
  const marked = new Uint8Array(triangleCount(mesh));
  const first = new Map<string, number>();
  for (let t = 0; t < marked.length; t++) {
    const key = [...mesh.indices.subarray(t * 3, t * 3 + 3)].sort((a, b) => a - b).join(' ');
    const other = first.get(key);
    if (other === undefined) first.set(key, t);
    else marked[t] = marked[other] = 1;
  }
  return marked;
}

const MARKS: Partial<Readonly<Record<FindingCode, (mesh: SurfaceMesh) => Uint8Array>>> = {
  open: (mesh) => markEdges(mesh, ({ length }) => length === 1),
  'non-manifold': (mesh) => markEdges(mesh, ({ length }) => length > 2),
  flipped: markFlipped,
  'inverted-normals': markInverted,
  leaning: (mesh) => {
    const leaning = findLeaning(mesh);
    return markCorners(mesh, (corner) => leaning[corner] === 1);
  },
  faceted: (mesh) => {
    const faceted = findFaceted(mesh);
    return markCorners(mesh, (corner) => faceted[corner] === 1);
  },
  overlap: rasteriseOverlaps,
  duplicate: markDuplicates,
};

/** The findings that have a place on the model. */
export const PLACED_FINDINGS: ReadonlySet<FindingCode> = new Set(
  Object.keys(MARKS) as FindingCode[],
);

/** Which triangles a finding is about: 1 for each of them; null where it is about none. */
export const markFinding = (mesh: SurfaceMesh, code: FindingCode): Uint8Array | null =>
  MARKS[code]?.(mesh) ?? null;
