import type { F32 } from '../../ir/types';
import { defineNode, input, output } from '../define';
import { evenStep } from '../edges';
import { eachLane, smooth } from '../lanes';

export const posterise = defineNode({
  id: 'ranges.posterise',
  version: 1,
  title: 'Posterise',
  family: 'ranges',
  synonyms: ['quantise', 'steps', 'bands', 'levels of tone', 'two tone', 'cel'],
  help:
    'Flattens a passage to a number of even bands. The value is limited to 0–1 first; ' +
    'softness eases the jumps, each within the upper part of its band.',
  formula: 'min(⌊t·n⌋, n − 1)/max(n − 1, 1), t limited to 0–1',
  inputs: {
    value: input.flex({ title: 'Value', help: 'What is flattened.', default: 0.5 }),
    bands: input.scalar({
      title: 'Bands',
      help: 'How many; whole numbers.',
      default: 3,
      soft: [1, 12],
      hard: [1, 1024],
      counts: 'whole',
      low: 'one tone',
      high: 'many tones',
    }),
    softness: input.scalar({
      title: 'Softness',
      help: 'How much of each band is passage to the next.',
      default: 0,
      hard: [0, 1],
      low: 'hard',
      high: 'soft',
    }),
  },
  outputs: { value: output.flex('Value', '0 to 1 in steps.') },
  cuts: { of: 'value', ends: () => ({ lowest: 0, highest: 1 }) },
  lower: (b, { value, bands, softness }, _options, model) => {
    const one = b.f(1);
    const n = b.max(b.floor(bands), one);
    const last = b.sub(n, one);
    const soft = b.saturate(softness);
    const hard = b.eq(soft, b.f(0));
    return {
      value: eachLane([value], ([x]) => {
        const scaled = b.mul(b.saturate(x as F32), n);
        // The border nearest by stands in for all: half a band away from it nothing changes.
        const border = b.min(b.max(b.nearest(scaled), one), last);
        const sharp = b.add(b.sub(border, one), evenStep(b, scaled, border, model));
        const at = b.min(b.floor(scaled), last);
        const passage = smooth(
          b,
          b.saturate(b.div(b.sub(b.sub(scaled, at), b.sub(one, soft)), b.select(hard, one, soft))),
        );
        return b.div(b.min(b.select(hard, sharp, b.add(at, passage)), last), b.max(last, one));
      }),
    };
  },
});
