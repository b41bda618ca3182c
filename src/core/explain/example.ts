import type { InputValue } from '../graph/document';

/** What is read at a place: the lanes of what arrives there, or the normal of the surface. */
export type Sample = readonly number[];
/** What is read where a mask is to be, and where it is not to be. */
export interface Example {
  readonly inside: readonly Sample[];
  readonly outside: readonly Sample[];
}
/** The same as single numbers. */
export interface ExampleNumbers {
  readonly inside: readonly number[];
  readonly outside: readonly number[];
}
/** Values of a node's inputs, by input. */
export type FittedValues = Readonly<Record<string, InputValue>>;

/** What fits an example: the values to take, or that nothing separates it. */
export type Fitted =
  | {
      readonly kind: 'fits';
      /** By input; those that stay as they are are left out. */
      readonly values: FittedValues;
      /** Whether what arrives is to be turned over first, 1 − x. */
      readonly isTurned: boolean;
      /** In a sentence: what was found and why. */
      readonly because: string;
    }
  | { readonly kind: 'nothing separates'; readonly because: string };

/** A number as it is told. */
export const short = (value: number): string => String(Number(value.toPrecision(4)));
/** A number as it is taken. */
export const tidy = (value: number): number => Number(value.toPrecision(5));
/** A value, brought between two ends. */
export const limit = (value: number, low: number, high: number): number =>
  Math.min(high, Math.max(low, value));
/** The least and the largest of some values. */
export const span = (values: readonly number[]): readonly [number, number] => [
  Math.min(...values),
  Math.max(...values),
];
/** Says why nothing separates the two sorts. */
export const nothing = (because: string): Fitted => ({ kind: 'nothing separates', because });

/** The number an input holds. */
export const numberOf = (now: FittedValues, input: string, otherwise: number): number => {
  const held = now[input];
  return typeof held === 'number' ? held : otherwise;
};
/** Those of the values that differ from what is held. */
export const changed = (
  now: FittedValues,
  found: Readonly<Record<string, number>>,
): Readonly<Record<string, number>> =>
  Object.fromEntries(Object.entries(found).filter(([input, value]) => now[input] !== value));
