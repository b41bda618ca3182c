import type { F32 } from '../../ir/types';
import { defineNode, input, output } from '../define';
import { eachLane } from '../lanes';

export const contrast = defineNode({
  id: 'ranges.contrast',
  version: 1,
  title: 'Contrast',
  family: 'ranges',
  synonyms: ['sharpen mask', 'steepen', 'flatten', 'punch'],
  help: 'Moves values away from a pivot, or towards it; the pivot itself stays.',
  formula: 'pivot + (x − pivot)·contrast',
  inputs: {
    value: input.flex({ title: 'Value', help: 'What is changed.', default: 0.5 }),
    contrast: input.scalar({
      title: 'Contrast',
      help: '1 leaves it as it is.',
      default: 1.5,
      soft: [0, 4],
      hard: [0, 1000],
      low: 'all at the pivot',
      high: 'hard',
      neutral: 1,
    }),
    pivot: input.scalar({
      title: 'Pivot',
      help: 'The value that stays.',
      default: 0.5,
      low: 'keeps the darks',
      high: 'keeps the lights',
    }),
  },
  outputs: { value: output.flex('Value', 'Not limited; use the switch on the node for that.') },
  lower: (b, { value, contrast: amount, pivot }) => ({
    value: eachLane([value], ([x]) => b.add(pivot, b.mul(b.sub(x as F32, pivot), amount))),
  }),
});
