import * as THREE from 'three';
import { imageSampler } from '@/core/backends/glsl/emit';
import { mapSampler } from '@/core/backends/glsl/stage-shader';
import { NO_IMAGE } from '@/core/base/image';
import type { ImageAtlas } from '@/core/base/image';
import { UNMOVED } from '@/core/compile/model-scale';
import type { Placing } from '@/core/compile/model-scale';
import type { ValueKind } from '@/core/graph/document';
import type { MeshMap } from '@/core/mesh/mesh-map';
import type { LaidOut } from '@/core/mesh/stage-arrays';
import { ALL_TARGETS, NORMAL_TARGET } from '@/core/surface/stage-layout';
import type { Appearance } from '@/core/surface/stage-layout';
import type { FillSource } from '@/state/stage-feed';
import type { StageProgram } from '@/core/evaluate/stage-program';
import { BufferFiller } from './buffer-filler';
import { addExtras, stageGeometry } from './stage-geometry';
import { makeClayValueMaterial, makeFlatMaterial } from './stage-materials';
import type { LookUniforms } from './stage-materials';
import { mapTexture, sheetTexture, valueTexture } from './stage-textures';
import { SurfaceShading } from './surface-shading';
import type { StageLook } from '@/state/stores';

/** Clay is opaque and does nothing but reflect. */
const CLAY_APPEARANCE: Appearance = { features: [], opacityMode: 'opaque' };

/** What all models of a stage share. */
export interface StageView {
  readonly renderer: THREE.WebGLRenderer;
  readonly camera: THREE.PerspectiveCamera;
  readonly shadedScene: THREE.Scene;
  readonly mode: 'program' | 'workers';
  readonly targets: number;
  readonly look: LookUniforms;
  readonly timing: { lastCompile: number };
  invalidate(): void;
  /** What throws shadows moved, came or went: the next picture draws them anew. */
  shadowsMoved(): void;
}

