import type { Triple } from '../graph/document';

/**
 * The box a model fills, and the diameter of its smallest enclosing sphere: metres of its own
 * space.
 */
export interface ModelBounds {
  readonly size: number;
  readonly minimum: Triple;
  readonly extent: Triple;
}

/**
 * Where a model stands in the scene: enlarged by `scale`, turned about the vertical by `turn`
 * degrees, then moved to `at`, metres.
 */
export interface Placement {
  readonly at: Triple;
  readonly turn: number;
  readonly scale: number;
}
/** The current model's own place: the scene's coordinates are its own. */
export const IDENTITY_PLACEMENT: Placement = { at: [0, 0, 0], turn: 0, scale: 1 };
/**
 * A model that stands beside the current one: where, and what the scene's lights are counted from.
 */
export interface CompanionFrame {
  readonly placement: Placement;
  readonly current: ModelBounds;
}

/** What programs need to know of a model as a whole: metres. */
export interface ModelScale extends ModelBounds {
  /** The attributes the model has, with their widths. */
  readonly attributes?: readonly { readonly name: string; readonly width: number }[];
  /** Absent for the current model. */
  readonly frame?: CompanionFrame;
}

/** Cosine and sine of a placement's turn about the vertical. */
export const getTurn = ({
  turn,
}: Placement): { readonly cosine: number; readonly sine: number } => ({
  cosine: Math.cos((turn * Math.PI) / 180),
  sine: Math.sin((turn * Math.PI) / 180),
});

/** A direction of the model's own space in that of the scene; the length stays. */
export function directionToWorld([x, y, z]: Triple, placement: Placement): Triple {
  const { cosine, sine } = getTurn(placement);
  return [cosine * x + sine * z, y, cosine * z - sine * x];
}
/** A direction of the scene in the model's own space; the length stays. */
export function directionToObject([x, y, z]: Triple, placement: Placement): Triple {
  const { cosine, sine } = getTurn(placement);
  return [cosine * x - sine * z, y, cosine * z + sine * x];
}
/** A place of the model's own space in that of the scene, metres. */
export function toWorld(place: Triple, placement: Placement): Triple {
  const [x, y, z] = directionToWorld(place, placement);
  const { at, scale } = placement;
  return [at[0] + scale * x, at[1] + scale * y, at[2] + scale * z];
}
/** A place of the scene in the model's own space, metres. */
export function toObject(place: Triple, placement: Placement): Triple {
  const { at, scale } = placement;
  return directionToObject(
    [(place[0] - at[0]) / scale, (place[1] - at[1]) / scale, (place[2] - at[2]) / scale],
    placement,
  );
}
