import * as THREE from 'three';
import type { ShadowOpacity } from '@/core/evaluate/shadow-opacity';

/**
 * Lets as many rays through as the surface is thin: each place of the shadow's picture is kept or
 * left out by a fixed, even pattern, which the softening of the shadow's edge averages.
 *
 * Source of the pattern: J. Jimenez, interleaved gradient noise, in the course Advances in
 * Real-Time Rendering, SIGGRAPH 2014.
 */
const LET_THROUGH = `
float stopped = texture2D(stops, atlasPlace).r;
float threshold = fract(52.9829189 * fract(dot(gl_FragCoord.xy, vec2(0.06711056, 0.00583715))));
if (stopped <= threshold * 0.998 + 0.001) discard;`;

/** What casts a model's shadow: all of it, or only what stops the light. */
export class CastShadow {
  private readonly stops: { value: THREE.DataTexture | null } = { value: null };
  private readonly depth = new THREE.MeshDepthMaterial();
  private readonly distance = new THREE.MeshDistanceMaterial();

  constructor(private readonly mesh: THREE.Mesh) {
    for (const material of [this.depth, this.distance]) {
      material.side = THREE.DoubleSide;
      material.onBeforeCompile = (shader) => {
        shader.uniforms['stops'] = this.stops;
        shader.vertexShader = shader.vertexShader.replace(
          'void main() {',
          'attribute vec2 atlas; varying vec2 atlasPlace;\nvoid main() {\natlasPlace = atlas;',
        );
        shader.fragmentShader = shader.fragmentShader.replace(
          'void main() {',
          `uniform sampler2D stops; varying vec2 atlasPlace;\nvoid main() {${LET_THROUGH}`,
        );
      };
    }
  }

  close(): void {
    this.stops.value?.dispose();
    this.depth.dispose();
    this.distance.dispose();
  }

  /** @param opacity null where all of the model stops the light */
  set(opacity: ShadowOpacity | null): void {
    this.stops.value?.dispose();
    this.stops.value = opacity && textureOf(opacity);
    const { mesh } = this;
    if (opacity) {
      mesh.customDepthMaterial = this.depth;
      mesh.customDistanceMaterial = this.distance;
    } else {
      delete mesh.customDepthMaterial;
      delete mesh.customDistanceMaterial;
    }
  }
}

function textureOf({ size, texels }: ShadowOpacity): THREE.DataTexture {
  const texture = new THREE.DataTexture(texels, size, size, THREE.RedFormat);
  texture.minFilter = texture.magFilter = THREE.LinearFilter;
  texture.needsUpdate = true;
  return texture;
}