/** The buffer a network's program writes: directions in full precision, the rest in half. */
function makeSurfaceTarget(targets: number): THREE.WebGLRenderTarget {
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

/**
 * One model on the stage, drawn in two passes: its network's program fills a buffer of surface
 * parameters, once per visible point; then fixed materials shade that buffer. Editing recompiles
 * only the first pass; a dragged value recompiles nothing.
 */
export class StageModel {
  private readonly programScene = new THREE.Scene();
  private readonly programMesh = new THREE.Mesh<THREE.BufferGeometry, THREE.Material>();
  private readonly shadedMesh = new THREE.Mesh<THREE.BufferGeometry, THREE.Material>();
  private readonly target: THREE.WebGLRenderTarget;
  private readonly filler: BufferFiller | null;
  private readonly shading: SurfaceShading;
  private readonly flatMaterial: THREE.ShaderMaterial;
  private readonly clayMaterial: THREE.MeshStandardMaterial;
  private readonly isColour = { value: false };
  private readonly images = new Map<number, ImageAtlas>();
  private readonly mapTextures = new Map<string, THREE.DataTexture>();
  private readonly eye = new THREE.Vector3();
  /** Told of the surface when another model comes. */
  onGeometry: ((geometry: THREE.BufferGeometry) => void) | null = null;
  private appearance: Appearance | null = null;
  private looks: StageLook = 'finished';
  private program: StageProgram | null = null;
  private pending: { material: THREE.RawShaderMaterial; program: StageProgram } | null = null;
  private model: LaidOut | null = null;
  private kind: ValueKind = 'surface';
  private values: Float32Array | null = null;
  private expected: MessagePort | null = null;
  private placing = UNMOVED;

  constructor(
    private readonly view: StageView,
    fill: FillSource,
  ) {
    this.target = makeSurfaceTarget(view.targets);
    this.filler =
      view.mode === 'workers'
        ? new BufferFiller(view.renderer, fill, (kind) => {
            this.useKind(kind);
            view.invalidate();
          })
        : null;
    const textures = this.filler?.textures ?? this.target.textures;
    this.flatMaterial = makeFlatMaterial(textures[0] as THREE.Texture, this.isColour);
    this.clayMaterial = makeClayValueMaterial(textures[0] as THREE.Texture, this.isColour);
    this.programScene.add(this.programMesh);
    this.shadedMesh.castShadow = this.shadedMesh.receiveShadow = true;
    this.shadedMesh.visible = false;
    view.shadedScene.add(this.shadedMesh);
    this.shading = new SurfaceShading(view, textures, () => {
      this.useKind(this.kind);
      view.invalidate();
    });
  }

  close(): void {
    this.expected?.close();
    this.view.shadedScene.remove(this.shadedMesh);
    this.programMesh.geometry.dispose();
    this.mapTextures.forEach((texture) => {
      texture.dispose();
    });
    this.target.dispose();
    this.filler?.close();
    this.shading.close();
    this.flatMaterial.dispose();
    this.clayMaterial.dispose();
  }

  get isBusy(): boolean {
    return (
      this.expected !== null ||
      this.pending !== null ||
      this.shading.isBusy ||
      (this.filler?.isBusy ?? false)
    );
  }
  /** Whether there is something to draw. */
  get isReady(): boolean {
    return this.model !== null && (this.filler ? this.filler.isFilled : this.program !== null);
  }

  resize(width: number, height: number): void {
    if (this.filler) this.filler.resize(width, height);
    else this.target.setSize(width, height);
    this.look();
  }

  /** The camera moved, or the model did. */
  look(): void {
    if (this.model) this.filler?.look(this.programMesh, this.view.camera);
  }

  touch(): void {
    this.filler?.refill();
  }

  setAppearance(appearance: Appearance): void {
    this.appearance = appearance;
    const size = (this.model?.size ?? 1) * this.shadedMesh.scale.x;
    if (this.looks === 'clay')
      return this.shading.show(CLAY_APPEARANCE, this.programMesh.geometry, size);
    // A device that can write few targets shows paint and metal only.
    const { features, opacityMode } = appearance;
    const shown = this.view.targets === ALL_TARGETS || this.filler ? features : [];
    this.filler?.setWhole(Object.values(shown).some(Boolean));
    this.shading.show({ features: shown, opacityMode }, this.programMesh.geometry, size);
  }

  setLook(look: StageLook, stretch: readonly [number, number]): void {
    this.looks = look;
    (this.flatMaterial.uniforms['stretch']?.value as THREE.Vector2).set(
      ...(look === 'exaggerated' ? stretch : ([0, 1] as const)),
    );
    if (this.appearance) this.setAppearance(this.appearance);
    this.useKind(this.kind);
  }

  /** Whether there are shadows at all changed. */
  shadowsChanged(): void {
    this.shading.material.needsUpdate = true;
    this.clayMaterial.needsUpdate = true;
  }

  private useKind(kind: ValueKind): void {
    this.kind = kind;
    this.shadedMesh.material =
      kind === 'surface'
        ? this.shading.material
        : this.looks === 'clay'
          ? this.clayMaterial
          : this.flatMaterial;
    this.isColour.value = kind === 'colour';
  }

  /** Another model is on its way; until it is here the one before stays. */
  expect(port: MessagePort, placing: Placing): void {
    this.mapTextures.forEach((texture) => {
      texture.dispose();
    });
    this.mapTextures.clear();
    this.expected?.close();
    this.expected = port;
    this.placing = placing;
    port.onmessage = ({ data }: MessageEvent<LaidOut>) => {
      port.close();
      this.expected = null;
      this.setModel(data);
    };
  }

  private setModel(model: LaidOut): void {
    this.model = model;
    this.programMesh.geometry.dispose();
    const geometry = stageGeometry(model);
    this.programMesh.geometry = geometry;
    this.shadedMesh.geometry = geometry;
    this.onGeometry?.(geometry);
    if (this.program) addExtras(geometry, model, this.program.shader);
    this.setPlacing(this.placing);
  }

  setPlacing(placing: Placing): void {
    this.placing = placing;
    const { at, turn, scale } = placing;
    for (const mesh of [this.programMesh, this.shadedMesh]) {
      mesh.position.set(...at);
      mesh.rotation.set(0, (turn * Math.PI) / 180, 0);
      mesh.scale.setScalar(scale);
      mesh.updateMatrixWorld();
    }
    this.look();
    this.view.shadowsMoved();
    this.view.invalidate();
  }

  /** Compiles beside the running program; the old picture stays until the new one is ready. */
  setProgram(program: StageProgram): void {
    const { shader } = program;
    const rows = Math.max(1, Math.ceil(program.uniformCount / 4));
    const material = new THREE.RawShaderMaterial({
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
    const started = performance.now();
    if (this.model) addExtras(this.programMesh.geometry, this.model, shader);
    this.pending = { material, program };
    const trial = new THREE.Scene();
    trial.add(new THREE.Mesh(this.programMesh.geometry, material));
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

  private adopt(material: THREE.RawShaderMaterial, program: StageProgram): void {
    this.programMesh.material.dispose();
    this.programMesh.material = material;
    this.program = program;
    this.useKind(program.kind);
    if (this.values) this.setValues(this.values);
    this.images.forEach((sheet, slot) => {
      this.setImage(slot, sheet);
    });
    this.mapTextures.forEach((texture, field) => {
      this.bindMap(field, texture);
    });
    this.view.invalidate();
  }

  setValues(values: Float32Array): void {
    this.values = values;
    const material = this.programMesh.material;
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
    const { material } = this.programMesh;
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
    const material = this.programMesh.material;
    if (index < 0 || !(material instanceof THREE.RawShaderMaterial)) return;
    const uniform = material.uniforms[mapSampler(index)];
    if (uniform) uniform.value = texture;
    material.uniformsNeedUpdate = true;
  }

  /** The first pass: fills the buffer, where the graphics processor does that. */
  drawParameters(): void {
    if (this.shadedMesh.visible !== this.isReady) this.view.shadowsMoved();
    this.shadedMesh.visible = this.isReady;
    if (this.filler || !this.isReady) return;
    this.eye.copy(this.view.camera.position);
    this.programMesh.worldToLocal(this.eye);
    this.view.renderer.setRenderTarget(this.target);
    this.view.renderer.clear();
    this.view.renderer.render(this.programScene, this.view.camera);
  }
}
