import * as Comlink from 'comlink';
import { AppError, errorMessage } from '@/core/base/diagnostic';
import type { ImageAtlas } from '@/core/base/image';
import type { ModelBounds, Placement } from '@/core/compile/model-scale';
import type { BeaconInput, PlacedBeacon } from '@/core/edit/beacons';
import type { ShadowOpacity } from '@/core/evaluate/shadow-opacity';
import type { StageProgram } from '@/core/evaluate/stage-program';
import type { SceneLight, Surroundings, Triple } from '@/core/graph/document';
import type { MeshMap } from '@/core/mesh/mesh-map';
import type { Appearance } from '@/core/surface/stage-layout';
import type { FillSource, StageSight } from '@/state/stage-feed';
import { attempt, unwrap } from '@/workers/answer';
import { live } from '@/workers/life';
import { StageElement } from './stage-input';
import type { StageInput, StageSize } from './stage-input';
import type { SceneBox } from './stage-lights';
import type { StageModel } from './stage-model';
import type { StageEvents, StageFacts, StageReport, StageWishes } from './stage-events';
import { StageRenderer } from './stage-renderer';
import type { StageLook } from '@/state/stores';

const element = new StageElement();
// The library's handles look there, too, whether the pointer is locked.
Object.assign(globalThis, { document: element });
let opened: { readonly stage: StageRenderer; readonly events: StageEvents } | null = null;
let reports = 0,
  isFollowed = false;

function shown(): StageRenderer {
  if (!opened) throw new Error('Invariant broken: the stage is not open');
  return opened.stage;
}
const report = (): StageReport => ({ number: ++reports, isBusy: shown().isBusy });

/** Tells the page when everything is drawn. */
async function follow(): Promise<void> {
  if (isFollowed || !opened) return;
  isFollowed = true;
  do
    await new Promise((resolve) => {
      setTimeout(resolve, 4);
    });
  while (opened.stage.isBusy);
  isFollowed = false;
  opened.events.onReport(report());
}

function done(act: (stage: StageRenderer) => void): StageReport {
  act(shown());
  void follow();
  return report();
}
/** Acts on one model; one that left meanwhile needs nothing. */
const doneTo = (name: string, act: (model: StageModel) => void): StageReport =>
  done((stage) => {
    const model = stage.model(name);
    if (model) act(model);
  });

function open(
  canvas: OffscreenCanvas,
  size: StageSize,
  { mode, trial }: StageWishes,
  events: StageEvents,
): StageFacts {
  element.resize(size);
  let stage: StageRenderer;
  try {
    stage = new StageRenderer(
      canvas,
      element,
      size,
      {
        onCamera: (camera) => {
          events.onCamera(camera);
        },
        onBeacon: (...moved) => {
          events.onBeacon(...moved);
        },
        onLight: (...moved) => {
          events.onLight(...moved);
        },
        onRefused: (reason) => {
          events.onRefused(reason);
        },
      },
      mode,
      trial,
    );
  } catch (error) {
    throw new AppError(
      'stage.no-webgl',
      `The 3D view cannot be drawn here: ${errorMessage(error)}`,
      'Swatches and bakes work without it. Allow WebGL 2 in the browser, or use another one.',
    );
  }
  canvas.addEventListener('webglcontextlost', () => {
    events.onLost();
  });
  opened = { stage, events };
  return { mode: stage.mode, targets: stage.targets, isShort: stage.isShort };
}

/** Asks the page, which asks the workers. */
const fillSource =
  (name: string): FillSource =>
  async (version, ...asked) => {
    if (!opened) throw new Error('Invariant broken: the stage is not open');
    return unwrap(opened.events.fill(name, version, ...asked));
  };

const api = {
  live,
  open: (canvas: OffscreenCanvas, size: StageSize, wishes: StageWishes, events: StageEvents) =>
    attempt(() => open(canvas, size, wishes, events)),
  resize: (size: StageSize) =>
    done((stage) => {
      element.resize(size);
      stage.resize(size);
    }),
  input: (input: StageInput) =>
    done(() => {
      element.take(input);
    }),
  orbit: (turnRad: number, tiltRad: number) =>
    done((stage) => {
      stage.view.orbit(turnRad, tiltRad);
    }),
  frameModel: () =>
    done((stage) => {
      stage.view.frame();
    }),
  standAt: (eye: Triple, target: Triple) =>
    done((stage) => {
      stage.view.standAt(eye, target);
    }),
  lookAt: (place: Triple, radius: number) =>
    done((stage) => {
      stage.view.lookAt(place, radius);
    }),
  invalidate: () =>
    done((stage) => {
      stage.invalidate();
    }),
  add: (name: string) =>
    done((stage) => {
      stage.add(name, fillSource(name));
    }),
  remove: (name: string) =>
    done((stage) => {
      stage.remove(name);
    }),
  setScene: (current: ModelBounds, all: SceneBox) =>
    done((stage) => {
      stage.setScene(current, all);
    }),
  setLook: (look: StageLook, stretch: readonly [number, number]) =>
    done((stage) => {
      stage.setLook(look, stretch);
    }),
  setSight: (sight: StageSight) =>
    done((stage) => {
      stage.setSight(sight);
    }),
  placeLights: (isPlacing: boolean) =>
    done((stage) => {
      stage.placeLights(isPlacing);
    }),
  setSurroundings: (surroundings: Surroundings) =>
    done((stage) => {
      stage.setSurroundings(surroundings);
    }),
  setLights: (lights: readonly SceneLight[]) =>
    done((stage) => {
      stage.setLights(lights);
    }),
  setBeacons: (beacons: readonly PlacedBeacon[], chosen: string | null, mode: BeaconInput | null) =>
    done((stage) => {
      stage.beacons.show(beacons, chosen, mode);
      stage.invalidate();
    }),
  setModel: (name: string, port: MessagePort, placement: Placement) =>
    doneTo(name, (model) => {
      model.expect(port, placement);
    }),
  setPlacement: (name: string, placement: Placement) =>
    doneTo(name, (model) => {
      model.setPlacement(placement);
    }),
  expectProgram: (name: string) =>
    doneTo(name, (model) => {
      model.expectProgram();
    }),
  setProgram: (name: string, program: StageProgram) =>
    doneTo(name, (model) => {
      model.setProgram(program);
    }),
  setValues: (name: string, values: Float32Array) =>
    doneTo(name, (model) => {
      model.setValues(values);
    }),
  setMap: (name: string, field: string, map: MeshMap) =>
    doneTo(name, (model) => {
      model.setMap(field, map);
    }),
  setKnown: (name: string, isKnown: boolean) =>
    doneTo(name, (model) => {
      model.setKnown(isKnown);
    }),
  setImage: (name: string, slot: number, sheet: ImageAtlas) =>
    doneTo(name, (model) => {
      model.setImage(slot, sheet);
    }),
  setAppearance: (name: string, appearance: Appearance) =>
    doneTo(name, (model) => {
      model.setAppearance(appearance);
    }),
  setShadow: (name: string, opacity: ShadowOpacity | null) =>
    doneTo(name, (model) => {
      model.setShadow(opacity);
    }),
  touch: (name: string) =>
    doneTo(name, (model) => {
      model.touch();
    }),
  project: (place: Triple) => shown().view.project(place),
  rayThrough: (x: number, y: number) => shown().view.rayThrough(x, y),
  timing: () => ({ ...shown().timing }),
  drawAndWait: () => shown().drawAndWait(),
  finish: () => {
    shown().finish();
  },
  picture: () => shown().picture(),
};
export type StageWorker = typeof api;
Comlink.expose(api);
