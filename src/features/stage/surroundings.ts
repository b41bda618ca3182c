import * as THREE from 'three';
import { studioCube } from '@/core/surface/studio-cube';
import type { CubeLevel } from '@/core/surface/studio-cube';

function mirrored(face: Float32Array, side: number): Float32Array {
  return face.map((_, at) => {
    const column = at % side;
    return face[at - column + (side - 1 - column)] as number;
  });
}

function faceTexture(values: Float32Array, side: number): THREE.DataTexture {
  const texels = new Uint16Array(values.length * 4);
  const one = THREE.DataUtils.toHalfFloat(1);
  values.forEach((value, at) => {
    const half = THREE.DataUtils.toHalfFloat(value);
    texels.set([half, half, half, one], at * 4);
  });
  return new THREE.DataTexture(texels, side, side, THREE.RGBAFormat, THREE.HalfFloatType);
}

function cubeTexture({ side, faces }: CubeLevel): THREE.CubeTexture {
  // The library reads cubes that are given as data mirrored in X.
  const [right, left, ...others] = faces.map((face) => faceTexture(mirrored(face, side), side));
  return new THREE.CubeTexture([left, right, ...others]);
}

/** The studio around the model, filtered for every roughness. */
export function makeSurroundings(): THREE.Texture {
  const [sharp, ...rough] = studioCube().map(cubeTexture);
  const last = rough.at(-1);
  if (!sharp || !last) throw new Error('Invariant broken: the studio has no level');
  // The library counts the levels of data without the sharp one; it never reads this one more.
  const { width } = (last.images[0] as THREE.DataTexture).image;
  const unread = cubeTexture({
    side: width / 2,
    faces: Array.from({ length: 6 }, () => new Float32Array((width / 2) ** 2)),
  });
  return Object.assign(sharp, {
    mipmaps: [...rough, unread],
    type: THREE.HalfFloatType,
    magFilter: THREE.LinearFilter,
    minFilter: THREE.LinearMipmapLinearFilter,
    generateMipmaps: false,
    isPMREMTexture: true,
    needsUpdate: true,
  });
}
