import type {
  choiceValue,
  conversion,
  curveValue,
  dialKind,
  dialShape,
  documentShape,
  driveShape,
  formulaValue,
  groupDefinition,
  groupPort,
  imageValue,
  inputValue,
  law,
  networkShape,
  nodeInstance,
  noteShape,
  originShape,
  rampStop,
  rampValue,
  regionShape,
  strandShape,
  valueKind,
  variantShape,
} from './document-shape';
import type {
  companionShape,
  companionsShape,
  keptView,
  lightSetup,
  referenceShape,
  sceneLight,
  surroundingsShape,
} from './scene-shape';
import { DOCUMENT_FORMAT, DOCUMENT_VERSION } from './limits';
import type { OPACITY_MODES, SEGMENTS } from './limits';
import type { TypeOf } from './shape';
import type { GroupId } from '../base/ids';

export {
  COMPANION_SIZES,
  DOCUMENT_FORMAT,
  DOCUMENT_VERSION,
  LIMITS,
  OPACITY_MODES,
  SEGMENTS,
  SURROUNDINGS_LIMITS,
} from './limits';

/* What a saved document holds; each type is that of its shape in document-shape.ts. */

/** Three numbers: a vector in metres (Y up) or a colour in linear Rec. 709. */
export type Triple = readonly [number, number, number];
/** What a strand may carry. */
export type ValueKind = TypeOf<typeof valueKind>;
/** How a ramp goes from one stop to the next. */
export type Segment = (typeof SEGMENTS)[number];
/** One stop of a ramp. */
export type RampStop = TypeOf<typeof rampStop>;
/** A ramp. */
export type RampValue = TypeOf<typeof rampValue>;
/** The text of a formula. */
export type FormulaValue = TypeOf<typeof formulaValue>;
/** A curve through points. */
export type CurveValue = TypeOf<typeof curveValue>;
/** An image by the hash of its file. */
export type ImageValue = TypeOf<typeof imageValue>;
/** A choice of an option, set by a dial. */
export type ChoiceValue = TypeOf<typeof choiceValue>;
/** Whatever an input may hold when nothing is wired to it. */
export type InputValue = TypeOf<typeof inputValue>;
/** How a colour or a vector becomes a number. */
export type Conversion = TypeOf<typeof conversion>;
/** A node on a board. */
export type NodeInstance = TypeOf<typeof nodeInstance>;
/** A connection from an output to an input. */
export type Strand = TypeOf<typeof strandShape>;
/** A titled area of a board. */
export type Region = TypeOf<typeof regionShape>;
/** A text on a board. */
export type Note = TypeOf<typeof noteShape>;
/** What stands on one board. */
export type Network = TypeOf<typeof networkShape>;
/** How a dial decides an inner value. */
export type Law = TypeOf<typeof law>;
/** The link from a dial to one inner value. */
export type Drive = TypeOf<typeof driveShape>;
/** What a dial carries. */
export type DialKind = TypeOf<typeof dialKind>;
/** An exposed, normalised parameter of a group. */
export type Dial = TypeOf<typeof dialShape>;
/** An input or an output of a group. */
export type GroupPort = TypeOf<typeof groupPort>;
/** A named set of a group's dial values. */
export type Variant = TypeOf<typeof variantShape>;
/** The saved revision a group was packaged from. */
export type Origin = TypeOf<typeof originShape>;
/** A group: its network, its ports and its dials. */
export type GroupDefinition = TypeOf<typeof groupDefinition>;
/** How opacity is shown. */
export type OpacityMode = (typeof OPACITY_MODES)[number];
/** A light of the scene. */
export type SceneLight = TypeOf<typeof sceneLight>;
/** Lights and surroundings kept under a name. */
export type LightSetup = TypeOf<typeof lightSetup>;
/** A picture the material is judged against. */
export type SceneReference = TypeOf<typeof referenceShape>;
/** The studio around the model: its turn in degrees, and its strength. */
export type Surroundings = TypeOf<typeof surroundingsShape>;
/** A model beside the current one. */
export type Companion = TypeOf<typeof companionShape>;
/** All models beside the current one, and how large they are shown. */
export type Companions = TypeOf<typeof companionsShape>;
/** A part of a board, kept under a name. */
export type KeptView = TypeOf<typeof keptView>;
/** A saved material. */
export type NetworkDocument = TypeOf<typeof documentShape>;

/**
 * The fixed edges of a board, in place of a node id: a group's inputs, and the outputs of a group
 * or material.
 */
export const INPUT_EDGE = '@in';
/** The right edge of a board, where a group's outputs or the finished surface go. */
export const OUTPUT_EDGE = '@out';
/** The one input of a material's output edge. */
export const SURFACE_OUTPUT = 'surface';

/** Which board is edited: the material's own (null), or that of a group, by its id. */
export type BoardId = GroupId | null;

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

/** The studio as it stands when a document says nothing of it. */
export const DEFAULT_SURROUNDINGS: Surroundings = { turn: 0, strength: 1 };
/** The current model alone. */
export const NO_COMPANIONS: Companions = { sizes: 'alike', models: [] };

/** A board with nothing on it. */
export const EMPTY_NETWORK: Network = { nodes: [], strands: [], regions: [], notes: [] };

/** A new material of the present version, with nothing on its board. */
export function emptyDocument(name: string): NetworkDocument {
  return {
    format: DOCUMENT_FORMAT,
    version: DOCUMENT_VERSION,
    name,
    network: EMPTY_NETWORK,
    groups: {},
  };
}

/** Whether an input's value is a vector or a colour. */
export const isTriple = (value: unknown): value is Triple =>
  Array.isArray(value) && value.length === 3;
/** Whether an input's value is a ramp. */
export const isRamp = (value: unknown): value is RampValue =>
  typeof value === 'object' && value !== null && 'stops' in value;
/** Whether an input's value is a curve. */
export const isCurve = (value: unknown): value is CurveValue =>
  typeof value === 'object' && value !== null && 'points' in value;
/** Whether an input's value is an image. */
export const isImage = (value: unknown): value is ImageValue =>
  typeof value === 'object' && value !== null && 'image' in value;
/** Whether an input's value is a formula. */
export const isFormula = (value: unknown): value is FormulaValue =>
  typeof value === 'object' && value !== null && 'formula' in value;
/** Whether a dial's value is a choice. */
export const isChoice = (value: unknown): value is ChoiceValue =>
  typeof value === 'object' && value !== null && 'choice' in value;

/** A dial whose value flows like any other, and may be wired. */
export type FlowingDial = Dial & { readonly kind: 'scalar' | 'vector' | 'colour' };
/** Whether a dial's value flows; others are settings: choices, ramps, curves, images, formulas. */
export const isFlowing = (dial: Dial): dial is FlowingDial =>
  dial.kind === 'scalar' || dial.kind === 'vector' || dial.kind === 'colour';
/** Whether a node stands for a group. */
export const isGroup = (node: NodeInstance): boolean => node.type === 'group';
