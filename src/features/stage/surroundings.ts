import * as THREE from 'three';

/**
 * The studio around the model, made by code: a bright ceiling, two soft windows, a dim floor. All
 * neutral.
 */
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
      float window(vec3 n, vec3 towards, float size) {
        return smoothstep(size, 1.0, dot(n, normalize(towards)));
      }
      void main() {
        vec3 n = normalize(at);
        float light = mix(0.18, 0.75, smoothstep(-0.5, 0.9, n.y));
        light += 3.2 * window(n, vec3(0.6, 0.5, 0.6), 0.93)
          + 1.5 * window(n, vec3(-0.9, 0.3, 0.2), 0.95)
          + 0.7 * window(n, vec3(-0.2, 0.4, -1.0), 0.9);
        gl_FragColor = vec4(vec3(light), 1.0);
      }`,
    }),
  );
  room.add(dome);
  const generator = new THREE.PMREMGenerator(renderer);
  const { texture } = generator.fromScene(room, 0.02);
  generator.dispose();
  return texture;
}
