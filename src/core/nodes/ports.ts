import type { F32, Lanes3 } from '../ir/types';
import type { ImageTable } from './image-table';
import type { SurfaceLanes } from './parameters/lanes';
import type { Quantity } from './quantities';
import type { CurveTable, RampTable } from './ramp-table';

/** One or three lanes. */
export type FlexLanes = readonly F32[];
/** What an unwired vector stands for at the point at hand. */
export type CoordinateDefault = 'position' | 'normal' | 'texture coordinates';

interface LoweredByKind {
  scalar: F32;
  vector: Lanes3;
  colour: Lanes3;
  /** One or three lanes, as wide as the widest that arrives. */
  flex: FlexLanes;
  surface: SurfaceLanes;
  /** Any number of scalars, in order. */
  scalars: readonly F32[];
  ramp: RampTable;
  curve: CurveTable;
  image: ImageTable;
  /** Text that is compiled. */
  formula: string;
  /**
   * Decides a mesh map: typed or driven, never wired. The value is its own id, for `model.meshMap`.
   */
  fixed: string;
  /** Of a dial: which choice of an option is made. */
  choice: string;
}
/** The kinds of inputs and outputs. */
export type PortKind = keyof LoweredByKind;
/** Kinds of inputs that no strand enters. */
export const TYPED_ONLY: ReadonlySet<string> = new Set<PortKind>([
  'fixed',
  'ramp',
  'curve',
  'formula',
  'image',
  'choice',
]);
/** Kinds of inputs that are neither a number nor a triple: no dial drives them. */
export const NOT_DRIVEN: ReadonlySet<string> = new Set<PortKind>([
  'surface',
  'scalars',
  'ramp',
  'curve',
  'formula',
  'image',
  'choice',
]);

/** What a person reads of an input or output. */
export interface PortText {
  readonly title: string;
  readonly help: string;
  /** What the low and the high end mean. */
  readonly low?: string;
  readonly high?: string;
  readonly unit?: string;
  /** What the number or colour stands for, where that is more than a number. */
  readonly quantity?: Quantity;
  /**
   * Inputs of one section stand together on the bench, and on the card only while they are wired or
   * a strand is on its way.
   */
  readonly section?: string;
  /**
   * What a click on the model gives a vector: the direction the surface faces there, or the place.
   */
  readonly picks?: 'direction' | 'place';
  /** Takes whole numbers only; of a seed, one is as good as another. */
  readonly counts?: 'whole' | 'seed';
  /** The input that this one is multiplied by: while that is 0, this one does nothing. */
  readonly factor?: string;
  /** The value at which the node changes nothing, as far as this input goes. */
  readonly neutral?: number;
}
/** An input of a node: its kind, its default and its ranges. */
export interface InputPort<K extends PortKind = PortKind> extends PortText {
  readonly kind: K;
  readonly default:
    | number
    | readonly [number, number, number]
    | CoordinateDefault
    | readonly RampStopText[]
    | FormulaText
    | CurveText
    | null;
  /** The range of the slider, and of typing. */
  readonly soft: readonly [number, number];
  readonly hard: readonly [number, number];
  readonly step: number;
}
/** A formula as a default. */
export interface FormulaText {
  readonly formula: string;
}
/** Points of a curve: x, then y; x rising. */
export interface CurveText {
  readonly points: readonly (readonly [number, number])[];
}
/** A stop of a ramp as a default; colour linear Rec. 709. */
export interface RampStopText {
  readonly position: number;
  readonly colour: readonly [number, number, number];
}
/** An output of a node. */
export interface OutputPort<K extends PortKind = PortKind> extends PortText {
  readonly kind: K;
}

interface ScalarText extends PortText {
  readonly default?: number;
  readonly soft?: readonly [number, number];
  readonly hard?: readonly [number, number];
  readonly step?: number;
}
const WIDE = 1e6;
function numeric<K extends PortKind>(
  kind: K,
  text: ScalarText,
  fallback: InputPort['default'],
): InputPort<K> {
  const step = text.counts !== undefined || text.unit === '°' ? 1 : 0.01;
  return { soft: [0, 1], hard: [-WIDE, WIDE], step, ...text, kind, default: fallback };
}
/** Input ports, one maker per kind. */
export const input = {
  scalar: (text: ScalarText): InputPort<'scalar'> => numeric('scalar', text, text.default ?? 0),
  /** @param help what another seed gives */
  seed: (help: string): InputPort<'scalar'> =>
    numeric(
      'scalar',
      { title: 'Seed', help, soft: [0, 100], hard: [0, 1000000], counts: 'seed' },
      0,
    ),
  flex: (text: ScalarText): InputPort<'flex'> => numeric('flex', text, text.default ?? 0),
  fixed: (text: ScalarText): InputPort<'fixed'> => numeric('fixed', text, text.default ?? 0),
  image: (text: PortText): InputPort<'image'> => numeric('image', text, null),
  scalars: (text: PortText): InputPort<'scalars'> => numeric('scalars', text, null),
  surface: (text: PortText): InputPort<'surface'> => numeric('surface', text, null),
  vector: (
    text: Omit<ScalarText, 'default'> & {
      default: readonly [number, number, number] | CoordinateDefault;
    },
  ): InputPort<'vector'> => {
    const { default: fallback, ...rest } = text;
    return numeric('vector', rest, fallback);
  },
  colour: (
    text: PortText & { default: readonly [number, number, number] },
  ): InputPort<'colour'> => {
    const { default: fallback, ...rest } = text;
    return numeric('colour', rest, fallback);
  },
  formula: (text: PortText & { default: string }): InputPort<'formula'> => {
    const { default: fallback, ...rest } = text;
    return numeric('formula', rest, { formula: fallback });
  },
  curve: (text: PortText & { default: CurveText['points'] }): InputPort<'curve'> => {
    const { default: fallback, ...rest } = text;
    return numeric('curve', rest, { points: fallback });
  },
  ramp: (text: PortText & { default: readonly RampStopText[] }): InputPort<'ramp'> => {
    const { default: fallback, ...rest } = text;
    return numeric('ramp', rest, fallback);
  },
};
const outputOf =
  <K extends PortKind>(kind: K) =>
  (
    title: string,
    help: string,
    ends: { low?: string; high?: string; unit?: string; quantity?: Quantity } = {},
  ): OutputPort<K> => ({ kind, title, help, ...ends });
/** Output ports, one maker per kind. */
export const output = {
  scalar: outputOf('scalar'),
  vector: outputOf('vector'),
  colour: outputOf('colour'),
  flex: outputOf('flex'),
  surface: outputOf('surface'),
};

/** The inputs of a node, by their ids. */
export type Ports = Record<string, InputPort>;
/** The outputs of a node, by their ids. */
export type Outputs = Record<string, OutputPort>;
/** What a node's inputs are lowered to. */
export type LoweredInputs<I extends Ports> = {
  readonly [N in keyof I]: I[N] extends InputPort<infer K> ? LoweredByKind[K] : never;
};
/** What a node's outputs are lowered to. */
export type LoweredOutputs<O extends Outputs> = {
  readonly [N in keyof O]: O[N] extends OutputPort<infer K> ? LoweredByKind[K] : never;
};
/** What an input or output of any kind is lowered to. */
export type AnyLowered =
  F32 | FlexLanes | SurfaceLanes | RampTable | CurveTable | ImageTable | string;
