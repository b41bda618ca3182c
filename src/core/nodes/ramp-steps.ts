import type { Builder } from '../ir/builder';
import type { F32 } from '../ir/types';
import { smooth } from './lanes';
import { CLEAR_WEIGHT, RAMP_COLUMNS, RAMP_MODES } from './ramp-table';

/** The columns of a row that hold its colour and alpha. */
export const CHANNELS = [
  RAMP_COLUMNS.red,
  RAMP_COLUMNS.green,
  RAMP_COLUMNS.blue,
  RAMP_COLUMNS.alpha,
];

/** Red, green, blue and alpha in lanes. */
export type Channels = readonly F32[];

/** `colourWeight` in lanes. */
export const weightOf = (b: Builder, alpha: F32): F32 =>
  b.add(b.mul(alpha, b.f(1 - CLEAR_WEIGHT)), b.f(CLEAR_WEIGHT));

/** Whether t has reached a place: 0 or 1, or the share of the sample's width that has. */
export function reached(b: Builder, t: F32, place: F32, sample: F32 | null): F32 {
  const hard = b.select(b.le(place, t), b.f(1), b.f(0));
  if (!sample) return hard;
  const isSharp = b.le(sample, b.f(1e-12));
  return b.select(
    isSharp,
    hard,
    b.saturate(b.add(b.div(b.sub(t, place), b.select(isSharp, b.f(1), sample)), b.f(0.5))),
  );
}

/** How far the way to a stop has gone, by its mode. */
export function shapedWay(b: Builder, mode: F32, t: F32, held: F32): F32 {
  return b.select(
    b.lt(b.f(RAMP_MODES.linear), mode),
    smooth(b, t),
    b.select(b.lt(mode, b.f(RAMP_MODES.linear)), held, t),
  );
}

/**
 * What a cubic with these end slopes (over the whole piece) adds to the smooth way: t(1 −
 * t)·(m₀(1 − t) − m₁t).
 */
export function bulge(b: Builder, t: F32, from: F32, to: F32): F32 {
  const rest = b.sub(b.f(1), t);
  return b.mul(b.mul(t, rest), b.sub(b.mul(from, rest), b.mul(to, t)));
}
