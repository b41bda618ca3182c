import * as THREE from 'three';
import { TransformControls } from 'three/addons/controls/TransformControls.js';
import { BeaconOutlines } from './beacon-outlines';
import type { BeaconInput, BeaconShape, PlacedBeacon } from '@/core/edit/beacons';
import type { Triple } from '@/core/graph/document';

const ROUND = 64;
const ring = (place: (x: number, y: number) => readonly [number, number, number]): number[] =>
  Array.from({ length: ROUND }, (_, k) =>
    [k, k + 1].flatMap((step) => {
      const angle = (step / ROUND) * 2 * Math.PI;
      return place(Math.cos(angle), Math.sin(angle));
    }),
  ).flat();
const BOX = [0, 1, 2].flatMap((axis) =>
  [
    [-1, -1],
    [-1, 1],
    [1, -1],
    [1, 1],
  ].flatMap(([u = 0, v = 0]) =>
    [-1, 1].flatMap((w) => {
      const p = [0, 0, 0];
      p[axis] = w;
      p[(axis + 1) % 3] = u;
      p[(axis + 2) % 3] = v;
      return p;
    }),
  ),
);

/** Lines on the boundary of each shape, at distance 1 in its own coordinates. */
const LINES: Readonly<Record<BeaconShape, readonly number[]>> = {
  sphere: [
    ...ring((x, y) => [x, y, 0]),
    ...ring((x, y) => [x, 0, y]),
    ...ring((x, y) => [0, x, y]),
  ],
  box: BOX,
  cylinder: [
    ...ring((x, y) => [x, 1, y]),
    ...ring((x, y) => [x, -1, y]),
    ...[
      [1, 0],
      [-1, 0],
      [0, 1],
      [0, -1],
    ].flatMap(([x = 0, z = 0]) => [x, -1, z, x, 1, z]),
  ],
  'half-space': [
    ...[-2, -1, 0, 1, 2].flatMap((x) => [x, 0, -2, x, 0, 2, -2, 0, x, 2, 0, x]),
    0,
    0,
    0,
    0,
    -0.6,
    0,
  ],
};

/** Dyes of the handles: madder, young willow, woad; weld while held. */
const HANDLES = { x: 0xd9776a, y: 0xb4bf6c, z: 0x86a9d9, held: 0xf2d94e } as const;
/** Lines of beacons that are not chosen: undyed. */
const OTHER = 0xe8e2d4;
const RADIANS = Math.PI / 180;
export type BeaconMove = Readonly<Record<BeaconInput, Triple>>;
const MODES: Readonly<Record<BeaconInput, 'translate' | 'rotate' | 'scale'>> = {
  place: 'translate',
  turn: 'rotate',
  extent: 'scale',
};

/** Draws the beacons of a board, and handles on the chosen one. */
export class StageBeacons {
  private readonly group = new THREE.Group();
  private readonly proxy = new THREE.Object3D();
  private readonly handles: TransformControls;
  private readonly outlines: BeaconOutlines;
  private shown: readonly PlacedBeacon[] = [];
  private surface: THREE.BufferGeometry | null = null;
  private chosen: string | null = null;
  private isDragging = false;

  constructor(
    private readonly scene: THREE.Scene,
    camera: THREE.Camera,
    element: HTMLElement,
    events: {
      readonly onMove: (id: string, to: BeaconMove) => void;
      readonly onDrag: (isDragging: boolean) => void;
      readonly onChange: () => void;
    },
  ) {
    this.outlines = new BeaconOutlines(scene);
    this.handles = new TransformControls(camera, element);
    this.handles.setSize(0.7);
    this.handles.setColors(HANDLES.x, HANDLES.y, HANDLES.z, HANDLES.held);
    this.handles.setSpace('local');
    this.handles.addEventListener('change', events.onChange);
    this.handles.addEventListener('dragging-changed', ({ value }) => {
      this.isDragging = value === true;
      events.onDrag(this.isDragging);
    });
    this.handles.addEventListener('objectChange', () => {
      if (this.chosen !== null) events.onMove(this.chosen, this.place());
    });
    scene.add(this.group, this.proxy);
  }

  close(): void {
    this.clear();
    this.outlines.close();
    this.handles.detach();
    this.handles.dispose();
  }

  /** @param mode which handles the chosen one has; null for none */
  show(beacons: readonly PlacedBeacon[], chosen: string | null, mode: BeaconInput | null): void {
    this.clear();
    for (const beacon of beacons)
      if (beacon.isKnown) this.group.add(...linesOf(beacon, beacon.id === chosen));
    this.shown = beacons.filter(({ isKnown }) => isKnown);
    this.outline(chosen);
    const held = beacons.find((beacon) => beacon.id === chosen && beacon.isKnown);
    this.chosen = held?.id ?? null;
    if (!held || mode === null || !held.free.has(mode)) {
      this.handles.detach();
      this.scene.remove(this.handles.getHelper());
      return;
    }
    if (!this.isDragging) settle(this.proxy, held);
    this.handles.setMode(MODES[mode]);
    if (this.handles.object !== this.proxy) this.handles.attach(this.proxy);
    this.scene.add(this.handles.getHelper());
  }

  /** The surface that the boundaries are drawn on. */
  setSurface(geometry: THREE.BufferGeometry): void {
    this.surface = geometry;
    this.outline(this.chosen);
  }

  /** The lines' shader writes colours as they are shown. */
  private outline(chosen: string | null): void {
    this.outlines.show(this.shown, this.surface, (id) =>
      new THREE.Color().setHex(id === chosen ? HANDLES.held : OTHER, THREE.LinearSRGBColorSpace),
    );
  }

  private place(): BeaconMove {
    const { position, rotation, scale } = this.proxy;
    const degrees = (rad: number): number => rad / RADIANS;
    return {
      place: [position.x, position.y, position.z],
      turn: [degrees(rotation.x), degrees(rotation.y), degrees(rotation.z)],
      extent: [Math.abs(scale.x), Math.abs(scale.y), Math.abs(scale.z)],
    };
  }

  private clear(): void {
    for (const child of [...this.group.children]) {
      this.group.remove(child);
      if (child instanceof THREE.LineSegments) {
        (child.geometry as THREE.BufferGeometry).dispose();
        (child.material as THREE.Material).dispose();
      }
    }
  }
}

/** About X, then Y, then Z about fixed axes is the library's order ZYX about turning ones. */
function settle(object: THREE.Object3D, { place, turn, extent }: PlacedBeacon): void {
  object.position.set(...place);
  object.rotation.set(turn[0] * RADIANS, turn[1] * RADIANS, turn[2] * RADIANS, 'ZYX');
  object.scale.set(...(extent.map((x) => Math.max(x, 1e-6)) as [number, number, number]));
  object.updateMatrixWorld();
}

/** Lines where the boundary is in sight, and faintly where the model hides it. */
function linesOf(beacon: PlacedBeacon, isChosen: boolean): THREE.Object3D[] {
  const geometry = new THREE.BufferGeometry().setAttribute(
    'position',
    new THREE.Float32BufferAttribute(LINES[beacon.shape], 3),
  );
  const colour = isChosen ? HANDLES.held : OTHER;
  return [[true, isChosen ? 1 : 0.7] as const, [false, isChosen ? 0.35 : 0.15] as const].map(
    ([depthTest, opacity]) => {
      const lines = new THREE.LineSegments(
        geometry.clone(),
        new THREE.LineBasicMaterial({
          color: colour,
          transparent: true,
          opacity,
          depthTest,
          depthWrite: false,
          toneMapped: false,
        }),
      );
      settle(lines, beacon);
      return lines;
    },
  );
}
