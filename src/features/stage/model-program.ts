import { mapTexture, sheetTexture, valueTexture } from '@/features/stage/stage-textures';
import { addExtras } from '@/features/stage/stage-geometry';
import type { LaidOut } from '@/core/mesh/stage-arrays';
import type { MeshMap } from '@/core/mesh/mesh-map';
import type { ValueKind } from '@/core/graph/document';
import type { StageProgram } from '@/core/evaluate/stage-program';
import { NO_IMAGE } from '@/core/base/image';
import type { ImageAtlas } from '@/core/base/image';
import { mapSampler } from '@/core/backends/glsl/stage-shader';
import { imageSampler } from '@/core/backends/glsl/emit';
import * as THREE from 'three';

/**
 * The program of a model's network where the graphics processor runs it: its material, the values,
 * maps and images it reads. A new one compiles beside the running one, which stays until it is
 * ready.
 */
export class ModelProgram {
  private program: StageProgram | null = null;
  private pending: { material: THREE.RawShaderMaterial; program: StageProgram } | null = null;
  private values: Float32Array | null = null;
  private readonly images = new Map<number, ImageAtlas>();
  private readonly mapTextures = new Map<string, THREE.DataTexture>();
  private readonly eye = new THREE.Vector3();

  /** @param onReady told what the program shows, once it runs */
  constructor(
    private readonly view: ProgramView,
    private readonly mesh: THREE.Mesh<THREE.BufferGeometry, THREE.Material>,
    private readonly onReady: (kind: ValueKind) => void,
  ) {}

  get isRunning(): boolean {
    return this.program !== null;
  }
  get isCompiling(): boolean {
    return this.pending !== null;
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
    const started = performance.now();
    if (model) addExtras(this.mesh.geometry, model, shader);
    this.pending = { material, program };
    const trial = new THREE.Scene();
    trial.add(new THREE.Mesh(this.mesh.geometry, material));
    void this.view.renderer.compileAsync(trial, this.view.camera).then(() => {
      if (this.pending?.material !== material) {
        material.dispose();
        return;
      }
      this.view.timing.lastCompile = performance.now() - started;
      this.pending = null;
      this.adopt(material, program);
    });
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
    if (this.values) this.setValues(this.values);
    this.images.forEach((sheet, slot) => {
      this.setImage(slot, sheet);
    });
    this.mapTextures.forEach((texture, field) => {
      this.bindMap(field, texture);
    });
    this.onReady(program.kind);
  }

  setValues(values: Float32Array): void {
    this.values = values;
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
}
