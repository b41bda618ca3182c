import { AppError } from '../base/diagnostic';
import { cross, length, sub } from '../base/vector';
import type { Vec3 } from '../base/vector';
import { flatAtlas } from '../mesh/flat-atlas';

/** A mesh with an atlas: vertices are split where charts meet. */
export interface Unwrapped {
  /** The vertex each new vertex was made from. */
  readonly sources: Uint32Array<ArrayBuffer>;
  readonly atlas: Float32Array<ArrayBuffer>;
  readonly indices: Uint32Array<ArrayBuffer>;
}

/** Above this the library takes long, minutes in the end; the fast atlas stands in. */
const LIBRARY_TRIANGLES = 10_000;

/**
 * The library lays charts out at about this many texels a side, and takes a time that grows with
 * the longest.
 */
const SIDE = 1024,
  LONGEST_CHART = 24 * SIDE;

/**
 * Whether a mesh is so long for its area that a chart could be far longer than the atlas: one stray
 * vertex far off is enough. The library would work on such charts for minutes.
 */
export function isStretched(positions: Float32Array, indices: Uint32Array): boolean {
  const low = [Infinity, Infinity, Infinity],
    high = [-Infinity, -Infinity, -Infinity];
  let area = 0;
  for (let t = 0; t < indices.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => cornerOf(positions, indices[t + k] as number)) as [
      Vec3,
      Vec3,
      Vec3,
    ];
    area += length(cross(sub(b, a), sub(c, a))) / 2;
    for (const corner of [a, b, c])
      corner.forEach((value, k) => {
        low[k] = Math.min(low[k] as number, value);
        high[k] = Math.max(high[k] as number, value);
      });
  }
  const extent = Math.hypot(...high.map((value, k) => value - (low[k] as number)));
  return !(extent * SIDE <= LONGEST_CHART * Math.sqrt(area));
}
const cornerOf = (positions: Float32Array, vertex: number): Vec3 => [
  positions[vertex * 3] as number,
  positions[vertex * 3 + 1] as number,
  positions[vertex * 3 + 2] as number,
];

/**
 * Gives every triangle a place of its own in the unit square. Splits vertices at the borders of
 * charts.
 * @throws AppError where the model cannot be unwrapped
 */
export async function unwrapMesh(
  positions: Float32Array,
  normals: Float32Array,
  indices: Uint32Array,
): Promise<Unwrapped> {
  if (indices.length / 3 > LIBRARY_TRIANGLES || isStretched(positions, indices))
    return unwrapFast(positions, indices);
  const watlas = await import('watlas');
  await watlas.Initialize();
  const atlas = new watlas.Atlas();
  try {
    atlas.addMesh({
      vertexPositionData: positions,
      vertexPositionStride: 12,
      vertexCount: positions.length / 3,
      vertexNormalData: normals,
      vertexNormalStride: 12,
      indexData: indices,
      indexCount: indices.length,
    });
    atlas.generate({ maxIterations: 2 }, { padding: 8, resolution: SIDE, bilinear: true });
    const mesh = atlas.getMesh(0);
    const made = new Uint32Array(mesh.indexCount);
    mesh.getIndexArray(made);
    if (atlas.atlasCount !== 1 || made.length !== indices.length)
      return unwrapFast(positions, indices);
    const sources = new Uint32Array(mesh.vertexCount);
    const uvs = new Float32Array(mesh.vertexCount * 2);
    const side = Math.max(atlas.width, atlas.height);
    for (let k = 0; k < mesh.vertexCount; k++) {
      const vertex = mesh.getVertex(k);
      sources[k] = vertex.xref;
      uvs[k * 2] = vertex.uv[0] / side;
      uvs[k * 2 + 1] = vertex.uv[1] / side;
    }
    return { sources, atlas: uvs, indices: made };
  } catch (cause) {
    throw new AppError(
      'unwrap.failed',
      'The model could not be unwrapped.',
      'Give it texture coordinates in a modelling program and bring it in again.',
      { cause },
    );
  } finally {
    atlas.delete();
  }
}

/** Flat charts; single triangles where there would be too many of them. */
export function unwrapFast(positions: Float32Array, indices: Uint32Array): Unwrapped {
  return flatAtlas({ positions, indices }) ?? unwrapPlainly(indices);
}

/** Two triangles to a cell of a square grid, with a gap between. */
export function unwrapPlainly(indices: Uint32Array): Unwrapped {
  const triangles = indices.length / 3;
  const side = Math.max(1, Math.ceil(Math.sqrt(Math.ceil(triangles / 2))));
  const atlas = new Float32Array(triangles * 6);
  const gap = 0.12;
  for (let t = 0; t < triangles; t++) {
    const cell = t >> 1;
    const x = cell % side,
      y = Math.floor(cell / side);
    const place = (u: number, v: number): [number, number] => [(x + u) / side, (y + v) / side];
    const corners =
      t % 2 === 0
        ? [place(gap / 2, gap / 2), place(1 - gap * 1.5, gap / 2), place(gap / 2, 1 - gap * 1.5)]
        : [
            place(1 - gap / 2, 1 - gap / 2),
            place(gap * 1.5, 1 - gap / 2),
            place(1 - gap / 2, gap * 1.5),
          ];
    atlas.set(corners.flat(), t * 6);
  }
  return {
    sources: indices.slice(),
    atlas,
    indices: Uint32Array.from({ length: indices.length }, (_, k) => k),
  };
}
