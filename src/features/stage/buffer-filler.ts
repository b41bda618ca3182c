import * as THREE from 'three';
import type { ValueKind } from '@/core/graph/document';
import { ALL_TARGETS, PLAIN_TARGETS, SURFACE_PLACES } from '@/core/surface/stage-layout';
import type { SampleExtent } from '@/core/mesh/sample-points';
import { WorkerProblem } from '@/workers/answer';
import { joinFill } from '@/state/fill-parts';
import type { FillSource } from '@/state/stage-feed';
import type { FillResult } from '@/core/evaluate/fill';

/**
 * Whether WebGL is drawn by the processor: then compiling a network's shader takes far longer than
 * evaluating it.
 */
export function isSoftware(renderer: THREE.WebGLRenderer): boolean {
  const gl = renderer.getContext();
  const info = gl.getExtension('WEBGL_debug_renderer_info');
  const name: unknown = info ? gl.getParameter(info.UNMASKED_RENDERER_WEBGL) : '';
  return /swiftshader|llvmpipe|softpipe|software|basic render/i.test(String(name));
}

const COARSE = 4;
interface Visible {
  readonly version: string;
  readonly step: number;
  readonly pixels: Uint32Array;
  readonly triangles: Uint32Array;
  readonly weights: Float32Array;
  readonly sample: SampleExtent;
}

/**
 * Draws, per pixel, which triangle is seen and where on it: triangle + 1, then two barycentric
 * weights.
 */
function makeIdentityMaterial(): THREE.RawShaderMaterial {
  return new THREE.RawShaderMaterial({
    glslVersion: THREE.GLSL3,
    side: THREE.DoubleSide,
    vertexShader: `precision highp float; precision highp int;
      uniform mat4 projectionMatrix; uniform mat4 modelViewMatrix;
      in vec3 position; out vec2 weight; flat out int triangle;
      void main() {
        int corner = gl_VertexID % 3;
        triangle = gl_VertexID / 3;
        weight = vec2(corner == 1 ? 1.0 : 0.0, corner == 2 ? 1.0 : 0.0);
        gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
      }`,
    fragmentShader:
      'precision highp float; precision highp int; in vec2 weight; flat in int triangle; ' +
      'out vec4 seen; void main() { seen = vec4(float(triangle) + 1.0, weight, 1.0); }',
  });
}

/**
 * Fills the stage's surface buffer from WebAssembly: finds the visible points by drawing their
 * identities, has the workers evaluate them (every fourth pixel first), and puts the values into
 * float textures.
 */
export class BufferFiller {
  readonly textures: readonly THREE.DataTexture[];
  isFilled = false;
  private isWhole = false;
  private readonly target: THREE.WebGLRenderTarget;
  private readonly scene = new THREE.Scene();
  private readonly mesh: THREE.Mesh<THREE.BufferGeometry, THREE.RawShaderMaterial>;
  private visible: { coarse: Visible; fine: Visible } | null = null;
  private seen: { model: THREE.Object3D; camera: THREE.PerspectiveCamera } | null = null;
  private looks = 0;
  private stale = false;
  private busy = false;
  private again = false;
  private closed = false;
  private isActive = true;

  constructor(
    private readonly renderer: THREE.WebGLRenderer,
    private readonly source: FillSource,
    private readonly onFilled: (kind: ValueKind, isKnown: boolean) => void,
    private readonly isResting: boolean,
  ) {
    this.target = new THREE.WebGLRenderTarget(1, 1, {
      type: THREE.FloatType,
      minFilter: THREE.NearestFilter,
      magFilter: THREE.NearestFilter,
    });
    this.textures = Array.from(
      { length: ALL_TARGETS },
      () => new THREE.DataTexture(new Float32Array(4), 1, 1, THREE.RGBAFormat, THREE.FloatType),
    );
    this.mesh = new THREE.Mesh(new THREE.BufferGeometry(), makeIdentityMaterial());
    this.mesh.frustumCulled = false;
    this.scene.add(this.mesh);
  }

  private get inUse(): readonly THREE.DataTexture[] {
    return this.isWhole ? this.textures : this.textures.slice(0, PLAIN_TARGETS);
  }

  /**
   * Whether the parameters beyond plain paint and metal are filled too; they cost as much again.
   */
  setWhole(isWhole: boolean): void {
    if (isWhole === this.isWhole) return;
    this.isWhole = isWhole;
    if (isWhole) this.sizeTextures(this.textures.slice(PLAIN_TARGETS));
    this.refill();
  }

  get isBusy(): boolean {
    return this.busy;
  }

  /** Fills from now on, beginning at once, or only keeps in mind what is seen. */
  setActive(isActive: boolean): void {
    if (isActive && !this.isActive) this.isFilled = false;
    this.isActive = isActive;
    if (isActive) this.refill();
  }

  close(): void {
    this.closed = true;
    this.target.dispose();
    this.mesh.material.dispose();
    for (const texture of this.textures) texture.dispose();
  }

  resize(width: number, height: number): void {
    // What was drawn stays until there are values for the new size.
    if (this.target.width !== width || this.target.height !== height) this.isFilled = false;
    this.target.setSize(width, height);
    this.sizeTextures(this.inUse);
  }

