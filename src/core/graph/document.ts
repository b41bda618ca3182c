import type {
  companionShape,
  companionsShape,
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
  sceneLight,
  strandShape,
  surroundingsShape,
  valueKind,
} from './document-shape';
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

export type Triple = readonly [number, number, number];
export type ValueKind = TypeOf<typeof valueKind>;
export type Segment = (typeof SEGMENTS)[number];
export type RampStop = TypeOf<typeof rampStop>;
export type RampValue = TypeOf<typeof rampValue>;
export type FormulaValue = TypeOf<typeof formulaValue>;
export type CurveValue = TypeOf<typeof curveValue>;
export type ImageValue = TypeOf<typeof imageValue>;
export type InputValue = TypeOf<typeof inputValue>;
export type Conversion = TypeOf<typeof conversion>;
export type NodeInstance = TypeOf<typeof nodeInstance>;
export type Strand = TypeOf<typeof strandShape>;
export type Region = TypeOf<typeof regionShape>;
export type Note = TypeOf<typeof noteShape>;
export type Network = TypeOf<typeof networkShape>;
export type Law = TypeOf<typeof law>;
export type Drive = TypeOf<typeof driveShape>;
export type DialKind = TypeOf<typeof dialKind>;
export type Dial = TypeOf<typeof dialShape>;
export type GroupPort = TypeOf<typeof groupPort>;
export type Origin = TypeOf<typeof originShape>;
export type GroupDefinition = TypeOf<typeof groupDefinition>;
export type OpacityMode = (typeof OPACITY_MODES)[number];
export type SceneLight = TypeOf<typeof sceneLight>;
export type Surroundings = TypeOf<typeof surroundingsShape>;
export type Companion = TypeOf<typeof companionShape>;
export type Companions = TypeOf<typeof companionsShape>;
export type NetworkDocument = TypeOf<typeof documentShape>;

/**
 * The fixed edges of a board, in place of a node id: a group's inputs, and the outputs of a group
 * or material.
 */
export const INPUT_EDGE = '@in';
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

export const DEFAULT_SURROUNDINGS: Surroundings = { turn: 0, strength: 1 };
export const NO_COMPANIONS: Companions = { sizes: 'alike', models: [] };

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
