import * as THREE from 'three';
import { extraAttribute } from '@/core/backends/glsl/stage-shader';
import type { StageShader } from '@/core/backends/glsl/stage-shader';
import { faceNormalsOf } from '@/core/mesh/sample-points';
import { triangleCount } from '@/core/mesh/surface-mesh';
import type { SurfaceMesh } from '@/core/mesh/surface-mesh';

/** Triangles apart from each other, so that each can carry its own flat normal. */
export function stageGeometry(mesh: SurfaceMesh): THREE.BufferGeometry {
  const corners = mesh.indices.length;
  const spread = (from: Float32Array, width: number): THREE.BufferAttribute => {
    const array = new Float32Array(corners * width);
    mesh.indices.forEach((vertex, k) => { for (let axis = 0; axis < width; axis++) array[k * width + axis] = from[vertex * width + axis] as number; });
    return new THREE.BufferAttribute(array, width);
  };
  const faces = new Float32Array(corners * 3);
  const normals = faceNormalsOf(mesh);
  for (let t = 0; t < triangleCount(mesh); t++) for (let k = 0; k < 9; k++) faces[t * 9 + k] = normals[t * 3 + k % 3] as number;
  return new THREE.BufferGeometry().setAttribute('position', spread(mesh.positions, 3)).setAttribute('normal', spread(mesh.normals, 3))
    .setAttribute('face', new THREE.BufferAttribute(faces, 3)).setAttribute('uv', spread(mesh.uvs, 2)).setAttribute('atlas', spread(mesh.atlas, 2));
}

/** Gives a geometry what a program reads beyond place, normal and coordinates: the part of each corner, and named attributes. */
export function addExtras(geometry: THREE.BufferGeometry, mesh: SurfaceMesh, { attributes, readsParts }: StageShader): void {
  const { indices, parts, partCentres } = mesh;
  if (readsParts && !geometry.hasAttribute('part')) {
    const array = new Float32Array(indices.length * 4);
    for (let k = 0; k < indices.length; k++) {
      const part = parts[(k / 3) | 0] as number;
      array.set([partCentres[part * 3] as number, partCentres[part * 3 + 1] as number, partCentres[part * 3 + 2] as number, part], k * 4);
    }
    geometry.setAttribute('part', new THREE.BufferAttribute(array, 4));
  }
  attributes.forEach((name, index) => {
    const attribute = mesh.attributes.find((each) => each.name === name);
    const array = new Float32Array(indices.length * 4);
    if (attribute) for (let k = 0; k < indices.length; k++) for (let at = 0; at < attribute.width; at++) array[k * 4 + at] = attribute.values[(indices[k] as number) * attribute.width + at] as number;
    geometry.setAttribute(extraAttribute(index), new THREE.BufferAttribute(array, 4));
  });
}
