/**
 * What travels along a strand. `flex` ports take scalar, vector or colour and become the widest
 * that arrives.
 */
export type ValueKind = 'scalar' | 'vector' | 'colour' | 'surface';
export type Triple = readonly [number, number, number];

export const SEGMENTS = ['hold', 'linear', 'smooth', 'spline'] as const;
export type Segment = (typeof SEGMENTS)[number];
/**
 * One stop of a ramp; colour in linear Rec. 709, not premultiplied; `segment` shapes the way to the
 * next stop.
 */
export interface RampStop {
  readonly id: string;
  readonly position: number;
  readonly colour: Triple;
  readonly alpha: number;
  readonly segment: Segment;
  /** What of it is an input of the node, to be wired or driven. */
  readonly open?: readonly ('position' | 'colour' | 'alpha')[];
}
export interface RampValue {
  readonly stops: readonly RampStop[];
}
/** What is typed into a formula; structure, not a value: changing it recompiles. */
export interface FormulaValue {
  readonly formula: string;
}
/** A curve through points (x, y), x rising. */
export interface CurveValue {
  readonly points: readonly (readonly [number, number])[];
}
/** An image by the SHA-256 of its file; an empty hash where none was chosen. */
export interface ImageValue {
  readonly image: string;
  readonly name: string;
}
export type InputValue = number | Triple | RampValue | FormulaValue | CurveValue | ImageValue;

/** How a colour or vector becomes a scalar. */
export type Conversion =
  'luminance' | 'average' | 'largest' | 'first' | 'second' | 'third' | 'length';

/**
 * The fixed edges of a board, in place of a node id: a group's inputs, and the outputs of a group
 * or material.
 */
export const INPUT_EDGE = '@in';
export const OUTPUT_EDGE = '@out';
/** The one input of a material's output edge. */
export const SURFACE_OUTPUT = 'surface';

/** Which board is edited: the material's own (null), or that of a group, by its id. */
export type BoardId = string | null;

export interface NodeInstance {
  readonly id: string;
  /** `family.name` of the catalogue, or `group`. */
  readonly type: string;
  readonly version: number;
  readonly name?: string;
  /** Board units, x to the right, y down. */
  readonly at: readonly [number, number];
  readonly values: Readonly<Record<string, InputValue>>;
  readonly options: Readonly<Record<string, string>>;
  /** Scalar and colour results are limited to 0–1. */
  readonly limited?: boolean;
  readonly folded?: boolean;
  /** Of a `group` node: the definition in `groups`. */
  readonly group?: string;
}

export interface Strand {
  readonly id: string;
  readonly from: { readonly node: string; readonly output: string };
  readonly to: { readonly node: string; readonly input: string };
  /** Place among the strands of an input that takes many. */
  readonly order: number;
  readonly conversion?: Conversion;
  /** Carried as a mere number: what it stands for is neither converted nor judged. */
  readonly plain?: true;
  /** Points it is led through on the board, from its start. */
  readonly bends?: readonly (readonly [number, number])[];
}

export interface Region {
  readonly id: string;
  readonly title: string;
  readonly at: readonly [number, number];
  readonly size: readonly [number, number];
}
export interface Note {
  readonly id: string;
  readonly text: string;
  readonly at: readonly [number, number];
}

export interface Network {
  readonly nodes: readonly NodeInstance[];
  readonly strands: readonly Strand[];
  readonly regions: readonly Region[];
  readonly notes: readonly Note[];
}

export type Law = 'times' | 'lift' | 'span' | 'blend' | 'as is';

/** The link from a dial to one inner value. */
export interface Drive {
  readonly node: string;
  readonly input: string;
  readonly law: Law;
  /** lift: inner = designed + (dial − 1) × reach. */
  readonly reach?: number;
  /** span and blend: the two ends. */
  readonly low?: number;
  readonly high?: number;
}

export type DialKind = 'scalar' | 'vector' | 'colour';

/** An exposed, normalised parameter of a group; it is an input of the group too. */
export interface Dial {
  readonly id: string;
  readonly name: string;
  readonly help: string;
  readonly unit: string;
  readonly section: string;
  readonly kind: DialKind;
  readonly home: number | Triple;
  readonly soft: readonly [number, number];
  readonly hard: readonly [number, number];
  readonly step: number;
  readonly drives: readonly Drive[];
}

export interface GroupPort {
  readonly id: string;
  readonly name: string;
  readonly kind: ValueKind;
  /** Unwired: this value; without one, the inner ports fall back to their own. */
  readonly fallback?: number | Triple;
}

/** Where a group came from: what the proof compares it with. */
export interface Origin {
  readonly materialId: string;
  readonly revision: number;
  /** Per input of the group, the output in the source network that fed it. */
  readonly inputs: Readonly<Record<string, { readonly node: string; readonly output: string }>>;
  /** Per output of the group, the output in the source network it replaces. */
  readonly outputs: Readonly<Record<string, { readonly node: string; readonly output: string }>>;
}

