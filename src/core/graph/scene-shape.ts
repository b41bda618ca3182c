import type { ImageHash, MaterialId, ModelId, NodeId } from '../base/ids';
import {
  COMPANION_SIZES,
  LIMITS,
  REFERENCE_PLACES,
  SURROUNDINGS_LIMITS,
  VIEW_ZOOM,
} from './limits';
import {
  exactly,
  list,
  matching,
  named,
  number,
  oneOf,
  optional,
  pair,
  record,
  text,
  triple,
} from './shape';
import type { Shape } from './shape';

/* What of a saved document stands around its network: lights, models, kept views. */

/** Ids are names of members too; the one name that would change what an object is, is none. */
export const id = <T extends string>(): Shape<T> =>
  named('id', matching<T>(/^(?!__proto__$)[A-Za-z0-9_.:@-]+$/, 80));
const name = text(LIMITS.name);
const point = triple;

/**
 * A light of the scene. `far`: parallel light from the direction of `at`; `near`: from the place
 * `at`, counted in object sizes from the middle of the model's bounds, falling with the square of
 * the distance, as strong as stated one object size away.
 */
export const sceneLight = named(
  'light',
  record({
    id: id(),
    name,
    kind: oneOf('far', 'near'),
    at: point,
    colour: triple,
    intensity: number(0),
    shadows: optional(exactly(true)),
  }),
);

const turn = number(...SURROUNDINGS_LIMITS.turn);
/** The studio around the model: turned about the vertical, degrees, and how bright it is. */
export const surroundingsShape = named(
  'surroundings',
  record({ turn, strength: number(...SURROUNDINGS_LIMITS.strength) }),
);

/** Lights and surroundings that were kept under a name, to be taken again. */
export const lightSetup = named(
  'lightSetup',
  record({
    id: id(),
    name,
    lights: list(sceneLight, { most: LIMITS.lights, unique: 'id' }),
    surroundings: surroundingsShape,
  }),
);

/**
 * A model that stands beside the current one on the stage, turned about the vertical by degrees,
 * with the network being edited or that of another saved material. `name` says which it was when it
 * no longer exists.
 */
export const companionShape = record({
  id: id(),
  model: id<ModelId>(),
  name,
  material: optional(id<MaterialId>()),
  turn,
});
/** The models beside the current one. */
export const companionsShape = named(
  'companions',
  record({
    sizes: oneOf(...COMPANION_SIZES),
    models: list(companionShape, { most: LIMITS.companions, unique: 'id' }),
  }),
);

/** A part of a board, and perhaps where the camera of the stage stood, kept under a name. */
export const keptView = named(
  'view',
  record({
    id: id(),
    name,
    /** Ids of the group nodes that lead to the board. */
    path: list(id<NodeId>(), { most: LIMITS.groupDepth }),
    /** Where the board's origin is, pixels from the upper left corner of what is shown. */
    origin: pair,
    zoom: number(...VIEW_ZOOM),
    /** Metres. */
    camera: optional(record({ eye: point, target: point })),
  }),
);

/** An image by the SHA-256 of its file; an empty hash where none was chosen. */
export const imageValue = named(
  'image',
  record({ image: matching<ImageHash>(/^([0-9a-f]{64})?$/, 64), name }),
);

/** A picture that a material is judged against; `opacity` counts where it lies over or behind. */
export const referenceShape = named(
  'reference',
  record({
    id: id(),
    image: imageValue,
    place: oneOf(...REFERENCE_PLACES),
    opacity: number(0, 1),
  }),
);
