import * as THREE from 'three';
import { UNKNOWN_GREYS } from '@/core/evaluate/picture';

/** Width of a stripe, pixels of the drawing buffer. */
const STRIPE = 9;
const level = (k: 0 | 1): string => (UNKNOWN_GREYS[k] / 255).toFixed(4);

/**
 * A model of which nothing is known yet: hatched in two greys, a little darker where it turns away,
 * so that its form is seen and nobody takes it for a look.
 */
export function makeUnknownMaterial(): THREE.ShaderMaterial {
  return new THREE.ShaderMaterial({
    glslVersion: THREE.GLSL3,
    side: THREE.DoubleSide,
    toneMapped: false,
    vertexShader: `out vec3 outward;
      void main() {
        outward = normalize(normalMatrix * normal);
        gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
      }`,
    fragmentShader: `in vec3 outward;
      out vec4 result;
      void main() {
        float across = gl_FragCoord.x - gl_FragCoord.y;
        float stripe = step(0.5, fract(across / ${(2 * STRIPE).toFixed(1)}));
        float turned = 0.7 + 0.3 * abs(normalize(outward).z);
        result = vec4(vec3(mix(${level(0)}, ${level(1)}, stripe) * turned), 1.0);
      }`,
  });
}
