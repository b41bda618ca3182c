import * as THREE from 'three';
import type { ModelBounds } from '@/core/compile/model-scale';
import { dragLight, isBehindModel, lightHandle, pushLight } from '@/core/edit/light-drag';
import type { Ray } from '@/core/edit/light-drag';
import type { SceneLight, Triple } from '@/core/graph/document';
import type { StageInput } from './stage-input';

/** How near to a handle the pointer takes it, pixels. */
const NEAR = 16;
/** Side of a handle's picture, pixels, and of the handle as a share of the stage's height. */
const SIDE = 96,
  SHARE = 0.1;
/** Share of its distance by which a lamp moves for one notch of the wheel. */
const PUSH = 0.04;
/** Undyed and weld, as the rest of the stage's drawing. */
const REST = '#e8e2d4',
  HELD = '#f2d94e';

interface Handle {
  readonly light: SceneLight;
  readonly sprite: THREE.Sprite;
  readonly thread: THREE.Line;
}
interface Eye {
  readonly camera: THREE.Camera;
  project(place: Triple): readonly [number, number];
  rayThrough(x: number, y: number): Ray;
}
interface Listener {
  /** Where a light is dragged to, in its own measure; nulls when the drag ends. */
  onMove(...moved: [id: string, at: Triple] | [null, null]): void;
  onDrag(isDragging: boolean): void;
  onChange(): void;
}

/** Handles by which the lights of the scene are taken on the stage. */
export class StageLightHandles {
  private handles: readonly Handle[] = [];
  private model: ModelBounds | null = null;
  private held: { readonly id: string; readonly isBehind: boolean } | null = null;
  private near: string | null = null;

  constructor(
    private readonly scene: THREE.Scene,
    element: EventTarget,
    private readonly eye: Eye,
    private readonly listener: Listener,
  ) {
    const on = (type: string, take: (input: StageInput, event: Event) => void): void => {
      element.addEventListener(type, (event) => {
        take(event as Event & StageInput, event);
      });
    };
    on('pointerdown', (input, event) => {
      this.take(input, event);
    });
    on('pointermove', (input) => {
      this.move(input);
    });
    for (const end of ['pointerup', 'pointercancel'])
      on(end, () => {
        this.release();
      });
    on('wheel', (input, event) => {
      this.push(input, event);
    });
  }

  /** @param lights those with a handle; none while they are not being placed */
  show(lights: readonly SceneLight[], model: ModelBounds | null): void {
    this.clear();
    this.model = model;
    if (!model) return;
    this.handles = lights.map((light) => this.draw(light, model));
    for (const { sprite, thread } of this.handles) this.scene.add(sprite, thread);
    this.dye();
  }

  private draw(light: SceneLight, model: ModelBounds): Handle {
    const place = new THREE.Vector3(...lightHandle(light, model));
    const middle = new THREE.Vector3(...model.minimum).addScaledVector(
      new THREE.Vector3(...model.extent),
      0.5,
    );
    const sprite = new THREE.Sprite(
      new THREE.SpriteMaterial({
        map: handlePicture(light),
        sizeAttenuation: false,
        depthTest: false,
        depthWrite: false,
        toneMapped: false,
      }),
    );
    sprite.position.copy(place);
    sprite.scale.setScalar(SHARE);
    sprite.renderOrder = 3;
    const thread = new THREE.Line(
      new THREE.BufferGeometry().setFromPoints([place, place.clone().lerp(middle, 0.6)]),
      new THREE.LineBasicMaterial({ transparent: true, opacity: 0.5, toneMapped: false }),
    );
    thread.renderOrder = 2;
    return { light, sprite, thread };
  }

  /** The handle that is held, or under the pointer, is of the accent's colour. */
  private dye(): void {
    for (const { light, sprite, thread } of this.handles) {
      const isMarked = light.id === (this.held?.id ?? this.near);
      // Shown as it is: neither light nor the picture's own colour space changes it.
      const dye = new THREE.Color(isMarked ? HELD : REST);
      sprite.material.color.copy(dye);
      (thread.material as THREE.LineBasicMaterial).color.copy(dye);
    }
    this.listener.onChange();
  }

