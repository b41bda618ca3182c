import * as THREE from 'three';
import { STUDIO_GLSL } from '@/core/surface/studio';

/** The studio around the model, filtered for every roughness. */
export function makeSurroundings(renderer: THREE.WebGLRenderer): THREE.Texture {
  const room = new THREE.Scene();
  const dome = new THREE.Mesh(
    new THREE.SphereGeometry(10, 32, 16),
    new THREE.ShaderMaterial({
      side: THREE.BackSide,
      depthWrite: false,
      vertexShader:
        'varying vec3 at; void main() { at = normalize(position); gl_Position = ' +
        'projectionMatrix * modelViewMatrix * vec4(position, 1.0); }',
      fragmentShader: `varying vec3 at;
      ${STUDIO_GLSL}
      void main() { gl_FragColor = vec4(vec3(studioRadiance(normalize(at))), 1.0); }`,
    }),
  );
  room.add(dome);
  const generator = new THREE.PMREMGenerator(renderer);
  const { texture } = generator.fromScene(room);
  generator.dispose();
  return texture;
}
