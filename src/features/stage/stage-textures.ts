import * as THREE from 'three';
import { VALUE_TEXELS } from '@/core/backends/glsl/emit';
import type { ImageAtlas } from '@/core/base/image';
import type { MeshMap } from '@/core/mesh/mesh-map';
import { NORMAL_TARGET } from '@/core/surface/stage-layout';

const BLACK = new Float32Array(4);
function floats(data: Float32Array, width: number, height: number): THREE.DataTexture {
  const texture = new THREE.DataTexture(data, width, height, THREE.RGBAFormat, THREE.FloatType);
  texture.needsUpdate = true;
  return texture;
}

/** A floating-point texture of a mesh map. */
export const mapTexture = (map: MeshMap | null): THREE.DataTexture =>
  floats(map?.data ?? BLACK, map?.size ?? 1, map?.size ?? 1);
/** An image's sheet; programs read single texels. */
export const sheetTexture = (sheet: ImageAtlas): THREE.DataTexture =>
  floats(sheet.data, sheet.stride, sheet.rows);
/** Typed values, four to a texel, where there are too many for uniforms. */
export function valueTexture(rows: number): THREE.DataTexture {
  const height = Math.max(1, Math.ceil(rows / VALUE_TEXELS));
  return floats(new Float32Array(VALUE_TEXELS * height * 4), VALUE_TEXELS, height);
}

/** The buffer a network's program writes: directions in full precision, the rest in half. */
export function makeSurfaceTarget(targets: number): THREE.WebGLRenderTarget {
  const target = new THREE.WebGLRenderTarget(1, 1, {
    count: targets,
    type: THREE.HalfFloatType,
    minFilter: THREE.NearestFilter,
    magFilter: THREE.NearestFilter,
  });
  const directions = target.textures[NORMAL_TARGET];
  if (directions) directions.type = THREE.FloatType;
  return target;
}
