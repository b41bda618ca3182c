import type { Builder } from '../ir/builder';
import type { Bool, F32, I32 } from '../ir/types';
import { toOklab } from './colour-lanes';
import { bulge, reached, shapedWay, weightOf } from './ramp-steps';
import type { Channels } from './ramp-steps';
import { RAMP_COLUMNS, RAMP_MODES, RAMP_ROW } from './ramp-table';
import type { RampModes, RampTable } from './ramp-table';

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

/** How stops are laid out along a ramp, computed at the point at hand. */
interface Layout {
  readonly b: Builder;
  readonly table: RampTable;
  readonly modes: RampModes;
  readonly count: I32;
  /** For proportions: whether all are 0, and one divided by their sum. */
  readonly isEmpty: Bool;
  readonly perShare: F32;
}
const shareOf = (b: Builder, stop: LiveStop): F32 => b.max(stop.position, b.f(0));
function layOut(b: Builder, table: RampTable, modes: RampModes): Layout {
  const count = b.toInt(table.count);
  const total =
    modes.layout === 'proportions'
      ? (b.loop(count, [b.f(0)], (index, [sum]) => [
          b.add(sum as F32, shareOf(b, liveStop(b, table, index, modes))),
        ])[0] as F32)
      : b.f(1);
  const isEmpty = b.le(total, b.f(0));
  const perShare = b.div(b.f(1), b.select(isEmpty, b.f(1), total));
  return { b, table, modes, count, isEmpty, perShare };
}
/** Where a stop begins, given where the one before did. */
function placeOf(
  { b, table, modes, isEmpty, perShare }: Layout,
  stop: LiveStop,
  before: LiveStop,
  previous: F32,
  row: I32,
): F32 {
  const even = b.div(b.toFloat(row), table.count);
  if (modes.layout === 'placed') return b.max(stop.position, previous);
  return modes.layout === 'bands'
    ? even
    : b.select(isEmpty, even, b.add(previous, b.mul(shareOf(b, before), perShare)));
}

/** The slopes between two stops; 0 where they share a place. */
function secants(b: Builder, from: Channels, to: Channels, width: F32): Channels {
  const flat = b.le(width, b.f(0));
  return to.map((lane, k) =>
    b.select(flat, b.f(0), b.div(b.sub(lane, from[k] as F32), b.select(flat, b.f(1), width))),
  );
}

/**
 * Some stop is wired or driven: places, widths and slopes are computed at every point. A stop
 * never passes the one before it.
 */
export function liveRamp(
  b: Builder,
  table: RampTable,
  t: F32,
  modes: RampModes,
  sample: F32 | null,
): Channels {
  const layout = layOut(b, table, modes);
  const rounds = b.isub(layout.count, b.i(1));
  const first = liveStop(b, table, b.i(0), modes);
  const start = modes.layout === 'placed' ? first.position : b.f(0);
  const second = liveStop(b, table, b.i(1), modes);
  const slopes = secants(
    b,
    first.channels,
    second.channels,
    b.sub(placeOf(layout, second, first, start, b.i(1)), start),
  );
  const ended = b.loop(rounds, [...first.channels, ...slopes, start], (index, carried) =>
    passStop(layout, t, sample, index, carried as readonly F32[]),
  );
  return ended.slice(0, 4) as F32[];
}

/**
 * Goes on by one stop. Carried: the colour so far, the slopes at the stop before, and its place.
 */
function passStop(
  layout: Layout,
  t: F32,
  sample: F32 | null,
  index: I32,
  carried: readonly F32[],
): readonly F32[] {
  const { b, table, modes, count } = layout;
  const row = b.iadd(index, b.i(1)),
    next = b.iadd(index, b.i(2));
  const from = carried.slice(4, 8),
    previous = carried[8] as F32;
  const [before, stop, after] = [index, row, next].map((at) => liveStop(b, table, at, modes)) as [
    LiveStop,
    LiveStop,
    LiveStop,
  ];
  const place = placeOf(layout, stop, before, previous, row);
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
  const here = secants(b, before.channels, stop.channels, width);
  const widthAfter = b.sub(placeOf(layout, after, stop, place, next), place);
  const following = secants(b, stop.channels, after.channels, widthAfter);
  const isLast = b.not(b.ilt(next, count));
  const to = here.map((slope, k) =>
    b.select(isLast, slope, limitedSlope(b, slope, following[k] as F32, width, widthAfter)),
  );
  const isSpline = b.eq(mode, b.f(RAMP_MODES.spline));
  const mixed = carried.slice(0, 4).map((channel, k) => {
    const plain = b.mix(channel, stop.channels[k] as F32, way);
    return b.select(
      isSpline,
      b.add(plain, b.mul(width, bulge(b, along, from[k] as F32, to[k] as F32))),
      plain,
    );
  });
  return [...mixed, ...to, place];
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
