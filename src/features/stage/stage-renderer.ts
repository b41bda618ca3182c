import * as THREE from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import type { ModelBounds } from '@/core/compile/model-scale';
import { framingCamera } from '@/core/evaluate/camera';
import type { SceneLight, Surroundings, Triple } from '@/core/graph/document';
import { ALL_TARGETS, PLAIN_TARGETS } from '@/core/surface/stage-layout';
import type { FillSource } from '@/state/stage-feed';
import { isSoftware } from './buffer-filler';
import type { StageElement, StageSize } from './stage-input';
import type { StageEvents, StageMode } from './stage-events';
import { StageBeacons } from './stage-beacons';
import { StageLights } from './stage-lights';
import type { SceneBox } from './stage-lights';
import { makeLookUniforms } from './stage-materials';
import { StageModel } from './stage-model';
import type { StageView } from './stage-model';
import { makeSurroundings } from './surroundings';
import type { StageLook } from '@/state/stores';

const distance = (a: Triple, b: Triple): number =>
  Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
const NOWHERE: SceneBox = { centre: [0, 0, 0], size: 1 };

/**
 * The 3D view, drawn in a worker of its own: models, each with its network, lit alike, seen by one
 * camera.
 */
export class StageRenderer implements StageView {
  readonly renderer: THREE.WebGLRenderer;
  readonly camera = new THREE.PerspectiveCamera((0.6 * 180) / Math.PI, 1, 0.01, 100);
  readonly shadedScene = new THREE.Scene();
  readonly look = makeLookUniforms();
  readonly mode: StageMode;
  readonly targets: number;
  readonly beacons: StageBeacons;
  /** Times for tests and benchmarks, milliseconds. */
  readonly timing = { frames: 0, lastFrame: 0, lastCompile: 0 };
  private readonly models = new Map<string, StageModel>();
  private readonly controls: OrbitControls;
  private readonly lights: StageLights;
  private lit: readonly SceneLight[] = [];
  private current: ModelBounds | null = null;
  private box = NOWHERE;
  private looks: { readonly look: StageLook; readonly stretch: readonly [number, number] } = {
    look: 'finished',
    stretch: [0, 1],
  };
  private size: StageSize = { width: 1, height: 1, ratio: 1 };
  private frame = 0;
  private shadowsAreOld = true;
  /** Whether the camera stands as framing placed it: then it follows the size of the stage. */
  private isFramed = false;

  constructor(
    private readonly canvas: OffscreenCanvas,
    element: StageElement,
    size: StageSize,
    private readonly events: Pick<StageEvents, 'onCamera' | 'onBeacon'>,
    mode: StageMode | null = null,
  ) {
    this.renderer = new THREE.WebGLRenderer({
      canvas,
      antialias: true,
      preserveDrawingBuffer: true,
      powerPreference: 'high-performance',
    });
    this.renderer.toneMapping = THREE.NeutralToneMapping;
    this.renderer.setClearColor(0x000000, 0);
    // Drawn anew only when a light or a model moved.
    this.renderer.shadowMap.autoUpdate = false;
    this.targets =
      this.renderer.getContext().getParameter(WebGL2RenderingContext.MAX_DRAW_BUFFERS) >=
      ALL_TARGETS
        ? ALL_TARGETS
        : PLAIN_TARGETS;
    this.mode = mode ?? (isSoftware(this.renderer) ? 'workers' : 'program');
    this.shadedScene.environment = makeSurroundings(this.renderer);
    this.lights = new StageLights(this.shadedScene);
    this.controls = new OrbitControls(this.camera, element.asElement);
    this.controls.enableDamping = false;
    this.controls.addEventListener('start', () => {
      this.isFramed = false;
    });
    this.controls.addEventListener('change', () => {
      this.cameraMoved();
    });
    this.controls.addEventListener('end', () => {
      this.tellCamera();
    });
    this.beacons = new StageBeacons(this.shadedScene, this.camera, element.asElement, {
      onMove: (id, to) => {
        events.onBeacon(id, to);
      },
      onChange: () => {
        this.invalidate();
      },
      onDrag: (isDragging) => {
        this.controls.enabled = !isDragging;
        if (!isDragging) events.onBeacon(null, null);
      },
    });
    this.resize(size);
  }

  close(): void {
    cancelAnimationFrame(this.frame);
    this.beacons.close();
    this.controls.dispose();
    for (const model of this.models.values()) model.close();
    this.renderer.dispose();
  }

