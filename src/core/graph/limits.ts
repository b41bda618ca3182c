/** The member `format` of every document. */
export const DOCUMENT_FORMAT = 'bright-loom/network';
/** Raised with a migration from the version before; see `migrations.ts`. */
export const DOCUMENT_VERSION = 1;

/** Limits a document must keep; beyond them it is refused with a message that names the limit. */
export const LIMITS = {
  nodes: 5000,
  strands: 20000,
  groups: 500,
  groupDepth: 32,
  rampStops: 32,
  curvePoints: 24,
  dials: 200,
  drives: 200,
  choices: 60,
  variants: 64,
  name: 200,
  text: 10000,
  formula: 1_000_000,
  bends: 32,
  regions: 1000,
  notes: 2000,
  values: 200,
  ports: 200,
  lights: 4,
  lightSetups: 20,
  companions: 3,
  references: 8,
  views: 60,
  whole: 1_000_000_000,
} as const;

/** How a ramp goes from one stop to the next: holds, straight, eased, or as a spline. */
export const SEGMENTS = ['hold', 'linear', 'smooth', 'spline'] as const;
/** Where a reference picture is shown: as difference, over the model; or not at all. */
export const REFERENCE_PLACES = ['beside', 'over', 'behind', 'difference', 'away'] as const;
/** Least and most of an overall amount. */
export const AMOUNT = [0, 2] as const;
/** How opacity is shown: not at all, as holes, blended, or as a fine pattern of dots. */
export const OPACITY_MODES = ['opaque', 'cut-off', 'blend', 'dithered'] as const;
/** Ranges of the surroundings: degrees, and times the designed strength. */
export const SURROUNDINGS_LIMITS = { turn: [-180, 180], strength: [0, 16] } as const;
/** `alike`: every model is shown as large as the current one. `true`: as large as it is. */
export const COMPANION_SIZES = ['alike', 'true'] as const;
/** How small and how large a board is shown. */
export const VIEW_ZOOM = [0.02, 8] as const;
