import * as THREE from 'three';
import type { ModelBounds } from '@/core/compile/model-scale';
import type { SceneLight, Surroundings } from '@/core/graph/document';
import { ALL_TARGETS } from '@/core/surface/stage-layout';
import type { FillSource, StageSight } from '@/state/stage-feed';
import { isSoftware } from './buffer-filler';
import type { StageElement, StageSize } from './stage-input';
import type { StageEvents, StageMode, StageTrial } from './stage-events';
import { StageBalls } from './stage-balls';
import { StageBeacons } from './stage-beacons';
import { StageGround } from './stage-ground';
import { StageLightHandles } from './stage-light-handles';
import { StageLights } from './stage-lights';
import type { SceneBox } from './stage-lights';
import { makeLookUniforms } from './stage-materials';
import { StageModel } from './stage-model';
import type { StageView } from './stage-model';
import { makeSurroundings } from './surroundings';
import type { StageLook } from '@/state/stores';
import { StageCamera } from '@/features/stage/stage-camera';

/**
 * The 3D view, drawn in a worker of its own: models, each with its network, lit alike, seen by one
 * camera.
 */
export class StageRenderer implements StageView {
  readonly renderer: THREE.WebGLRenderer;
  readonly shadedScene = new THREE.Scene();
  readonly look = makeLookUniforms();
  readonly mode: StageMode;
  readonly targets: number;
  /** Whether the graphics processor can write too few values at once for a network's program. */
  readonly isShort: boolean;
  readonly view: StageCamera;
  readonly beacons: StageBeacons;
  readonly ground = new StageGround(this.shadedScene);
  private readonly balls = new StageBalls(this.shadedScene);
  private readonly lightHandles: StageLightHandles;
  private isPlacingLights = false;
  /** Times for tests and benchmarks, milliseconds. */
  readonly timing = { frames: 0, lastFrame: 0, lastCompile: 0 };
  private readonly models = new Map<string, StageModel>();
  private readonly lights: StageLights;
  private lit: readonly SceneLight[] = [];
  private looks: { readonly look: StageLook; readonly stretch: readonly [number, number] } = {
    look: 'finished',
    stretch: [0, 1],
  };
  private channel: number | null = null;
  private frame = 0;
  private shadowsAreOld = true;

  constructor(
    private readonly canvas: OffscreenCanvas,
    element: StageElement,
    size: StageSize,
    private readonly events: Pick<StageEvents, 'onCamera' | 'onBeacon' | 'onLight' | 'onRefused'>,
    mode: StageMode | null = null,
    readonly trial: StageTrial | null = null,
  ) {
    this.renderer = new THREE.WebGLRenderer({
      canvas,
      antialias: true,
      preserveDrawingBuffer: true,
      powerPreference: 'high-performance',
    });
    this.renderer.toneMapping = THREE.NeutralToneMapping;
    this.renderer.setClearColor(0x000000, 0);
    // Redrawn only when a light or a model moved.
    this.renderer.shadowMap.autoUpdate = false;
    const wanted = mode ?? (isSoftware(this.renderer) ? 'workers' : 'program');
    this.isShort = wanted === 'program' && this.mostTargets() < ALL_TARGETS;
    this.mode = this.isShort ? 'workers' : wanted;
    this.targets = this.mode === 'program' ? ALL_TARGETS : 1;
    this.shadedScene.environment = makeSurroundings();
    this.lights = new StageLights(this.shadedScene);
    this.lightHandles = this.makeLightHandles(element);
    this.view = new StageCamera(element, {
      onCamera: (camera) => {
        events.onCamera(camera);
      },
      onMove: () => {
        for (const model of this.models.values()) model.look();
        this.invalidate();
      },
    });
    this.beacons = new StageBeacons(this.shadedScene, this.camera, element.asElement, {
      onMove: (id, to) => {
        events.onBeacon(id, to);
      },
      onChange: () => {
        this.invalidate();
      },
      onDrag: (isDragging) => {
        this.view.isEnabled = !isDragging;
        if (!isDragging) events.onBeacon(null, null);
      },
    });
    this.resize(size);
  }

  /** Made before the camera's controls: what takes a handle does not turn the view. */
  private makeLightHandles(element: StageElement): StageLightHandles {
    const eyeOf = (): StageCamera => this.view;
    return new StageLightHandles(
      this.shadedScene,
      element,
      {
        get camera() {
          return eyeOf().camera;
        },
        project: (place) => eyeOf().project(place),
        rayThrough: (x, y) => eyeOf().rayThrough(x, y),
      },
      {
        onMove: (...moved) => {
          this.events.onLight(...moved);
        },
        onDrag: (isDragging) => {
          this.view.isEnabled = !isDragging;
        },
        onChange: () => {
          this.invalidate();
        },
      },
    );
  }

  /** Whether the lights have handles. */
  placeLights(isPlacing: boolean): void {
    this.isPlacingLights = isPlacing;
    this.lightHandles.show(isPlacing ? this.lit : [], this.view.current);
  }

  /** How many values a program may write at once. */
  private mostTargets(): number {
    const gl = this.renderer.getContext();
    const most: unknown = gl.getParameter(WebGL2RenderingContext.MAX_DRAW_BUFFERS);
    return Math.min(Number(most), this.trial?.mostTargets ?? Infinity);
  }

