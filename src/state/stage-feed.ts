import type { ImageAtlas } from '../core/base/image';
import type { ModelBounds, Placement } from '../core/compile/model-scale';
import type { SceneLight, Surroundings } from '../core/graph/document';
import type { MeshMap } from '../core/mesh/mesh-map';
import type { SampleExtent } from '../core/mesh/sample-points';
import type { Appearance } from '../core/surface/stage-layout';
import type { ShadowOpacity } from '../core/evaluate/shadow-opacity';
import type { StageProgram } from '../core/evaluate/stage-program';
import type { FillParts } from './fill-parts';
import type { StageLook, ViewState } from './stores';

/** Values at surface points, computed by the workers. */
export type FillSource = (
  version: string,
  triangles: Uint32Array,
  weights: Float32Array,
  isWhole: boolean,
  sample: SampleExtent,
) => Promise<FillParts>;

/** One model of the stage, as what draws it takes it. */
export interface ModelFeed {
  /** Another model, laid out as LaidOut says, comes through the port. */
  setModel(port: MessagePort, placement: Placement): void;
  setPlacement(placement: Placement): void;
  /** The structure changed: a program for it is on its way. */
  expectProgram(): void;
  setProgram(program: StageProgram): void;
  setValues(values: Float32Array): void;
  setMap(field: string, map: MeshMap): void;
  setImage(slot: number, sheet: ImageAtlas): void;
  /**
   * Whether the maps and images that the program reads are there; where the workers fill, their
   * values say so themselves.
   */
  setKnown(isKnown: boolean): void;
  setAppearance(appearance: Appearance): void;
  /** What the model stops of the light where it throws shadows; null for all of it. */
  setShadow(opacity: ShadowOpacity | null): void;
  /** Something changed: where the workers fill, they are asked for values again. */
  touch(): void;
}

const SIGHT = ['exposure', 'ground', 'balls', 'channel'] as const;
/** How the scene is shown: brightness in stops, what stands beside, and the channel of a pin. */
export type StageSight = Pick<ViewState, (typeof SIGHT)[number]>;
/** Whether two views show the scene differently. */
export const isOtherSight = (a: StageSight, b: StageSight): boolean =>
  SIGHT.some((member) => a[member] !== b[member]);
/** What of a view says how the scene is shown. */
export const sightOf = ({ exposure, ground, balls, channel }: StageSight): StageSight => ({
  exposure,
  ground,
  balls,
  channel,
});

/** What the stage draws with. Kept apart from React. */
export interface StageFeed {
  /**
   * `program`: the graphics processor runs the network. `workers`: it is too slow for that, and the
   * workers fill its buffer.
   */
  readonly mode: 'program' | 'workers';
  /** Whether a picture is still to come. */
  readonly isBusy: boolean;
  /** How many targets a program may write. */
  readonly targets: number;
  /** Another model on the stage, by a name of its own. */
  add(name: string, fill: FillSource): ModelFeed;
  remove(name: string): void;
  /** The box of all models: what is framed, and where shadows fall. */
  setScene(
    current: ModelBounds,
    all: { readonly centre: readonly [number, number, number]; readonly size: number },
  ): void;
  /** `stretch`: the values of a pinned output that become black and white. */
  setLook(look: StageLook, stretch: readonly [number, number]): void;
  setSight(sight: StageSight): void;
  setSurroundings(surroundings: Surroundings): void;
  setLights(lights: readonly SceneLight[]): void;
  invalidate(): void;
}
