import type { F32 } from '../../ir/types';
import { defineNode, input, output } from '../define';
import { eachLane, position01 } from '../lanes';

export const stretchToRange = defineNode({
  id: 'ranges.stretch-to-range',
  version: 1,
  title: 'Stretch to range',
  family: 'ranges',
  synonyms: ['normalise', 'auto levels', 'fit to 0–1', 'full range', 'measured'],
  help:
    'Carries a measured range onto 0–1. Least and most are measured once, on the model at ' +
    'hand, and stay frozen until they are measured again: so the look does not change ' +
    'behind your back.',
  measures: { of: 'value', least: 'least', most: 'most' },
  formula: '(x − least)/(most − least); equal ends give the step x ≥ least',
  inputs: {
    value: input.flex({ title: 'Value', help: 'What is stretched.', default: 0.5 }),
    least: input.scalar({
      title: 'Least',
      help: 'The least value measured; becomes 0.',
      default: 0,
      soft: [-1, 1],
    }),
    most: input.scalar({
      title: 'Most',
      help: 'The greatest value measured; becomes 1.',
      default: 1,
      soft: [-1, 2],
    }),
  },
  outputs: { value: output.flex('Value', '0 to 1 over the range measured.') },
  watches: ['value'],
  lower: (b, { value, least, most }) => ({
    value: eachLane([value], ([x]) => position01(b, x as F32, least, most)),
  }),
});