  refused(reason: string): void {
    this.events.onRefused(reason);
  }

  get camera(): THREE.PerspectiveCamera {
    return this.view.camera;
  }

  close(): void {
    cancelAnimationFrame(this.frame);
    this.beacons.close();
    this.lightHandles.close();
    this.ground.close();
    this.balls.close();
    this.view.close();
    for (const model of this.models.values()) model.close();
    this.renderer.dispose();
  }

  resize({ width, height, ratio }: StageSize): void {
    this.renderer.setPixelRatio(ratio);
    this.renderer.setSize(width, height, false);
    const pixels = this.renderer.getDrawingBufferSize(new THREE.Vector2());
    // The camera first: what is seen is looked up as soon as a model hears of its new size.
    this.view.resize({ width, height, ratio });
    for (const model of this.models.values()) model.resize(pixels.x, pixels.y);
    this.invalidate();
  }

  get isBusy(): boolean {
    return this.frame !== 0 || [...this.models.values()].some((model) => model.isBusy);
  }

  add(name: string, fill: FillSource): StageModel {
    const model = new StageModel(this, fill);
    const pixels = this.renderer.getDrawingBufferSize(new THREE.Vector2());
    model.resize(pixels.x, pixels.y);
    model.setLook(this.looks.look, this.looks.stretch);
    model.setChannel(this.channel);
    // Beacons are drawn on the first, the current model.
    if (this.models.size === 0)
      model.onGeometry = (geometry) => {
        this.beacons.setSurface(geometry);
      };
    this.models.set(name, model);
    return model;
  }

  /** The current model: the first that came. */
  private get current(): StageModel | undefined {
    return this.models.values().next().value;
  }

  model(name: string): StageModel | undefined {
    return this.models.get(name);
  }

  remove(name: string): void {
    this.models.get(name)?.close();
    this.models.delete(name);
    this.shadowsMoved();
    this.invalidate();
  }

  setScene(current: ModelBounds, all: SceneBox): void {
    this.view.setScene(current, all);
    this.setLights(this.lit);
  }

  setLights(lights: readonly SceneLight[]): void {
    this.lit = lights;
    const { current, box } = this.view;
    if (!current) return;
    this.ground.place(current, box);
    const throwsShadows = this.lights.show(lights, current, box);
    this.ground.setShadows(throwsShadows);
    if (this.isPlacingLights) this.lightHandles.show(lights, current);
    if (this.renderer.shadowMap.enabled !== throwsShadows) {
      this.renderer.shadowMap.enabled = throwsShadows;
      for (const model of this.models.values()) model.shadowsChanged();
    }
    this.shadowsMoved();
    this.invalidate();
  }

  setLook(look: StageLook, stretch: readonly [number, number]): void {
    this.looks = { look, stretch };
    this.look.clay.value = look === 'clay' ? 1 : 0;
    this.look.raise.value = look === 'exaggerated' ? 1 : 0;
    for (const model of this.models.values()) model.setLook(look, stretch);
    this.invalidate();
  }

  setSight({ exposure, ground, balls, channel }: StageSight): void {
    this.renderer.toneMappingExposure = 2 ** exposure;
    this.ground.wish(ground);
    this.balls.wish(balls);
    this.channel = channel;
    for (const model of this.models.values()) model.setChannel(channel);
    this.invalidate();
  }

  setSurroundings({ turn, strength }: Surroundings): void {
    this.shadedScene.environmentRotation.set(0, (turn * Math.PI) / 180, 0);
    this.shadedScene.environmentIntensity = strength;
    this.invalidate();
  }

  shadowsMoved(): void {
    this.shadowsAreOld = true;
  }

  invalidate(): void {
    if (this.frame === 0)
      this.frame = requestAnimationFrame(() => {
        this.draw();
      });
  }

  private draw(): void {
    this.frame = 0;
    if (![...this.models.values()].some((model) => model.isReady)) return;
    const started = performance.now();
    for (const model of this.models.values()) model.drawParameters();
    this.renderer.setRenderTarget(null);
    const isShown = this.current?.isShaded === true;
    this.balls.show(isShown, this.view);
    if (this.ground.show(isShown) || this.shadowsAreOld) this.ground.draw(this.renderer);
    if (this.shadowsAreOld) this.renderer.shadowMap.needsUpdate = true;
    this.shadowsAreOld = false;
    this.renderer.render(this.shadedScene, this.camera);
    this.timing.frames++;
    this.timing.lastFrame = performance.now() - started;
  }

  /** Draws now and waits for the graphics processor; for benchmarks. Milliseconds. */
  drawAndWait(): number {
    const started = performance.now();
    this.draw();
    this.finish();
    return performance.now() - started;
  }

  /** Waits until everything drawn is done. */
  finish(): void {
    const gl = this.renderer.getContext();
    gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
  }

  /** What is drawn, as PNG. @throws Error where the stage rests: nothing is drawn there */
  picture(): Promise<Blob> {
    if (this.trial?.isResting) throw new Error('Invariant broken: a resting stage has no picture');
    return this.canvas.convertToBlob({ type: 'image/png' });
  }
}
