import * as THREE from 'three';
import type { ImageAtlas } from '@/core/base/image';
import { IDENTITY_PLACEMENT } from '@/core/compile/model-scale';
import type { Placement } from '@/core/compile/model-scale';
import type { ValueKind } from '@/core/graph/document';
import type { MeshMap } from '@/core/mesh/mesh-map';
import type { LaidOut } from '@/core/mesh/stage-arrays';
import type { Appearance } from '@/core/surface/stage-layout';
import type { FillSource } from '@/state/stage-feed';
import type { ShadowOpacity } from '@/core/evaluate/shadow-opacity';
import type { StageProgram } from '@/core/evaluate/stage-program';
import { CastShadow } from './cast-shadow';
import { BufferCopy } from './buffer-copy';
import { BufferFiller } from './buffer-filler';
import type { StageTrial } from './stage-events';
import { stageGeometry } from './stage-geometry';
import type { LookUniforms } from './stage-materials';
import type { StageGround } from './stage-ground';
import { makeSurfaceTarget } from './stage-textures';
import { SurfaceShading } from './surface-shading';
import type { StageLook } from '@/state/stores';
import { ValueMaterials } from './value-materials';
import { ModelProgram } from '@/features/stage/model-program';

/** Clay is opaque and does nothing but reflect. */
const CLAY_APPEARANCE: Appearance = { features: [], opacityMode: 'opaque' };

/** What all models of a stage share. */
export interface StageView {
  readonly renderer: THREE.WebGLRenderer;
  readonly camera: THREE.PerspectiveCamera;
  readonly shadedScene: THREE.Scene;
  readonly ground: StageGround;
  readonly mode: 'program' | 'workers';
  readonly targets: number;
  readonly look: LookUniforms;
  readonly timing: { lastCompile: number };
  readonly trial: StageTrial | null;
  /** The driver took no program for a network. */
  refused(reason: string): void;
  invalidate(): void;
  /** What throws shadows moved, came or went: the next picture draws them anew. */
  shadowsMoved(): void;
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
  /** Seen by the ground alone. */
  private readonly groundMesh: THREE.Mesh<THREE.BufferGeometry, THREE.Material>;
  private readonly target: THREE.WebGLRenderTarget;
  /** Runs only where the graphics processor does; the feed sends to it all the same. */
  private readonly program: ModelProgram;
  private readonly filler: BufferFiller;
  /** Null where the workers' own textures are shaded. */
  private readonly copy: BufferCopy | null;
  private readonly shading: SurfaceShading;
  private readonly shadow: CastShadow;
  private readonly values: ValueMaterials;
  /** Whether all is there that the workers' picture depends on, and that the program's does. */
  private isFillKnown = true;
  private isProgramKnown = true;
  /** Told of the surface when another model comes. */
  onGeometry: ((geometry: THREE.BufferGeometry) => void) | null = null;
  private appearance: Appearance | null = null;
  private looks: StageLook = 'finished';
  private model: LaidOut | null = null;
  private kind: ValueKind = 'surface';
  private expected: MessagePort | null = null;
  private placement = IDENTITY_PLACEMENT;

  constructor(
    private readonly view: StageView,
    fill: FillSource,
  ) {
    this.target = makeSurfaceTarget(view.targets);
    const filled = (kind: ValueKind, isKnown: boolean): void => {
      this.isFillKnown = isKnown;
      this.useKind(kind);
      view.invalidate();
    };
    this.filler = new BufferFiller(view.renderer, fill, filled, view.trial?.isResting === true);
    this.program = new ModelProgram(view, this.programMesh, {
      onReady: (kind) => {
        this.filler.setActive(false);
        this.useKind(kind);
        view.invalidate();
      },
      onRefused: (reason) => {
        view.refused(reason);
      },
    });
    const hasProgram = view.mode === 'program';
    this.copy = hasProgram ? new BufferCopy(this.filler.textures.slice(0, view.targets)) : null;
    const textures = hasProgram ? this.target.textures : this.filler.textures;
    this.values = new ValueMaterials(textures[0] as THREE.Texture);
    this.programScene.add(this.programMesh);
    this.shadedMesh.castShadow = this.shadedMesh.receiveShadow = true;
    this.shadow = new CastShadow(this.shadedMesh);
    this.shadedMesh.visible = false;
    view.shadedScene.add(this.shadedMesh);
    this.groundMesh = new THREE.Mesh(new THREE.BufferGeometry(), view.ground.casting);
    view.ground.casters.add(this.groundMesh);
    this.shading = new SurfaceShading(view, textures, () => {
      this.useKind(this.kind);
      view.invalidate();
    });
  }

  close(): void {
    this.expected?.close();
    this.view.shadedScene.remove(this.shadedMesh);
    this.view.ground.casters.remove(this.groundMesh);
    this.programMesh.geometry.dispose();
    this.program.dropMaps();
    this.target.dispose();
    this.filler.close();
    this.copy?.close();
    this.shading.close();
    this.shadow.close();
    this.values.close();
  }

