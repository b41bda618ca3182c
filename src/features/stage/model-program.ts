import { mapTexture, sheetTexture, valueTexture } from '@/features/stage/stage-textures';
import { addExtras } from '@/features/stage/stage-geometry';
import type { LaidOut } from '@/core/mesh/stage-arrays';
import type { MeshMap } from '@/core/mesh/mesh-map';
import type { ValueKind } from '@/core/graph/document';
import type { StageProgram } from '@/core/evaluate/stage-program';
import { errorMessage } from '@/core/base/diagnostic';
import { NO_IMAGE } from '@/core/base/image';
import type { ImageAtlas } from '@/core/base/image';
import { mapSampler } from '@/core/backends/glsl/stage-shader';
import { imageSampler } from '@/core/backends/glsl/emit';
import type { StageTrial } from './stage-events';
import * as THREE from 'three';

interface ProgramListener {
  /** It runs; `kind` is what it shows. */
  readonly onReady: (kind: ValueKind) => void;
  /** The driver does not take it, and says why. */
  readonly onRefused: (reason: string) => void;
}

/** What the driver says against a program that was compiled; null where it can run. */
function refusalOf(
  renderer: THREE.WebGLRenderer,
  material: THREE.RawShaderMaterial,
): string | null {
  const gl = renderer.getContext();
  const { currentProgram } = renderer.properties.get(material) as {
    currentProgram?: { program: WebGLProgram; fragmentShader: WebGLShader };
  };
  if (!currentProgram) return 'It was not compiled.';
  if (gl.getProgramParameter(currentProgram.program, gl.LINK_STATUS)) return null;
  const words = [
    gl.getProgramInfoLog(currentProgram.program),
    gl.getShaderInfoLog(currentProgram.fragmentShader),
  ].filter(Boolean);
  return words.join(' ').slice(0, 400) || 'The driver gives no reason.';
}

/**
 * The program of a model's network where the graphics processor runs it: its material, the values,
 * maps and images it reads. A new one compiles beside the running one, which stays until it is
 * ready.
 */
export class ModelProgram {
  private program: StageProgram | null = null;
  private pending: { material: THREE.RawShaderMaterial; program: StageProgram } | null = null;
  /** Whether the running program is that of the newest structure. */
  private isNewest = false;
  private values: Float32Array | null = null;
  private readonly images = new Map<number, ImageAtlas>();
  private readonly mapTextures = new Map<string, THREE.DataTexture>();
  private readonly eye = new THREE.Vector3();

  constructor(
    private readonly view: ProgramView,
    private readonly mesh: THREE.Mesh<THREE.BufferGeometry, THREE.Material>,
    private readonly listener: ProgramListener,
  ) {}

  get isRunning(): boolean {
    return this.program !== null;
  }
  get isCompiling(): boolean {
    return this.pending !== null;
  }
  /** Whether what it draws is what the network is now. */
  get isCurrent(): boolean {
    return this.isNewest;
  }

  /** The structure changed: another program is on its way, and this one shows the past. */
  expect(): void {
    this.isNewest = false;
  }

  /** Forgets the maps of a model that leaves. */
  dropMaps(): void {
    for (const texture of this.mapTextures.values()) texture.dispose();
    this.mapTextures.clear();
  }

  /** Gives a new geometry what the running program reads of it. */
  complete(geometry: THREE.BufferGeometry, model: LaidOut): void {
    if (this.program) addExtras(geometry, model, this.program.shader);
  }

  /** Where the eye is, in the model's own space, for the picture to come. */
  placeEye(camera: THREE.Camera): void {
    this.eye.copy(camera.position);
    this.mesh.worldToLocal(this.eye);
  }

  /** Compiles beside the running program; the old picture stays until the new one is ready. */
  setProgram(program: StageProgram, model: LaidOut | null): void {
    const { shader } = program;
    const material = this.makeMaterial(program);
    if (model) addExtras(this.mesh.geometry, model, shader);
    this.isNewest = false;
    this.pending = { material, program };
    void this.compile(material).then((refusal) => {
      if (this.pending?.material !== material) {
        material.dispose();
        return;
      }
      this.pending = null;
      if (refusal === null) return this.adopt(material, program);
      material.dispose();
      this.listener.onRefused(refusal);
    });
  }

