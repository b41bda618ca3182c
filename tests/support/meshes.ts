import { completeMesh } from '@/core/mesh/surface-mesh';
import type { SurfaceMesh } from '@/core/mesh/surface-mesh';

/** A unit square facing +Y, its texture coordinates filling the atlas but for a border of 5 %. */
export function unitTile(): SurfaceMesh {
  const uvs = new Float32Array([0.05, 0.05, 0.95, 0.05, 0.95, 0.95, 0.05, 0.95]);
  return completeMesh({
    name: 'tile', positions: new Float32Array([-0.5, 0, -0.5, 0.5, 0, -0.5, 0.5, 0, 0.5, -0.5, 0, 0.5]), normals: new Float32Array([0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0]),
    uvs, atlas: uvs, atlasIsAutomatic: false, indices: new Uint32Array([0, 2, 1, 0, 3, 2]), parts: new Uint32Array([0, 0]),
  });
}
