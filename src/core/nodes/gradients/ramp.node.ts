import type { F32 } from '../../ir/types';
import { RAMP_COLUMNS, RAMP_MODES, RAMP_ROW, defineNode, input, output } from '../define';
import { luminance, smooth } from '../lanes';

export const ramp = defineNode({
  id: 'gradients.ramp', version: 1, title: 'Ramp', family: 'gradients',
  synonyms: ['colour ramp', 'gradient map', 'stops', 'bands', 'tone curve', 'recolour'],
  help: 'Turns a value into a colour by stops. Each stop says how the way to the next is shaped: hold, linear or smooth. Of stops at '
    + 'one place the right one wins from there on. Colours are blended premultiplied by alpha, in linear light.',
  formula: 'c = c₀; for each stop i: c ← c + (cᵢ − c)·k((t − pᵢ₋₁)/(pᵢ − pᵢ₋₁))',
  inputs: {
    value: input.scalar({ title: 'Value', help: 'What is looked up; outside the stops the ends go on.', default: 0.5, low: 'first stop', high: 'last stop' }),
    stops: input.ramp({ title: 'Stops', help: 'Positions and colours, at least two and at most 32.', default: [{ position: 0, colour: [0.02, 0.02, 0.02] }, { position: 1, colour: [0.9, 0.9, 0.9] }] }),
  },
  outputs: {
    colour: output.colour('Colour', 'The colour, not premultiplied.'), alpha: output.scalar('Alpha', 'The stops’ alpha.'),
    scalar: output.scalar('Scalar', 'Luminance of the colour.'),
  },
  watches: ['value'],
  advise: (reads) => {
    const value = reads.arriving('value');
    const stops = reads.stops('stops');
    if (!value || value.notANumber === 1) return [];
    // A stop is reached where a value lies between its neighbours.
    const unreached = stops.map((_, k) => k).filter((k) => value.maximum < (stops[k - 1] ?? -Infinity) || value.minimum > (stops[k + 1] ?? Infinity));
    if (unreached.length === 0) return [];
    const which = unreached.map((k) => String(k + 1)).join(', ');
    return [{ code: 'ramp.unreached', mark: 'stops', message: `No arriving value reaches stop ${which} of ${String(stops.length)}: the values run from ${value.minimum.toFixed(2)} to ${value.maximum.toFixed(2)}. Stretch them to the range, or move the stops.` }];
  },
  lower: (b, { value, stops }) => {
    const read = (row: Parameters<typeof b.table>[2], column: number): F32 => b.table(stops.base, RAMP_ROW, row, column);
    const channels = [RAMP_COLUMNS.red, RAMP_COLUMNS.green, RAMP_COLUMNS.blue, RAMP_COLUMNS.alpha];
    const first = channels.map((column) => read(b.i(0), column));
    const rounds = b.isub(b.toInt(stops.count), b.i(1));
    const [red, green, blue, alpha] = b.loop(rounds, first, (index, carried) => {
      const row = b.iadd(index, b.i(1));
      const mode = read(row, RAMP_COLUMNS.mode);
      const t = b.saturate(b.mul(b.sub(value, read(row, RAMP_COLUMNS.start)), read(row, RAMP_COLUMNS.inverseWidth)));
      const held = b.select(b.le(read(row, RAMP_COLUMNS.position), value), b.f(1), b.f(0));
      const shaped = b.select(b.lt(b.f(RAMP_MODES.linear), mode), smooth(b, t), b.select(b.lt(mode, b.f(RAMP_MODES.linear)), held, t));
      return carried.map((channel, k) => b.mix(channel as F32, read(row, channels[k] as number), shaped));
    }) as F32[] as [F32, F32, F32, F32];
    const covered = b.lt(b.f(0), alpha);
    const divisor = b.select(covered, alpha, b.f(1));
    const colour = [b.div(red, divisor), b.div(green, divisor), b.div(blue, divisor)] as const;
    return { colour, alpha, scalar: luminance(b, colour) };
  },
});
