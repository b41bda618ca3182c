import type { F32, Lanes3 } from '../ir/types';

/**
 * A stop that is wired or driven: its row in the table, and what stands in place of what the table
 * says.
 */
export interface OpenStop {
  readonly row: F32;
  readonly position?: F32;
  readonly colour?: Lanes3;
  readonly alpha?: F32;
}
/** A ramp in the uniforms: `count` stops, read row by row (see `RAMP_COLUMNS`). */
export interface RampTable {
  readonly base: number;
  readonly count: F32;
  readonly open: readonly OpenStop[];
}
/**
 * Columns of a ramp's table: a row tells how its stop is reached from the one before. The last four
 * are the slopes of the channels.
 */
export const RAMP_COLUMNS = {
  start: 0,
  inverseWidth: 1,
  mode: 2,
  position: 3,
  red: 4,
  green: 5,
  blue: 6,
  alpha: 7,
  slopes: 8,
} as const;
/** Numbers of a row of a ramp's table. */
export const RAMP_ROW = 12;
/** The most stops a ramp's table holds. */
export const RAMP_ROWS = 32;
/** Values of the mode column. */
export const RAMP_MODES = { hold: 0, linear: 1, smooth: 2, spline: 3 } as const;

/** What of a stop can be wired or driven. */
export const STOP_ASPECTS = ['position', 'colour', 'alpha'] as const;
/** One of the aspects of a stop that can be wired or driven. */
export type StopAspect = (typeof STOP_ASPECTS)[number];

/** How stops are laid out over 0–1, and what their colours are blended in. */
export interface RampModes {
  readonly layout: 'placed' | 'bands' | 'proportions';
  readonly blend: 'light' | 'perceptual';
}

/** A curve in the uniforms: `count` points, read row by row. */
export interface CurveTable {
  readonly base: number;
  readonly count: F32;
}
/**
 * Columns of a curve's table: where the piece that ends at this point begins, 1 over its width, the
 * point's value, its slope.
 */
export const CURVE_COLUMNS = { start: 0, inverseWidth: 1, value: 2, slope: 3 } as const;
/** Numbers of a row of a curve's table. */
export const CURVE_ROW = 4;
/** The most points a curve's table holds. */
export const CURVE_ROWS = 24;

/**
 * How much the colour of what is wholly clear still counts, so that a stop of alpha 0 keeps its
 * colour: a power of two.
 */
export const CLEAR_WEIGHT = 2 ** -24;
/**
 * What colours are weighed by when they are blended: alpha, but never 0. It is linear, so that it
 * blends as alpha does.
 */
export const colourWeight = (alpha: number): number => alpha * (1 - CLEAR_WEIGHT) + CLEAR_WEIGHT;