  private at({ clientX, clientY }: StageInput): Handle | null {
    if (!this.model) return null;
    const model = this.model;
    const far = this.handles.map((handle) => {
      const [x, y] = this.eye.project([...lightHandle(handle.light, model)]);
      return { handle, distance: Math.hypot(x - clientX, y - clientY) };
    });
    const [nearest] = far.sort((a, b) => a.distance - b.distance);
    return nearest && nearest.distance <= NEAR ? nearest.handle : null;
  }

  private get place(): Triple {
    return this.eye.camera.position.toArray();
  }

  private take(input: StageInput, event: Event): void {
    const handle = input.button === 0 ? this.at(input) : null;
    if (!handle || !this.model) return;
    event.stopImmediatePropagation();
    this.held = {
      id: handle.light.id,
      isBehind: isBehindModel(handle.light, this.model, this.place),
    };
    this.listener.onDrag(true);
    this.dye();
  }

  private move(input: StageInput): void {
    const { held, model } = this;
    if (!held || !model) {
      const near = this.at(input)?.light.id ?? null;
      if (near === this.near) return;
      this.near = near;
      this.dye();
      return;
    }
    const light = this.handles.find((each) => each.light.id === held.id)?.light;
    if (!light) return;
    const forward = this.eye.camera.getWorldDirection(new THREE.Vector3()).toArray();
    this.listener.onMove(
      light.id,
      dragLight(light, model, this.eye.rayThrough(input.clientX, input.clientY), {
        forward,
        isBehind: held.isBehind !== input.shiftKey,
      }),
    );
  }

  private release(): void {
    if (!this.held) return;
    this.held = null;
    this.listener.onDrag(false);
    this.listener.onMove(null, null);
    this.dye();
  }

  /** The wheel over a lamp moves it along the view. */
  private push(input: StageInput, event: Event): void {
    const handle = this.at(input);
    if (!handle || handle.light.kind !== 'near' || !this.model) return;
    event.stopImmediatePropagation();
    const share = Math.sign(input.deltaY) * -PUSH;
    this.listener.onMove(handle.light.id, pushLight(handle.light, this.model, this.place, share));
  }

  private clear(): void {
    for (const { sprite, thread } of this.handles) {
      this.scene.remove(sprite, thread);
      sprite.material.map?.dispose();
      sprite.material.dispose();
      thread.geometry.dispose();
      (thread.material as THREE.Material).dispose();
    }
    this.handles = [];
  }

  close(): void {
    this.clear();
  }
}

/** A sun for a far light, a bulb's ring for a near one, and the light's name under it. */
function handlePicture({ kind, name }: SceneLight): THREE.CanvasTexture<OffscreenCanvas> {
  const canvas = new OffscreenCanvas(SIDE * 2, SIDE * 2);
  const pen = canvas.getContext('2d');
  if (pen) {
    pen.translate(SIDE, SIDE);
    pen.strokeStyle = pen.fillStyle = '#fff';
    pen.shadowColor = 'rgba(0, 0, 0, 0.8)';
    pen.shadowBlur = 6;
    pen.lineWidth = 5;
    pen.beginPath();
    pen.arc(0, 0, 17, 0, 2 * Math.PI);
    if (kind === 'far') pen.fill();
    else pen.stroke();
    for (let ray = 0; ray < 8; ray++) {
      const [x, y] = [Math.cos((ray * Math.PI) / 4), Math.sin((ray * Math.PI) / 4)];
      pen.beginPath();
      pen.moveTo(x * 25, y * 25);
      pen.lineTo(x * 35, y * 35);
      pen.stroke();
    }
    pen.font = '26px sans-serif';
    pen.textAlign = 'center';
    pen.fillText(name, 0, 70, SIDE * 2);
  }
  const picture = new THREE.CanvasTexture(canvas);
  picture.colorSpace = THREE.SRGBColorSpace;
  return picture;
}
