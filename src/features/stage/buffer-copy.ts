import * as THREE from 'three';

const name = (k: number): string => `values${String(k)}`;

/**
 * Copies what the workers filled into the buffer that a network's program writes otherwise, so that
 * the one takes over from the other between two pictures.
 */
export class BufferCopy {
  private readonly scene = new THREE.Scene();
  private readonly camera = new THREE.Camera();
  private readonly material: THREE.RawShaderMaterial;
  private readonly triangle: THREE.Mesh;

  /** @param textures as many as the buffer has targets, as large as it is */
  constructor(textures: readonly THREE.Texture[]) {
    const each = (line: (k: number) => string): string =>
      textures.map((_, k) => line(k)).join('\n');
    this.material = new THREE.RawShaderMaterial({
      glslVersion: THREE.GLSL3,
      depthTest: false,
      depthWrite: false,
      uniforms: Object.fromEntries(textures.map((value, k) => [name(k), { value }])),
      vertexShader: `void main() {
        gl_Position = vec4(gl_VertexID == 1 ? 3.0 : -1.0, gl_VertexID == 2 ? 3.0 : -1.0, 0.0, 1.0);
      }`,
      fragmentShader: `precision highp float; precision highp int;
      ${each((k) => `uniform highp sampler2D ${name(k)};`)}
      ${each((k) => `layout(location = ${String(k)}) out vec4 target${String(k)};`)}
      void main() {
        ivec2 at = ivec2(gl_FragCoord.xy);
        ${each((k) => `target${String(k)} = texelFetch(${name(k)}, at, 0);`)}
      }`,
    });
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(new Float32Array(9), 3));
    this.triangle = new THREE.Mesh(geometry, this.material);
    this.triangle.frustumCulled = false;
    this.scene.add(this.triangle);
  }

  draw(renderer: THREE.WebGLRenderer, target: THREE.WebGLRenderTarget): void {
    renderer.setRenderTarget(target);
    renderer.clear();
    renderer.render(this.scene, this.camera);
  }

  close(): void {
    this.material.dispose();
    this.triangle.geometry.dispose();
  }
}