  private sizeTextures(textures: readonly THREE.DataTexture[]): void {
    const { width, height } = this.target;
    for (const texture of textures) {
      texture.image = { data: new Float32Array(width * height * 4), width, height };
      texture.dispose();
      texture.needsUpdate = true;
    }
  }

  /** The camera, the size or the model changed: other points are seen. */
  look(model: THREE.Mesh, camera: THREE.PerspectiveCamera): void {
    this.seen = { model, camera };
    this.mesh.geometry = model.geometry;
    this.stale = true;
    this.refill();
  }

  /** Values changed: ask for them again. Requests made meanwhile become one. */
  refill(): void {
    if (!this.isActive || this.isResting) return;
    if (this.busy) this.again = true;
    else void this.work();
  }

  private async work(): Promise<void> {
    this.busy = true;
    try {
      do {
        this.again = false;
        if (this.stale) await this.findVisible();
        // A resize in between makes what was found useless: it is looked for again.
        if (!this.visible) continue;
        await this.fill(this.visible.coarse);
        if (!this.again && !this.stale) await this.fill(this.visible.fine);
      } while ((this.again || this.stale) && this.isActive && !this.closed);
    } catch (error) {
      // A network that cannot be evaluated is reported beside the swatches; the last picture stays.
      if (!(error instanceof WorkerProblem)) throw error;
    } finally {
      this.busy = false;
    }
  }

  /**
   * The page goes on while the graphics processor draws; if the camera moves meanwhile, it is done
   * again.
   */
  private async findVisible(): Promise<void> {
    if (!this.seen) return;
    this.stale = false;
    const { model, camera } = this.seen;
    this.mesh.position.copy(model.position);
    this.mesh.quaternion.copy(model.quaternion);
    this.mesh.scale.copy(model.scale);
    camera.updateMatrixWorld();
    const before = this.renderer.getRenderTarget();
    this.renderer.setRenderTarget(this.target);
    this.renderer.clear();
    this.renderer.render(this.scene, camera);
    const { width, height } = this.target;
    const identities = new Float32Array(width * height * 4);
    const arriving = this.renderer.readRenderTargetPixelsAsync(
      this.target,
      0,
      0,
      width,
      height,
      identities,
    );
    this.renderer.setRenderTarget(before);
    await arriving;
    if (this.closed || this.target.width !== width || this.target.height !== height) return;
    this.looks++;
    this.visible = { coarse: this.gather(identities, COARSE), fine: this.gather(identities, 1) };
  }

  private gather(identities: Float32Array, step: number): Visible {
    const { width, height } = this.target;
    const pixels: number[] = [];
    for (let y = step >> 1; y < height; y += step)
      for (let x = step >> 1; x < width; x += step) {
        const pixel = y * width + x;
        if ((identities[pixel * 4] as number) > 0) pixels.push(pixel);
      }
    const triangles = new Uint32Array(pixels.length),
      weights = new Float32Array(pixels.length * 2);
    pixels.forEach((pixel, k) => {
      triangles[k] = (identities[pixel * 4] as number) - 1;
      weights[k * 2] = identities[pixel * 4 + 1] as number;
      weights[k * 2 + 1] = identities[pixel * 4 + 2] as number;
    });
    const eye = this.seen?.camera.position.clone() ?? new THREE.Vector3();
    this.seen?.model.worldToLocal(eye);
    const pixelRad = (2 * Math.tan(((this.seen?.camera.fov ?? 30) * Math.PI) / 360)) / height;
    return {
      sample: { eye: eye.toArray(), pixelRad },
      version: `${step === 1 ? 'fine' : 'coarse'} ${String(this.looks)}`,
      step,
      pixels: Uint32Array.from(pixels),
      triangles,
      weights,
    };
  }

  private async fill(visible: Visible): Promise<void> {
    if (visible.pixels.length === 0) return;
    const given = await this.source(
      visible.version,
      visible.triangles,
      visible.weights,
      this.isWhole,
      visible.sample,
    );
    if (this.closed || !this.isActive) return;
    const result = joinFill(given);
    this.write(visible, result);
    for (const texture of this.inUse) texture.needsUpdate = true;
    this.isFilled = true;
    this.onFilled(result.kind, result.isKnown);
  }

  private write({ pixels, step }: Visible, { kind, lanes }: FillResult): void {
    const { width, height } = this.target;
    const data = this.inUse.map((texture) => texture.image.data as Float32Array);
    const shift = step >> 1;
    // What a finished picture does not cover is empty, so that it does not depend on what was there
    // before.
    if (step === 1) for (const each of data) each.fill(0);
    const sources =
      kind === 'surface' ? SURFACE_PLACES : kind === 'scalar' ? [[0, 0, 0, -1]] : [[0, 1, 2, -1]];
    sources.forEach((places, t) => {
      const into = data[t];
      if (!into) return;
      pixels.forEach((pixel, k) => {
        const x0 = (pixel % width) - shift,
          y0 = Math.floor(pixel / width) - shift;
        for (let dy = 0; dy < step && y0 + dy < height; dy++)
          for (let dx = 0; dx < step && x0 + dx < width; dx++) {
            const at = ((y0 + dy) * width + x0 + dx) * 4;
            places.forEach((lane, c) => {
              into[at + c] = lane < 0 ? 1 : (lanes[lane]?.[k] ?? 0);
            });
          }
      });
    });
  }
}