  resize({ width, height, ratio }: StageSize): void {
    this.size = { width, height, ratio };
    this.renderer.setPixelRatio(ratio);
    this.renderer.setSize(width, height, false);
    this.camera.aspect = width / height;
    this.camera.updateProjectionMatrix();
    const pixels = this.renderer.getDrawingBufferSize(new THREE.Vector2());
    for (const model of this.models.values()) model.resize(pixels.x, pixels.y);
    if (this.isFramed) this.frameModel();
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
    // Beacons are drawn on the first, the current model.
    if (this.models.size === 0)
      model.onGeometry = (geometry) => {
        this.beacons.setSurface(geometry);
      };
    this.models.set(name, model);
    return model;
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
    // A model that is merely turned leaves the camera where it is.
    const isOther =
      !this.current ||
      this.current.size !== current.size ||
      distance(this.current.minimum, current.minimum) > 0 ||
      Math.abs(this.box.size - all.size) > all.size * 0.05 ||
      distance(this.box.centre, all.centre) > all.size * 0.1;
    this.current = current;
    this.box = all;
    this.setLights(this.lit);
    if (isOther) this.frameModel();
  }

  setLights(lights: readonly SceneLight[]): void {
    this.lit = lights;
    if (!this.current) return;
    const throwsShadows = this.lights.show(lights, this.current, this.box);
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

  setSurroundings({ turn, strength }: Surroundings): void {
    this.shadedScene.environmentRotation.set(0, (turn * Math.PI) / 180, 0);
    this.shadedScene.environmentIntensity = strength;
    this.invalidate();
  }

  /** Where a place of object space is seen, pixels of the page from the canvas's corner. */
  project(place: Triple): readonly [number, number] {
    const seen = new THREE.Vector3(...place).project(this.camera);
    return [((seen.x + 1) / 2) * this.size.width, ((1 - seen.y) / 2) * this.size.height];
  }

  /** The ray from the eye through a place of the canvas, pixels of the page. */
  rayThrough(x: number, y: number): { readonly from: Triple; readonly towards: Triple } {
    const through = new THREE.Vector3(
      (x / this.size.width) * 2 - 1,
      1 - (y / this.size.height) * 2,
      0.5,
    ).unproject(this.camera);
    const { position } = this.camera;
    return { from: position.toArray(), towards: through.sub(position).normalize().toArray() };
  }

  /** Turns towards a place, from as far away as shows so much of it. */
  lookAt(place: readonly [number, number, number], radius: number): void {
    const target = new THREE.Vector3(...place);
    const away = this.camera.position
      .clone()
      .sub(this.controls.target)
      .setLength(Math.max(radius * 4, (this.current?.size ?? 1) * 0.4));
    this.isFramed = false;
    this.controls.target.copy(target);
    this.camera.position.copy(target).add(away);
    this.controls.update();
    this.cameraMoved();
    this.tellCamera();
  }

  /** Looks at everything that stands on the stage. */
  frameModel(): void {
    const { centre, size } = this.box;
    const { eye, target } = framingCamera(centre, size, this.camera.aspect);
    this.camera.position.set(...(eye as [number, number, number]));
    this.camera.near = size / 200;
    this.camera.far = size * 40;
    this.camera.updateProjectionMatrix();
    this.controls.target.set(...(target as [number, number, number]));
    this.isFramed = true;
    this.controls.update();
    this.cameraMoved();
    this.tellCamera();
  }

  private cameraMoved(): void {
    for (const model of this.models.values()) model.look();
    this.invalidate();
  }

  /**
   * Where models stand beside it, swatches show the current one as closely as the stage shows them
   * all.
   */
  private tellCamera(): void {
    const { current, box, camera } = this;
    if (!current) return;
    const ratio = Math.min(1, current.size / box.size);
    const middle = current.minimum.map((low, axis) => low + (current.extent[axis] as number) / 2);
    const shared = (place: THREE.Vector3): Triple =>
      place
        .toArray()
        .map((x, axis) =>
          ratio > 0.999 ? x : (middle[axis] as number) + (x - (box.centre[axis] as number)) * ratio,
        ) as unknown as Triple;
    this.events.onCamera({
      eye: shared(camera.position),
      target: shared(this.controls.target),
      fieldRad: (camera.fov * Math.PI) / 180,
      aspect: camera.aspect,
    });
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

  /** What is drawn, as PNG. */
  picture(): Promise<Blob> {
    return this.canvas.convertToBlob({ type: 'image/png' });
  }

  orbit(turnRad: number, tiltRad: number): void {
    this.isFramed = false;
    const offset = this.camera.position.clone().sub(this.controls.target);
    const place = new THREE.Spherical().setFromVector3(offset);
    place.theta += turnRad;
    place.phi = Math.min(Math.PI - 0.05, Math.max(0.05, place.phi + tiltRad));
    this.camera.position
      .copy(this.controls.target)
      .add(new THREE.Vector3().setFromSpherical(place));
    this.controls.update();
    this.tellCamera();
    this.invalidate();
  }
}