  /** Compiles a material's program. @returns what the driver says against it, or null */
  private async compile(material: THREE.RawShaderMaterial): Promise<string | null> {
    const { renderer, camera, timing, trial } = this.view;
    const started = performance.now();
    if (trial?.isRefusing) material.fragmentShader += '\nthis is no shader';
    const scene = new THREE.Scene();
    scene.add(new THREE.Mesh(this.mesh.geometry, material));
    try {
      await renderer.compileAsync(scene, camera);
    } catch (error) {
      return errorMessage(error);
    }
    if (trial?.delayMs) await new Promise((resolve) => setTimeout(resolve, trial.delayMs));
    timing.lastCompile = performance.now() - started;
    return refusalOf(renderer, material);
  }

  private makeMaterial({ shader, uniformCount }: StageProgram): THREE.RawShaderMaterial {
    const rows = Math.max(1, Math.ceil(uniformCount / 4));
    return new THREE.RawShaderMaterial({
      glslVersion: THREE.GLSL3,
      vertexShader: shader.vertex,
      fragmentShader: shader.fragment,
      side: THREE.DoubleSide,
      uniforms: {
        eye: { value: this.eye },
        values: {
          value: shader.valuesIn === 'array' ? new Float32Array(rows * 4) : valueTexture(rows),
        },
        ...Object.fromEntries(
          Array.from({ length: shader.imageCount }, (_, k) => [
            imageSampler(k),
            { value: sheetTexture(NO_IMAGE) },
          ]),
        ),
        ...Object.fromEntries(
          shader.mapFields.map((_, k) => [mapSampler(k), { value: mapTexture(null) }]),
        ),
      },
    });
  }

  /** Takes the place of the program before. */
  private adopt(material: THREE.RawShaderMaterial, program: StageProgram): void {
    this.mesh.material.dispose();
    this.mesh.material = material;
    this.program = program;
    this.isNewest = true;
    if (this.values) this.setValues(this.values);
    this.images.forEach((sheet, slot) => {
      this.setImage(slot, sheet);
    });
    this.mapTextures.forEach((texture, field) => {
      this.bindMap(field, texture);
    });
    this.listener.onReady(program.kind);
  }

  setValues(values: Float32Array): void {
    this.values = values;
    // Those of another structure mean nothing to the program that runs.
    if (!this.isNewest) return;
    const material = this.mesh.material;
    if (!(material instanceof THREE.RawShaderMaterial)) return;
    const held = material.uniforms['values']?.value as Float32Array | THREE.DataTexture | undefined;
    const into = held instanceof THREE.DataTexture ? (held.image.data as Float32Array) : held;
    if (into && into.length >= values.length) into.set(values);
    if (held instanceof THREE.DataTexture) held.needsUpdate = true;
    material.uniformsNeedUpdate = true;
  }

  setMap(field: string, map: MeshMap): void {
    const known = this.mapTextures.get(field);
    if (known && known.image.data === map.data) return;
    known?.dispose();
    const texture = mapTexture(map);
    this.mapTextures.set(field, texture);
    this.bindMap(field, texture);
  }

  setImage(slot: number, sheet: ImageAtlas): void {
    this.images.set(slot, sheet);
    const { material } = this.mesh;
    const uniform =
      material instanceof THREE.RawShaderMaterial
        ? material.uniforms[imageSampler(slot)]
        : undefined;
    if (!uniform || (uniform.value as THREE.DataTexture).image.data === sheet.data) return;
    (uniform.value as THREE.DataTexture).dispose();
    uniform.value = sheetTexture(sheet);
  }

  private bindMap(field: string, texture: THREE.DataTexture): void {
    const index = this.program?.shader.mapFields.indexOf(field) ?? -1;
    const material = this.mesh.material;
    if (index < 0 || !(material instanceof THREE.RawShaderMaterial)) return;
    const uniform = material.uniforms[mapSampler(index)];
    if (uniform) uniform.value = texture;
    material.uniformsNeedUpdate = true;
  }
}

/** What a program is compiled for. */
export interface ProgramView {
  readonly renderer: THREE.WebGLRenderer;
  readonly camera: THREE.Camera;
  readonly timing: { lastCompile: number };
  /** How a driver is imitated that takes its time or refuses; null but in tests. */
  readonly trial: StageTrial | null;
}
