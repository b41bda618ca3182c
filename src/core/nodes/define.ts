import type { Builder } from '../ir/builder';
import type { Advice, AdviceReads } from './advice';
import type { ModelReads } from './model-reads';
import type { ChosenOptions, OptionDefinition, Options } from './options';
import type {
  AnyLowered,
  InputPort,
  LoweredInputs,
  LoweredOutputs,
  OutputPort,
  Outputs,
  Ports,
} from './ports';

// All that the file of a node needs, from one place.
export { NOT_DRIVEN, TYPED_ONLY, input, output } from './ports';
export type * from './ports';
export { openOption, option } from './options';
export type * from './options';
export type * from './model-reads';

/** Values to start from, by the name of what they are for. */
export interface StartingPoint {
  readonly title: string;
  readonly values: Readonly<Record<string, number | readonly [number, number, number]>>;
}

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

interface FittedBand {
  readonly centre: string;
  readonly width: string;
  readonly softness: string;
}
/**
 * How a mask is fitted to an example, by the inputs that are fitted. `of`: the input whose values
 * are read. `when`: an option and the choice under which it is.
 */
export type ExampleFit = { readonly when?: readonly [option: string, choice: string] } & (
  | {
      readonly kind: 'edge';
      readonly of: string;
      readonly edge: string;
      readonly width: string;
      /** Whether the edge is where the width begins; else its middle. */
      readonly begins?: boolean;
    }
  /** Where 0 and where 1 is reached. */
  | { readonly kind: 'edges'; readonly of: string; readonly lower: string; readonly upper: string }
  /** `wheel`: the band is one of hues, on a wheel of so many degrees. */
  | ({ readonly kind: 'band'; readonly of: string; readonly wheel?: number } & FittedBand)
  /** A band of how far the surface faces a direction. */
  | ({ readonly kind: 'facing'; readonly direction: string } & FittedBand)
  /** Stops of a ramp between two ends. */
  | {
      readonly kind: 'stops';
      readonly of: string;
      readonly stops: string;
      readonly from: string;
      readonly to: string;
    }
);

/** Two ends between which a node keeps what arrives. */
export interface CutEnds {
  readonly lowest: number;
  readonly highest: number;
  /** Whether the ends are what the node is for: its card need not show that it cuts. */
  readonly isMeant?: boolean;
}
/** How a node keeps the values of an input between two ends; null while it does not. */
interface Cuts<K extends string> {
  readonly of: K;
  readonly ends: (reads: AdviceReads) => CutEnds | null;
}

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
  /** The inputs that take the least and the most of what arrives at another, by a button. */
  readonly measures?: { readonly of: string; readonly least: string; readonly most: string };
  /** The inputs that are fitted to strokes on a model: what a mask is to hold, and what not. */
  readonly fits?: readonly ExampleFit[];
  /** Words a search also finds it by. */
  readonly synonyms: readonly string[];
  /**
   * Absolute tolerance of double against single precision, where more than 1e-4 is needed; with the
   * reason.
   */
  readonly tolerance?: { readonly value: number; readonly reason: string };
}
/** The families of nodes, in the order of the handbook. */
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
/** A family of nodes: the folder its files are in. */
export type Family = (typeof FAMILIES)[number];

/** One node of the catalogue. */
export interface NodeDefinition extends NodeText {
  readonly inputs: Readonly<Record<string, InputPort>>;
  readonly outputs: Readonly<Record<string, OutputPort>>;
  readonly options: Readonly<Record<string, OptionDefinition>>;
  /** Inputs that mean nothing under these options. */
  readonly idle: (options: Readonly<Record<string, string>>) => readonly string[];
  /** What its values follow beside the surface; a bake freezes them. */
  readonly follows?: 'camera' | 'lights';
  /** Named sets of values to start from. */
  readonly starts: readonly StartingPoint[];
  /**
   * The option whose choices are found in searches under their own names, with other words for some
   * of them.
   */
  readonly presets?: {
    readonly option: string;
    readonly synonyms: Readonly<Record<string, readonly string[]>>;
  };
  /** The operand that changes nothing, per option choice, offered when the choice changes. */
  readonly neutral: Readonly<
    Record<string, { readonly input: string; readonly value: number; readonly isExact?: boolean }>
  >;
  /** Two inputs of which the other is passed where one has no source any more. */
  readonly sides?: (options: Readonly<Record<string, string>>) => readonly [string, string] | null;
  /** What to say about the values that pass through it on the model at hand. */
  readonly advise: (reads: AdviceReads) => readonly Advice[];
  /**
   * Inputs whose arriving values its advice or its bench looks at; outputs beside the first with a
   * colon before them.
   */
  readonly watches: (options: Readonly<Record<string, string>>) => readonly string[];
  readonly cuts?: Cuts<string>;
  readonly lower: (
    b: Builder,
    inputs: Readonly<Record<string, AnyLowered>>,
    options: Readonly<Record<string, string>>,
    model: ModelReads,
  ) => Readonly<Record<string, AnyLowered>>;
}

type Watched<I, O> = readonly ((keyof I & string) | `:${keyof O & string}`)[];

interface TypedNode<I extends Ports, O extends Outputs, P extends Options> extends NodeText {
  readonly inputs: I;
  readonly outputs: O;
  readonly options?: P;
  readonly idle?: (options: ChosenOptions<P>) => readonly (keyof I & string)[];
  readonly neutral?: Readonly<
    Record<
      string,
      { readonly input: keyof I & string; readonly value: number; readonly isExact?: boolean }
    >
  >;
  readonly sides?: (
    options: ChosenOptions<P>,
  ) => readonly [keyof I & string, keyof I & string] | null;
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
  readonly watches?: Watched<I, O> | ((options: ChosenOptions<P>) => Watched<I, O>);
  readonly cuts?: Cuts<keyof I & string>;
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
  const { watches = [], cuts } = node;
  return {
    options: {},
    idle: () => [],
    neutral: {},
    advise: () => [],
    starts: [],
    ...node,
    watches: (options: ChosenOptions<P>) => [
      ...new Set([
        ...(typeof watches === 'function' ? watches(options) : watches),
        ...(cuts ? [cuts.of] : []),
      ]),
    ],
  } as unknown as NodeDefinition;
}
