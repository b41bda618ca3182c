import type { F32 } from '../../ir/types';
import { defineNode, input, output } from '../define';
import { eachLane } from '../lanes';

export const lift = defineNode({
  id: 'ranges.lift',
  version: 1,
  title: 'Lift',
  family: 'ranges',
  synonyms: ['raise', 'lower', 'elevate', 'brightness', 'offset neutral one'],
  help:
    'Raises or lowers everything alike and keeps the contrast. Its neutral value is 1, ' +
    'like that of a dial.',
  formula: 'x + (lift − 1)',
  inputs: {
    value: input.flex({ title: 'Value', help: 'What is raised.', default: 0.5 }),
    lift: input.scalar({
      title: 'Lift',
      help: '1 leaves it as it is.',
      default: 1,
      soft: [0, 2],
      low: 'lowered by 1',
      high: 'raised by 1',
      neutral: 1,
    }),
  },
  outputs: { value: output.flex('Value', 'Not limited; use the switch on the node for that.') },
  lower: (b, { value, lift: amount }) => {
    const above = b.sub(amount, b.f(1));
    return { value: eachLane([value], ([x]) => b.add(x as F32, above)) };
  },
});
