import type { Builder } from '../ir/builder';
import type { F32, I32 } from '../ir/types';
import { fromOklab, toOklab } from './colour-lanes';
import { smooth } from './lanes';
import {
  CLEAR_WEIGHT,
  CURVE_COLUMNS,
  CURVE_ROW,
  RAMP_COLUMNS,
  RAMP_MODES,
  RAMP_ROW,
} from './ramp-table';
import type { CurveTable, RampModes, RampTable } from './ramp-table';

const CHANNELS = [RAMP_COLUMNS.red, RAMP_COLUMNS.green, RAMP_COLUMNS.blue, RAMP_COLUMNS.alpha];
type Channels = readonly F32[];

/**
 * Colour (not premultiplied) and alpha of a ramp at t. Jumps are evened out over the width, in
 * units of t, that a sample stands for.
 */
export function readRamp(
  b: Builder,
  table: RampTable,
  t: F32,
  modes: RampModes,
  width: F32 | null = null,
): { readonly colour: readonly [F32, F32, F32]; readonly alpha: F32 } {
  const [red, green, blue, alpha] = (
    table.open.length > 0 ? liveRamp(b, table, t, modes, width) : plainRamp(b, table, t, width)
  ) as [F32, F32, F32, F32];
  const divisor = b.max(weightOf(b, alpha), b.f(CLEAR_WEIGHT));
  const straight = [b.div(red, divisor), b.div(green, divisor), b.div(blue, divisor)] as const;
  return { colour: modes.blend === 'perceptual' ? fromOklab(b, straight) : straight, alpha };
}

/** `colourWeight` in lanes. */
const weightOf = (b: Builder, alpha: F32): F32 =>
  b.add(b.mul(alpha, b.f(1 - CLEAR_WEIGHT)), b.f(CLEAR_WEIGHT));