export interface GroupDefinition {
  readonly id: string;
  readonly name: string;
  readonly description: string;
  readonly inputs: readonly GroupPort[];
  readonly outputs: readonly GroupPort[];
  /** In the order of the front. */
  readonly dials: readonly Dial[];
  readonly network: Network;
  readonly origin?: Origin;
  /** Set when it was brought in from the library. */
  readonly release?: { readonly entryId: string; readonly version: string };
}

export const DOCUMENT_FORMAT = 'bright-loom/network';
export const DOCUMENT_VERSION = 1;

/** How opacity is shown: not at all, as holes, blended, or as a fine pattern of dots. */
export const OPACITY_MODES = ['opaque', 'cut-off', 'blend', 'dithered'] as const;
export type OpacityMode = (typeof OPACITY_MODES)[number];

/**
 * A light of the scene. `far`: parallel light from the direction of `at`; `near`: from the place
 * `at`, counted in object sizes from the middle of the model's bounds, falling with the square of
 * the distance, as strong as stated one object size away.
 */
export interface SceneLight {
  readonly id: string;
  readonly name: string;
  readonly kind: 'far' | 'near';
  readonly at: Triple;
  readonly colour: Triple;
  readonly intensity: number;
  readonly shadows?: true;
}
/** What lights a material whose document names no lights. */
export const DEFAULT_LIGHTS: readonly SceneLight[] = [
  {
    id: 'key',
    name: 'Key',
    kind: 'far',
    at: [0.5, 0.75, 0.6],
    colour: [1, 0.9, 0.79],
    intensity: 2.1,
  },
  {
    id: 'fill',
    name: 'Fill',
    kind: 'far',
    at: [-0.8, 0.25, 0.35],
    colour: [0.75, 0.85, 1],
    intensity: 0.4,
  },
];

/**
 * The studio around the model: turned about the vertical, degrees from −180 to 180, and how
 * bright it is, 0 to 16.
 */
export interface Surroundings {
  readonly turn: number;
  readonly strength: number;
}
export const DEFAULT_SURROUNDINGS: Surroundings = { turn: 0, strength: 1 };
export const SURROUNDINGS_LIMITS = { turn: [-180, 180], strength: [0, 16] } as const;

/**
 * A model that stands beside the current one on the stage, turned about the vertical by degrees,
 * with the network being edited or that of another saved material. `name` tells which it was when
 * it is there no more.
 */
export interface Companion {
  readonly id: string;
  readonly model: string;
  readonly name: string;
  readonly material?: string;
  readonly turn: number;
}
/** `alike`: every model is shown as large as the current one. `true`: as large as it is. */
export const COMPANION_SIZES = ['alike', 'true'] as const;
export interface Companions {
  readonly sizes: (typeof COMPANION_SIZES)[number];
  readonly models: readonly Companion[];
}
export const NO_COMPANIONS: Companions = { sizes: 'alike', models: [] };

/** The saved form of a material: a network that ends in a surface, and the groups it uses. */
export interface NetworkDocument {
  readonly format: typeof DOCUMENT_FORMAT;
  readonly version: typeof DOCUMENT_VERSION;
  readonly name: string;
  readonly network: Network;
  readonly groups: Readonly<Record<string, GroupDefinition>>;
  /** Absent: chosen by the values of the finished surface. */
  readonly opacityMode?: OpacityMode;
  /** Absent: `DEFAULT_LIGHTS`. */
  readonly lights?: readonly SceneLight[];
  /** Absent: `DEFAULT_SURROUNDINGS`. */
  readonly surroundings?: Surroundings;
  /** Absent: the current model stands alone. */
  readonly companions?: Companions;
}

export const EMPTY_NETWORK: Network = { nodes: [], strands: [], regions: [], notes: [] };

export function emptyDocument(name: string): NetworkDocument {
  return {
    format: DOCUMENT_FORMAT,
    version: DOCUMENT_VERSION,
    name,
    network: EMPTY_NETWORK,
    groups: {},
  };
}

export const isTriple = (value: unknown): value is Triple =>
  Array.isArray(value) && value.length === 3;
export const isRamp = (value: unknown): value is RampValue =>
  typeof value === 'object' && value !== null && 'stops' in value;
export const isCurve = (value: unknown): value is CurveValue =>
  typeof value === 'object' && value !== null && 'points' in value;
export const isImage = (value: unknown): value is ImageValue =>
  typeof value === 'object' && value !== null && 'image' in value;
export const isFormula = (value: unknown): value is FormulaValue =>
  typeof value === 'object' && value !== null && 'formula' in value;
export const isGroup = (node: NodeInstance): boolean => node.type === 'group';

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
  name: 200,
  text: 10000,
  formula: 1_000_000,
  bends: 32,
  regions: 1000,
  notes: 2000,
  values: 200,
  ports: 200,
  lights: 4,
  companions: 3,
  whole: 1_000_000_000,
} as const;