  get isBusy(): boolean {
    return (
      this.expected !== null ||
      this.program.isCompiling ||
      this.shading.isBusy ||
      this.filler.isBusy
    );
  }
  /** Whether there is something to draw. */
  get isReady(): boolean {
    return this.model !== null && (this.filler.isFilled || this.program.isRunning);
  }
  /** Whether it is shown in light, not a value flat. */
  get isShaded(): boolean {
    return this.isReady && !this.isUnknown && (this.kind === 'surface' || this.looks === 'clay');
  }
  /** Whether the workers fill the picture: always, or while no program of this network runs. */
  private get isFilling(): boolean {
    return this.view.mode === 'workers' || !this.program.isCurrent;
  }

  /** Whether it waits for a map, an image, or what its surface needs: no look may be shown. */
  private get isUnknown(): boolean {
    if (this.kind === 'surface' && this.appearance === null) return true;
    return !(this.isFilling ? this.isFillKnown : this.isProgramKnown);
  }

  /** Whether the maps and images that the program reads are there. */
  setKnown(isKnown: boolean): void {
    this.isProgramKnown = isKnown;
    this.useKind(this.kind);
    this.view.invalidate();
  }

  resize(width: number, height: number): void {
    this.filler.resize(width, height);
    if (this.copy) this.target.setSize(width, height);
    this.look();
  }

  /** The camera moved, or the model did. */
  look(): void {
    if (this.model) this.filler.look(this.programMesh, this.view.camera);
  }

  touch(): void {
    if (this.isFilling) this.filler.refill();
  }

  /** The structure changed: the workers fill until its program is here and compiled. */
  expectProgram(): void {
    this.program.expect();
    this.filler.setActive(true);
  }

  setAppearance(appearance: Appearance): void {
    this.appearance = appearance;
    this.useKind(this.kind);
    if (this.view.trial?.isResting) return;
    const size = (this.model?.size ?? 1) * this.shadedMesh.scale.x;
    if (this.looks === 'clay')
      return this.shading.show(CLAY_APPEARANCE, this.programMesh.geometry, size);
    this.filler.setWhole(appearance.features.length > 0);
    this.shading.show(appearance, this.programMesh.geometry, size);
  }

  setLook(look: StageLook, stretch: readonly [number, number]): void {
    this.looks = look;
    this.values.setLook(look, stretch);
    if (this.appearance) this.setAppearance(this.appearance);
    this.useKind(this.kind);
  }

  /** The channel of a flat value that is shown, as grey; null for all of them. */
  setChannel(channel: number | null): void {
    this.values.setChannel(channel);
    this.useKind(this.kind);
  }

  /** Whether there are shadows at all changed. */
  shadowsChanged(): void {
    this.shading.material.needsUpdate = true;
    this.values.shadowsChanged();
  }

  private useKind(kind: ValueKind): void {
    this.kind = kind;
    this.shadedMesh.material = this.isUnknown
      ? this.values.unknown
      : kind === 'surface'
        ? this.shading.material
        : this.values.of(kind);
  }

  /** Another model is on its way; until it is here the one before stays. */
  expect(port: MessagePort, placement: Placement): void {
    this.program.dropMaps();
    this.expected?.close();
    this.expected = port;
    this.placement = placement;
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
    this.shadedMesh.geometry = this.groundMesh.geometry = geometry;
    this.onGeometry?.(geometry);
    this.program.complete(geometry, model);
    this.setPlacement(this.placement);
  }

  setPlacement(placement: Placement): void {
    this.placement = placement;
    const { at, turn, scale } = placement;
    for (const mesh of [this.programMesh, this.shadedMesh, this.groundMesh]) {
      mesh.position.set(...at);
      mesh.rotation.set(0, (turn * Math.PI) / 180, 0);
      mesh.scale.setScalar(scale);
      mesh.updateMatrixWorld();
    }
    this.look();
    this.view.shadowsMoved();
    this.view.invalidate();
  }

  setProgram(program: StageProgram): void {
    this.program.setProgram(program, this.model);
    this.filler.setActive(true);
  }
  setValues(values: Float32Array): void {
    this.program.setValues(values);
    this.touch();
  }
  setMap(field: string, map: MeshMap): void {
    this.program.setMap(field, map);
    this.touch();
  }
  /** What it stops of the light where it throws shadows; null for all of it. */
  setShadow(opacity: ShadowOpacity | null): void {
    this.shadow.set(opacity);
    this.view.shadowsMoved();
    this.view.invalidate();
  }
  setImage(slot: number, sheet: ImageAtlas): void {
    this.program.setImage(slot, sheet);
    this.touch();
  }

  /** The first pass: fills the buffer, where the graphics processor does that. */
  drawParameters(): void {
    if (this.shadedMesh.visible !== this.isReady) this.view.shadowsMoved();
    this.shadedMesh.visible = this.isReady;
    if (!this.copy || !this.isReady) return;
    // Until the workers have filled a picture of the new structure, the old program's stays.
    if (this.isFilling && this.filler.isFilled) {
      this.copy.draw(this.view.renderer, this.target);
      return;
    }
    this.program.placeEye(this.view.camera);
    this.view.renderer.setRenderTarget(this.target);
    this.view.renderer.clear();
    this.view.renderer.render(this.programScene, this.view.camera);
  }
}
