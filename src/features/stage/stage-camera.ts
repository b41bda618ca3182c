import * as THREE from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import type { ModelBounds } from '@/core/compile/model-scale';
import { framingCamera } from '@/core/evaluate/camera';
import type { Triple } from '@/core/graph/document';
import type { StageEvents } from './stage-events';
import type { StageElement, StageSize } from './stage-input';
import type { SceneBox } from './stage-lights';

const distance = (a: Triple, b: Triple): number =>
  Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
const NOWHERE: SceneBox = { centre: [0, 0, 0], size: 1 };

/** The camera of the stage: turned by hand, framing what stands there, reported to the page. */
export class StageCamera {
  readonly camera = new THREE.PerspectiveCamera((0.6 * 180) / Math.PI, 1, 0.01, 100);
  /** The box around the current model, and around everything that stands on the stage. */
  current: ModelBounds | null = null;
  box = NOWHERE;
  private readonly controls: OrbitControls;
  private size: StageSize = { width: 1, height: 1, ratio: 1 };
  /** Whether it stands as framing placed it: then it follows the size of the stage. */
  private isFramed = false;

  /** `onMove`: what is seen changed; `onCamera`: it came to rest somewhere else. */
  constructor(
    element: StageElement,
    private readonly listener: Pick<StageEvents, 'onCamera'> & { readonly onMove: () => void },
  ) {
    this.controls = new OrbitControls(this.camera, element.asElement);
    this.controls.enableDamping = false;
    this.controls.addEventListener('start', () => {
      this.isFramed = false;
    });
    this.controls.addEventListener('change', () => {
      listener.onMove();
    });
    this.controls.addEventListener('end', () => {
      this.tellCamera();
    });
  }

  close(): void {
    this.controls.dispose();
  }

  /** The place that is looked at. */
  get target(): THREE.Vector3 {
    return this.controls.target;
  }

  /** Whether dragging turns it; not while a handle is dragged. */
  set isEnabled(isEnabled: boolean) {
    this.controls.enabled = isEnabled;
  }

  resize(size: StageSize): void {
    this.size = size;
    this.camera.aspect = size.width / size.height;
    this.camera.updateProjectionMatrix();
    if (this.isFramed) this.frame();
  }

  /** Another scene is framed; a model that is merely turned leaves the camera where it is. */
  setScene(current: ModelBounds, all: SceneBox): void {
    const isOther =
      !this.current ||
      this.current.size !== current.size ||
      distance(this.current.minimum, current.minimum) > 0 ||
      Math.abs(this.box.size - all.size) > all.size * 0.05 ||
      distance(this.box.centre, all.centre) > all.size * 0.1;
    this.current = current;
    this.box = all;
    if (isOther) this.frame();
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
    this.listener.onMove();
    this.tellCamera();
  }

  /** Stands where it stood before, as a view that was kept says. */
  standAt(eye: Triple, target: Triple): void {
    this.isFramed = false;
    this.camera.position.set(...eye);
    this.controls.target.set(...target);
    this.controls.update();
    this.listener.onMove();
    this.tellCamera();
  }

  /** Looks at everything that stands on the stage. */
  frame(): void {
    const { centre, size } = this.box;
    const { eye, target } = framingCamera(centre, size, this.camera.aspect);
    this.camera.position.set(...(eye as [number, number, number]));
    this.camera.near = size / 200;
    this.camera.far = size * 40;
    this.camera.updateProjectionMatrix();
    this.controls.target.set(...(target as [number, number, number]));
    this.isFramed = true;
    this.controls.update();
    this.listener.onMove();
    this.tellCamera();
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
    this.listener.onCamera({
      eye: shared(camera.position),
      target: shared(this.controls.target),
      fieldRad: (camera.fov * Math.PI) / 180,
      aspect: camera.aspect,
    });
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
    this.listener.onMove();
    this.tellCamera();
  }
}
