import * as THREE from 'three';
import { extraAttribute } from '@/core/backends/glsl/stage-shader';
import type { StageShader } from '@/core/backends/glsl/stage-shader';
import type { LaidOut } from '@/core/mesh/stage-arrays';

/**
 * A geometry out of what a worker prepared; its sphere is known, and need not be sought among all
 * places.
 */
export function stageGeometry({
  centre,
  size,
  arrays: { position, normal, face, uv, atlas },
}: LaidOut): THREE.BufferGeometry {
  const geometry = new THREE.BufferGeometry();
  for (const [name, array, width] of [
    ['position', position, 3],
    ['normal', normal, 3],
    ['face', face, 3],
    ['uv', uv, 2],
    ['atlas', atlas, 2],
  ] as const)
    geometry.setAttribute(name, new THREE.BufferAttribute(array, width));
  geometry.boundingSphere = new THREE.Sphere(new THREE.Vector3(...centre), size / 2);
  return geometry;
}

/**
 * Gives a geometry what a program reads beyond place, normal and coordinates: the part of each
 * corner, and named attributes.
 */
export function addExtras(
  geometry: THREE.BufferGeometry,
  { extras }: LaidOut,
  { attributes, readsParts }: StageShader,
): void {
  if (!extras) return;
  const { indices, parts, partCentres } = extras;
  if (readsParts && !geometry.hasAttribute('part')) {
    const array = new Float32Array(indices.length * 4);
    for (let k = 0; k < indices.length; k++) {
      const part = parts[(k / 3) | 0] as number;
      array.set(
        [
          partCentres[part * 3] as number,
          partCentres[part * 3 + 1] as number,
          partCentres[part * 3 + 2] as number,
          part,
        ],
        k * 4,
      );
    }
    geometry.setAttribute('part', new THREE.BufferAttribute(array, 4));
  }
  attributes.forEach((name, index) => {
    const attribute = extras.attributes.find((each) => each.name === name);
    const array = new Float32Array(indices.length * 4);
    if (attribute)
      for (let k = 0; k < indices.length; k++)
        for (let at = 0; at < attribute.width; at++)
          array[k * 4 + at] = attribute.values[
            (indices[k] as number) * attribute.width + at
          ] as number;
    geometry.setAttribute(extraAttribute(index), new THREE.BufferAttribute(array, 4));
  });
}
