import { computeFaceNormals } from './sample-points';
import { triangleCount } from './surface-mesh';
import type { SurfaceMesh } from './surface-mesh';

/**
 * What a graphics processor draws a mesh from: triangles apart from each other, so that each can
 * carry its own flat normal.
 */
export interface StageArrays {
  readonly position: Float32Array<ArrayBuffer>;
  readonly normal: Float32Array<ArrayBuffer>;
  readonly face: Float32Array<ArrayBuffer>;
  readonly uv: Float32Array<ArrayBuffer>;
  readonly atlas: Float32Array<ArrayBuffer>;
}

/** What is drawn of a model; `extras` only where a program may read parts and attributes. */
export interface LaidOut extends Pick<SurfaceMesh, 'centre' | 'size'> {
  readonly arrays: StageArrays;
  readonly extras: Pick<SurfaceMesh, 'indices' | 'parts' | 'partCentres' | 'attributes'> | null;
}

/** The buffers of all arrays, to be transferred. */
export const listBuffers = ({ position, normal, face, uv, atlas }: StageArrays): ArrayBuffer[] =>
  [position, normal, face, uv, atlas].map(({ buffer }) => buffer);

/**
 * Three numbers a corner, two for coordinates. Takes half a second for a million triangles: not a
 * job for a page.
 */
export function stageArrays(mesh: SurfaceMesh): StageArrays {
  const { indices } = mesh;
  const spread = (from: Float32Array, width: number): Float32Array<ArrayBuffer> => {
    const array = new Float32Array(indices.length * width);
    for (let k = 0; k < indices.length; k++)
      for (let axis = 0; axis < width; axis++)
        array[k * width + axis] = from[(indices[k] as number) * width + axis] as number;
    return array;
  };
  const face = new Float32Array(indices.length * 3),
    normals = computeFaceNormals(mesh);
  for (let t = 0; t < triangleCount(mesh); t++)
    for (let k = 0; k < 9; k++) face[t * 9 + k] = normals[t * 3 + (k % 3)] as number;
  return {
    position: spread(mesh.positions, 3),
    normal: spread(mesh.normals, 3),
    face,
    uv: spread(mesh.uvs, 2),
    atlas: spread(mesh.atlas, 2),
  };
}

/**
 * What a stage is sent of a model. The arrays are made for it; `extras` are the mesh's own.
 * @param withExtras whether programs may read parts and attributes
 */
export function layOut(mesh: SurfaceMesh, withExtras: boolean): LaidOut {
  const { centre, size, indices, parts, partCentres, attributes } = mesh;
  return {
    centre,
    size,
    arrays: stageArrays(mesh),
    extras: withExtras ? { indices, parts, partCentres, attributes } : null,
  };
}