/** Whether t has reached a place: 0 or 1, or the share of the sample's width that has. */
function reached(b: Builder, t: F32, place: F32, sample: F32 | null): F32 {
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
function shapedWay(b: Builder, mode: F32, t: F32, held: F32): F32 {
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
function bulge(b: Builder, t: F32, from: F32, to: F32): F32 {
  const rest = b.sub(b.f(1), t);
  return b.mul(b.mul(t, rest), b.sub(b.mul(from, rest), b.mul(to, t)));
}

/** Typed stops only: rows hold all there is to know, worked out when they were written. */
function plainRamp(b: Builder, table: RampTable, t: F32, sample: F32 | null): Channels {
  const read = (row: I32, column: number): F32 => b.table(table.base, RAMP_ROW, row, column);
  const rounds = b.isub(b.toInt(table.count), b.i(1));
  return b.loop(
    rounds,
    CHANNELS.map((column) => read(b.i(0), column)),
    (index, carried) => {
      const row = b.iadd(index, b.i(1));
      const mode = read(row, RAMP_COLUMNS.mode);
      const start = read(row, RAMP_COLUMNS.start),
        position = read(row, RAMP_COLUMNS.position);
      const along = b.saturate(b.mul(b.sub(t, start), read(row, RAMP_COLUMNS.inverseWidth)));
      const way = shapedWay(b, mode, along, reached(b, t, position, sample));
      const mixed = (carried as F32[]).map((channel, k) =>
        b.mix(channel, read(row, CHANNELS[k] as number), way),
      );
      // Splines are rare: the others do not pay for them.
      const splines = b.select(b.eq(mode, b.f(RAMP_MODES.spline)), b.i(1), b.i(0));
      return b.loop(splines, mixed, (_, channels) => {
        const width = b.sub(position, start);
        const slope = (of: I32, k: number): F32 => b.mul(read(of, RAMP_COLUMNS.slopes + k), width);
        return (channels as F32[]).map((channel, k) =>
          b.add(channel, bulge(b, along, slope(index, k), slope(row, k))),
        );
      });
    },
  ) as F32[];
}

interface LiveStop {
  readonly position: F32;
  readonly channels: Channels;
}

/**
 * A stop with what is wired or driven in place of what was typed; colours weighed by
 * `colourWeight`, in the space they are blended in.
 */
function liveStop(b: Builder, table: RampTable, row: I32, { blend }: RampModes): LiveStop {
  const read = (column: number): F32 => b.table(table.base, RAMP_ROW, row, column);
  let position = read(RAMP_COLUMNS.position),
    alpha = read(RAMP_COLUMNS.alpha);
  // In a table with open stops colours stand as typed: neither premultiplied nor turned into
  // another space.
  let colour: readonly F32[] = [
    read(RAMP_COLUMNS.red),
    read(RAMP_COLUMNS.green),
    read(RAMP_COLUMNS.blue),
  ];
  for (const open of table.open) {
    const isHere = b.ieq(row, b.toInt(open.row));
    const given = open.colour;
    if (open.position) position = b.select(isHere, open.position, position);
    if (open.alpha) alpha = b.select(isHere, b.saturate(open.alpha), alpha);
    if (given) colour = colour.map((lane, k) => b.select(isHere, given[k as 0], lane));
  }
  const blended =
    blend === 'perceptual' ? toOklab(b, colour as unknown as readonly [F32, F32, F32]) : colour;
  const weight = weightOf(b, alpha);
  return { position, channels: [...blended.map((lane) => b.mul(lane, weight)), alpha] };
}

/**
 * Some stop is wired or driven: places, widths and slopes are worked out at every point. A stop
 * never passes the one before it.
 */
function liveRamp(
  b: Builder,
  table: RampTable,
  t: F32,
  modes: RampModes,
  sample: F32 | null,
): Channels {
  const count = b.toInt(table.count);
  const rounds = b.isub(count, b.i(1));
  const share = (stop: LiveStop): F32 => b.max(stop.position, b.f(0));
  const total =
    modes.layout === 'proportions'
      ? (b.loop(count, [b.f(0)], (index, [sum]) => [
          b.add(sum as F32, share(liveStop(b, table, index, modes))),
        ])[0] as F32)
      : b.f(1);
  const isEmpty = b.le(total, b.f(0));
  const perShare = b.div(b.f(1), b.select(isEmpty, b.f(1), total));
  /** Where a stop begins, given where the one before did. */
  const placeOf = (stop: LiveStop, before: LiveStop, previous: F32, row: I32): F32 => {
    const even = b.div(b.toFloat(row), table.count);
    if (modes.layout === 'placed') return b.max(stop.position, previous);
    return modes.layout === 'bands'
      ? even
      : b.select(isEmpty, even, b.add(previous, b.mul(share(before), perShare)));
  };
  const first = liveStop(b, table, b.i(0), modes);
  const start = modes.layout === 'placed' ? first.position : b.f(0);
  const second = liveStop(b, table, b.i(1), modes);
  const secants = (from: Channels, to: Channels, width: F32): Channels => {
    const flat = b.le(width, b.f(0));
    return to.map((lane, k) =>
      b.select(flat, b.f(0), b.div(b.sub(lane, from[k] as F32), b.select(flat, b.f(1), width))),
    );
  };
  const slopes = secants(
    first.channels,
    second.channels,
    b.sub(placeOf(second, first, start, b.i(1)), start),
  );
  const ended = b.loop(rounds, [...first.channels, ...slopes, start], (index, carried) => {
    const row = b.iadd(index, b.i(1)),
      next = b.iadd(index, b.i(2));
    const colours = carried.slice(0, 4) as F32[],
      from = carried.slice(4, 8) as F32[],
      previous = carried[8] as F32;
    const [before, stop, after] = [index, row, next].map((at) => liveStop(b, table, at, modes)) as [
      LiveStop,
      LiveStop,
      LiveStop,
    ];
    const place = placeOf(stop, before, previous, row);
    const width = b.sub(place, previous);
    const isFlat = b.le(width, b.f(0));
    const mode = b.select(
      isFlat,
      b.f(RAMP_MODES.hold),
      modes.layout === 'placed'
        ? b.table(table.base, RAMP_ROW, row, RAMP_COLUMNS.mode)
        : b.f(RAMP_MODES.hold),
    );
    const along = b.saturate(b.div(b.sub(t, previous), b.select(isFlat, b.f(1), width)));
    const way = shapedWay(b, mode, along, reached(b, t, place, sample));
    const here = secants(before.channels, stop.channels, width);
    const following = secants(
      stop.channels,
      after.channels,
      b.sub(placeOf(after, stop, place, next), place),
    );
    const isLast = b.not(b.ilt(next, count));
    const to = here.map((slope, k) =>
      b.select(
        isLast,
        slope,
        limitedSlope(
          b,
          slope,
          following[k] as F32,
          width,
          b.sub(placeOf(after, stop, place, next), place),
        ),
      ),
    );
    const isSpline = b.eq(mode, b.f(RAMP_MODES.spline));
    const mixed = colours.map((channel, k) => {
      const plain = b.mix(channel, stop.channels[k] as F32, way);
      return b.select(
        isSpline,
        b.add(plain, b.mul(width, bulge(b, along, from[k] as F32, to[k] as F32))),
        plain,
      );
    });
    return [...mixed, ...to, place];
  });
  return ended.slice(0, 4) as F32[];
}

/** `steffenSlope` in lanes; a piece without width leaves the slope of the other. */
function limitedSlope(b: Builder, before: F32, after: F32, left: F32, right: F32): F32 {
  const sum = b.add(left, right);
  const isFlat = b.le(sum, b.f(0));
  const parabola = b.div(
    b.add(b.mul(before, right), b.mul(after, left)),
    b.select(isFlat, b.f(1), sum),
  );
  const size = b.min(b.min(b.abs(before), b.abs(after)), b.mul(b.abs(parabola), b.f(0.5)));
  const sign = (x: F32): F32 =>
    b.select(b.lt(x, b.f(0)), b.f(-1), b.select(b.lt(b.f(0), x), b.f(1), b.f(0)));
  const slope = b.mul(b.add(sign(before), sign(after)), size);
  return b.select(b.le(left, b.f(0)), after, b.select(b.le(right, b.f(0)), before, slope));
}

/** A curve at x; beyond its ends it holds, or goes on straight. */
export function readCurve(b: Builder, table: CurveTable, x: F32, goesOn: boolean): F32 {
  const read = (row: I32, column: number): F32 => b.table(table.base, CURVE_ROW, row, column);
  const last = b.isub(b.toInt(table.count), b.i(1));
  const first = b.i(0);
  const [value] = b.loop(last, [read(first, CURVE_COLUMNS.value)], (index, [carried]) => {
    const row = b.iadd(index, b.i(1));
    const inverse = read(row, CURVE_COLUMNS.inverseWidth);
    const along = b.saturate(b.mul(b.sub(x, read(row, CURVE_COLUMNS.start)), inverse));
    const width = b.select(
      b.eq(inverse, b.f(0)),
      b.f(0),
      b.div(b.f(1), b.select(b.eq(inverse, b.f(0)), b.f(1), inverse)),
    );
    const slope = (of: I32): F32 => b.mul(read(of, CURVE_COLUMNS.slope), width);
    return [
      b.add(
        b.mix(carried as F32, read(row, CURVE_COLUMNS.value), smooth(b, along)),
        bulge(b, along, slope(index), slope(row)),
      ),
    ];
  }) as [F32];
  if (!goesOn) return value;
  // The row after the last holds where the curve begins and ends.
  const ends = b.toInt(table.count);
  const below = b.min(b.sub(x, read(ends, 0)), b.f(0)),
    above = b.max(b.sub(x, read(ends, 1)), b.f(0));
  return b.add(
    value,
    b.add(
      b.mul(below, read(first, CURVE_COLUMNS.slope)),
      b.mul(above, read(last, CURVE_COLUMNS.slope)),
    ),
  );
}
