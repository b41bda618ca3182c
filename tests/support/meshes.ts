import { completeMesh } from '@/core/mesh/surface-mesh';
import type { SurfaceMesh } from '@/core/mesh/surface-mesh';
import type { Sketch } from '@/core/mesh/shape-sketch';
import { unwrapPlainly } from '@/core/exchange/unwrap';

/** A unit square facing +Y, its texture coordinates filling the atlas but for a border of 5 %. */
export function unitTile(): SurfaceMesh {
  const uvs = new Float32Array([0.05, 0.05, 0.95, 0.05, 0.95, 0.95, 0.05, 0.95]);
  return completeMesh({
    name: 'tile',
    positions: new Float32Array([-0.5, 0, -0.5, 0.5, 0, -0.5, 0.5, 0, 0.5, -0.5, 0, 0.5]),
    normals: new Float32Array([0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0]),
    uvs,
    atlas: uvs,
    atlasIsAutomatic: false,
    indices: new Uint32Array([0, 2, 1, 0, 3, 2]),
    parts: new Uint32Array([0, 0]),
  });
}

/** A sketch as a whole mesh, each triangle with a place of its own in the atlas. */
export function meshOfSketch(sketch: Sketch): SurfaceMesh {
  const { sources, atlas, indices } = unwrapPlainly(sketch.indices);
  const spread = (values: Float32Array): Float32Array<ArrayBuffer> =>
    Float32Array.from(
      { length: sources.length * 3 },
      (_, k) => values[(sources[Math.floor(k / 3)] as number) * 3 + (k % 3)] as number,
    );
  return completeMesh({
    name: 'sketch',
    positions: spread(sketch.positions),
    normals: spread(sketch.normals),
    uvs: atlas,
    atlas,
    atlasIsAutomatic: true,
    indices,
    parts: sketch.parts,
    partNames: sketch.partNames,
  });
}
