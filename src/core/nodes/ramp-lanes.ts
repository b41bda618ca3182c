import type { Builder } from '../ir/builder';
import type { F32, I32 } from '../ir/types';
import { fromOklab } from './colour-lanes';
import { smooth } from './lanes';
import { liveRamp } from './live-ramp';
import { CHANNELS, bulge, reached, shapedWay, weightOf } from './ramp-steps';
import type { Channels } from './ramp-steps';
import {
  CLEAR_WEIGHT,
  CURVE_COLUMNS,
  CURVE_ROW,
  RAMP_COLUMNS,
  RAMP_MODES,
  RAMP_ROW,
} from './ramp-table';
import type { CurveTable, RampModes, RampTable } from './ramp-table';

/**
 * Colour (not premultiplied) and alpha of a ramp at t. Jumps are antialiased over the width, in
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

/** Typed stops only: rows hold all there is to know, computed when they were written. */
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
