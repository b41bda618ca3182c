import type { F32 } from '../../ir/types';
import { defineNode, input, output } from '../define';
import { eachLane } from '../lanes';

export const squeeze = defineNode({
  id: 'ranges.squeeze',
  version: 1,
  title: 'Squeeze',
  family: 'ranges',
  synonyms: ['compress', 'narrow', 'reduce range', 'fit into'],
  help:
    'Presses the range 0–1 into a window of the width given. The place decides where it ' +
    'lies: 0 at the bottom, 1 at the top; so 0–1 never leaves 0–1.',
  formula: 'x·width + place·(1 − width)',
  inputs: {
    value: input.flex({ title: 'Value', help: 'What is squeezed.', default: 0.5 }),
    width: input.scalar({
      title: 'Width',
      help: '1 leaves it as it is.',
      default: 0.5,
      low: 'one value',
      high: 'unchanged',
      neutral: 1,
    }),
    place: input.scalar({
      title: 'Place',
      help: 'Where the window lies.',
      default: 0.5,
      low: 'in the darks',
      high: 'in the lights',
    }),
  },
  outputs: { value: output.flex('Value', 'The squeezed value.') },
  lower: (b, { value, width, place }) => {
    const start = b.mul(place, b.sub(b.f(1), width));
    return { value: eachLane([value], ([x]) => b.add(b.mul(x as F32, width), start)) };
  },
});
