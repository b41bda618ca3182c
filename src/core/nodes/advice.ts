/** What is known of one lane of a value; the shares, of all points, of what leaves 0–1. */
export interface LaneRange {
  readonly minimum: number;
  readonly maximum: number;
  readonly mean: number;
  readonly below: number;
  readonly above: number;
}
/** What is known of a value over the points in view; shares are of all points. */
export interface ValueRange extends LaneRange {
  readonly notANumber: number;
  readonly constant: boolean;
  /** What kind of value it is, where that is known: an output may be of any. */
  readonly lanes?: readonly LaneRange[];
  readonly kind?: 'scalar' | 'vector' | 'colour' | 'surface';
}

/** A change that one click makes. */
export type Cure =
  | { readonly title: string; readonly input: string; readonly value: number }
  | { readonly title: string; readonly option: string; readonly choice: string }
  | { readonly title: string; readonly limit: true }
  | { readonly title: string; readonly remove: true }
  /** The typed value of this input goes. */
  | { readonly title: string; readonly clear: string }
  /** A lamp on the stage. */
  | { readonly title: string; readonly lamp: true }
  /** A new node of this type, wired into the input. */
  | { readonly title: string; readonly source: string; readonly into: string };

/** Everything a node may say about its values; codes are never reused. */
export const ADVICE_CODES = [
  'value.below',
  'value.above',
  'value.constant',
  'value.not-a-number',
  'clamp.idle',
  'amount.leaves-range',
  'layer.covered',
  'layer.unseen',
  'layer.coverage',
  'ramp.unreached',
  'tint.idle',
  'factor.idle',
  'range.left',
  'range.flat',
  'value.follows',
  'input.no-source',
  'layer.no-surface',
  'node.unused',
  'normal.fixed',
  'value.cut',
  'light.none',
  'hue.none',
  'transmission.dark',
] as const;
/** A code of ADVICE_CODES. */
export type AdviceCode = (typeof ADVICE_CODES)[number];
/**
 * What a node has to say about the values that pass through it. `mark` is a few letters for its
 * card, none where the card need not show it.
 */
export interface Advice {
  readonly code: AdviceCode;
  readonly mark: string;
  readonly message: string;
  readonly cure?: Cure;
  /** `fact`: nothing is amiss. */ readonly tone?: 'fact';
}

/** What a node's advice may look at. */
export interface AdviceReads {
  /** The range of what arrives at an input it watches; null where that is not known. */
  arriving(input: string): ValueRange | null;
  /** The range of one of its outputs. */
  result(output: string): ValueRange | null;
  isWired(input: string): boolean;
  /** Whether neither a strand nor a dial decides it: the typed number is what counts. */
  isFixed(input: string): boolean;
  /** A typed or designed number; null where there is none. */
  number(input: string): number | null;
  /** A typed or designed colour or vector; null where there is none. */
  triple(input: string): readonly [number, number, number] | null;
  /** Whether each of the lamps of the stage gives light, in their order. */
  readonly lamps: readonly boolean[];
  /**
   * The parts of a ramp, in order: where each stop begins, 0–1, and whether its colour holds up to
   * the next.
   */
  stops(input: string): readonly { readonly place: number; readonly holds: boolean }[];
  /** Whether a value was typed, in place of the one it comes with. */
  isTyped(input: string): boolean;
  choice(option: string): string;
}

/** A share as text, with two digits where it is below one per cent. */
export const percent = (share: number): string =>
  `${(share * 100).toFixed(share > 0 && share < 0.01 ? 2 : 0)} %`;

/**
 * Two typed inputs as the ends between which a node keeps what arrives; null where a strand or a
 * dial decides one of them, or where they leave no passage.
 */
export function typedEnds(
  reads: AdviceReads,
  low: string,
  high: string,
): { readonly lowest: number; readonly highest: number; readonly isMeant: true } | null {
  const [lowest, highest] = [reads.number(low), reads.number(high)];
  if (lowest === null || highest === null || lowest === highest) return null;
  if (!reads.isFixed(low) || !reads.isFixed(high)) return null;
  return { lowest: Math.min(lowest, highest), highest: Math.max(lowest, highest), isMeant: true };
}
