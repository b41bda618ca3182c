import type { Builder } from '../ir/builder';
import type { F32, Lanes3 } from '../ir/types';
import type { Advice, AdviceReads } from './advice';
import type { ImageTable } from './image-table';
import type { MeshMapKind } from './map-kinds.generated';
import type { Quantity } from './quantities';
import type { CurveTable, RampTable } from './ramp-table';
import type { SurfaceLanes } from './surface-parameters';

export type FlexLanes = readonly F32[];
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
}
export type PortKind = keyof LoweredByKind;
/** Kinds of inputs that no strand enters. */
export const TYPED_ONLY: ReadonlySet<string> = new Set<PortKind>([
  'fixed',
  'ramp',
  'curve',
  'formula',
  'image',
]);
/** Kinds of inputs that are neither a number nor a triple: no dial drives them. */
export const NOT_DRIVEN: ReadonlySet<string> = new Set<PortKind>([
  'surface',
  'scalars',
  'ramp',
  'curve',
  'formula',
  'image',
]);

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
}
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
export interface FormulaText {
  readonly formula: string;
}
/** Points of a curve: x, then y; x rising. */
export interface CurveText {
  readonly points: readonly (readonly [number, number])[];
}
export interface RampStopText {
  readonly position: number;
  readonly colour: readonly [number, number, number];
}
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
  return { soft: [0, 1], hard: [-WIDE, WIDE], step: 0.01, ...text, kind, default: fallback };
}
/** Input ports, one maker per kind. */
export const input = {
  scalar: (text: ScalarText): InputPort<'scalar'> => numeric('scalar', text, text.default ?? 0),
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

export interface Choice {
  readonly value: string;
  readonly title: string;
  readonly help: string;
}
/** A mode that changes what is computed; changing it recompiles. */
export interface OptionDefinition<V extends string = string> {
  readonly title: string;
  readonly help: string;
  readonly default: V;
  readonly choices: readonly (Choice & { readonly value: V })[];
  /** What of the model at hand may be chosen besides, by its name. */
  readonly open?: OpenKind;
}
export type OpenKind = 'attributes' | 'parts' | 'sets';
/**
 * An option whose choices are names the model at hand brings; the empty one, or those given, always
 * stand.
 */
export function openOption(
  title: string,
  help: string,
  open: OpenKind,
  none: readonly [string, string],
  more: Readonly<Record<string, readonly [string, string]>> = {},
): OptionDefinition {
  return {
    title,
    help,
    open,
    default: '',
    choices: Object.entries({ '': none, ...more }).map(([value, [name, meaning]]) => ({
      value,
      title: name,
      help: meaning,
    })),
  };
}
/** An option with its choices as `value: [title, help]`; the first is the default. */
export function option<V extends string>(
  title: string,
  help: string,
  choices: Record<V, readonly [string, string]>,
): OptionDefinition<V> {
  const list = (Object.entries(choices) as [V, readonly [string, string]][]).map(
    ([value, [name, meaning]]) => ({ value, title: name, help: meaning }),
  );
  // JavaScript puts keys that are whole numbers before all others, whatever order they were written
  // in.
  if (
    Object.keys(choices).some((value) => /^\d+$/.test(value)) &&
    Object.keys(choices).some((value) => !/^\d+$/.test(value))
  )
    throw new Error(`Invariant broken: option ${title} mixes numbers and names`);
  const [first] = list;
  if (!first) throw new Error(`Invariant broken: option ${title} has no choice`);
  return { title, help, default: first.value, choices: list };
}

/** Values to start from, by the name of what they are for. */
export interface StartingPoint {
  readonly title: string;
  readonly values: Readonly<Record<string, number | readonly [number, number, number]>>;
}

/**
 * The id of a fixed input or of an option, a number, a choice made for good, or a number that is
 * the same all over the model.
 */
export type MapSetting =
  string | number | { readonly choice: string } | { readonly everywhere: F32 };
/**
 * A light as nodes read it: `at` a unit direction towards it when it is far, else its place in
 * metres; colour times intensity.
 */
export interface LightLanes {
  readonly at: Lanes3;
  readonly isNear: F32;
  readonly colour: Lanes3;
}
/**
 * What a node may read of the model at the point at hand. Lengths in metres, object space, Y up.
 */
export interface ModelReads {
  readonly position: Lanes3;
  readonly normal: Lanes3;
  readonly faceNormal: Lanes3;
  readonly textureCoordinates: Lanes3;
  /**
   * How the texture coordinates change along the surface: the gradients of u and of v, object
   * space, per metre.
   */
  textureSlopes(): readonly [Lanes3, Lanes3];
  /** From the model's own space to that of the scene. */
  readonly inWorld: {
    readonly position: (place: Lanes3) => Lanes3;
    readonly direction: (direction: Lanes3) => Lanes3;
  };
  /** Diameter of the smallest enclosing sphere. */
  readonly size: F32;
  readonly boundsMinimum: Lanes3;
  readonly boundsExtent: Lanes3;
  /**
   * The width of what one sample stands for on the surface, in metres: a pixel on the stage, a
   * texel in a bake. Null where values are wanted at points and nothing is to be evened out.
   */
  footprint(of: 'images' | 'steps'): F32 | null;
  /**
   * A value of a mesh map; `settings` names the fixed inputs and options that decide the map;
   * `which` tells several of one node apart; `detail` names the input whose normals are measured in
   * place of the surface's, when it is wired.
   */
  meshMap(
    kind: MeshMapKind,
    settings: Readonly<Record<string, MapSetting>>,
    more?: { readonly which?: string; readonly detail?: string },
  ): F32;
  /** The unit direction from the point to the eye; where nobody looks, the normal. */
  view(): Lanes3;
  /** The part the point lies on, counted from 0, and the middle of its bounds. */
  part(): { readonly id: F32; readonly centre: Lanes3 };
  /**
   * A named attribute of the model: its width (0 where the model has none of that name) and up to
   * four numbers.
   */
  attribute(name: string): { readonly width: F32; readonly lanes: readonly [F32, F32, F32, F32] };
  /** The lights of the scene; those that are not there are black. */
  lights(): readonly LightLanes[];
  /**
   * Whether anything depends on one of the node's outputs. Outputs that need the same loop are
   * worked out in one, and what none of them needs is left out of it.
   */
  isUsed(output: string): boolean;
  /** Whether a strand enters one of the node's inputs. */
  isWired(input: string): boolean;
}

type Ports = Record<string, InputPort>;
type Outputs = Record<string, OutputPort>;
type Options = Record<string, OptionDefinition>;
type LoweredInputs<I extends Ports> = {
  readonly [N in keyof I]: I[N] extends InputPort<infer K> ? LoweredByKind[K] : never;
};
type LoweredOutputs<O extends Outputs> = {
  readonly [N in keyof O]: O[N] extends OutputPort<infer K> ? LoweredByKind[K] : never;
};
type ChosenOptions<P extends Options> = {
  readonly [N in keyof P]: P[N] extends OptionDefinition<infer V> ? V : never;
};

/** How a node of one version becomes one of the next, with the same values at every point. */
export interface NodeUpgrade {
  /** What changed, in a sentence a person reads. */
  readonly what: string;
  /** Inputs under new names, by their old ones; strands and drives follow. Outputs keep theirs. */
  readonly inputs?: Readonly<Record<string, string>>;
  /** What becomes of values and options, whose inputs have their new names already. */
  readonly change?: (node: NodeSettings) => NodeSettings;
}
/** What is set on a node. */
export interface NodeSettings {
  readonly values: Readonly<Record<string, unknown>>;
  readonly options: Readonly<Record<string, string>>;
}
/** What stands for an earlier version: the way to the next, or its meaning, kept as it was. */
export type FormerVersion = NodeUpgrade | { readonly kept: NodeDefinition };

interface NodeText {
  readonly id: string;
  /** Raised when what a shipped node computes changes, or what its inputs are called. */
  readonly version: number;
  /** Every version before, by its number. */
  readonly former?: Readonly<Record<number, FormerVersion>>;
  readonly title: string;
  readonly family: Family;
  readonly help: string;
  readonly formula: string;
  /** Words a search also finds it by. */
  readonly synonyms: readonly string[];
  /**
   * Absolute tolerance of double against single precision, where more than 1e-4 is needed; with the
   * reason.
   */
  readonly tolerance?: { readonly value: number; readonly reason: string };
}
export const FAMILIES = [
  'model',
  'patterns',
  'coordinates',
  'gradients',
  'ranges',
  'math',
  'masks',
  'colour',
  'optics',
  'surface',
  'constants',
] as const;
export type Family = (typeof FAMILIES)[number];

export type AnyLowered =
  F32 | FlexLanes | SurfaceLanes | RampTable | CurveTable | ImageTable | string;
/** One node of the catalogue. */
export interface NodeDefinition extends NodeText {
  readonly inputs: Readonly<Record<string, InputPort>>;
  readonly outputs: Readonly<Record<string, OutputPort>>;
  readonly options: Readonly<Record<string, OptionDefinition>>;
  /** Inputs that mean nothing under these options. */
  readonly idle: (options: Readonly<Record<string, string>>) => readonly string[];
  /**
   * The option whose choices are found in searches under their own names, with other words for some
   * of them.
   */
  /** What its values follow beside the surface; a bake freezes them. */
  readonly follows?: 'camera' | 'lights';
  /** Named sets of values to start from. */
  readonly starts: readonly StartingPoint[];
  readonly presets?: {
    readonly option: string;
    readonly synonyms: Readonly<Record<string, readonly string[]>>;
  };
  /** The operand that changes nothing, per option choice, offered when the choice changes. */
  readonly neutral: Readonly<Record<string, { readonly input: string; readonly value: number }>>;
  /** What to tell of the values that pass through it on the model at hand. */
  readonly advise: (reads: AdviceReads) => readonly Advice[];
  /**
   * Inputs whose arriving values its advice or its bench looks at; outputs beside the first with a
   * colon before them.
   */
  readonly watches: readonly string[];
  readonly lower: (
    b: Builder,
    inputs: Readonly<Record<string, AnyLowered>>,
    options: Readonly<Record<string, string>>,
    model: ModelReads,
  ) => Readonly<Record<string, AnyLowered>>;
}

interface TypedNode<I extends Ports, O extends Outputs, P extends Options> extends NodeText {
  readonly inputs: I;
  readonly outputs: O;
  readonly options?: P;
  readonly idle?: (options: ChosenOptions<P>) => readonly (keyof I & string)[];
  readonly neutral?: Readonly<
    Record<string, { readonly input: keyof I & string; readonly value: number }>
  >;
  readonly follows?: 'camera' | 'lights';
  readonly starts?: readonly (StartingPoint & {
    readonly values: Readonly<
      Partial<Record<keyof I & string, number | readonly [number, number, number]>>
    >;
  })[];
  readonly presets?: {
    readonly option: keyof P & string;
    readonly synonyms: Readonly<Record<string, readonly string[]>>;
  };
  readonly advise?: (reads: AdviceReads) => readonly Advice[];
  readonly watches?: readonly ((keyof I & string) | `:${keyof O & string}`)[];
  readonly lower: (
    b: Builder,
    inputs: LoweredInputs<I>,
    options: ChosenOptions<P>,
    model: ModelReads,
  ) => LoweredOutputs<O>;
}

/** Declares a node; its ports type its lowering function. */
export function defineNode<I extends Ports, O extends Outputs, P extends Options = Options>(
  node: TypedNode<I, O, P>,
): NodeDefinition {
  return {
    options: {},
    idle: () => [],
    neutral: {},
    advise: () => [],
    watches: [],
    starts: [],
    ...node,
  } as unknown as NodeDefinition;
}
