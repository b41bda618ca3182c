import { defineNode, input, option, output } from '../define';
import { evenStep } from '../edges';

export const compare = defineNode({
  id: 'ranges.compare',
  version: 1,
  title: 'Compare',
  family: 'ranges',
  synonyms: ['greater', 'less', 'equal', 'is above', 'is below', 'condition', 'test'],
  help:
    'White where the comparison holds, black elsewhere. Equal holds within the tolerance, ' +
    'which is 0 unless it is set.',
  formula: 'a > b, a < b, or |a − b| ≤ tolerance, as 0 or 1',
  inputs: {
    a: input.scalar({ title: 'A', help: 'What is judged.', default: 0.5 }),
    b: input.scalar({ title: 'B', help: 'What it is judged against.', default: 0.5 }),
    tolerance: input.scalar({
      title: 'Tolerance',
      help: 'How far apart still counts as equal; below 0 counts as 0.',
      default: 0,
      soft: [0, 0.2],
      low: 'exactly equal',
      high: 'roughly equal',
    }),
  },
  options: {
    operation: option('Holds when', 'What is asked.', {
      greater: ['A is greater', 'a > b'],
      less: ['A is less', 'a < b'],
      equal: ['Equal', '|a − b| ≤ tolerance'],
    }),
  },
  idle: ({ operation }) => (operation === 'equal' ? [] : ['tolerance']),
  outputs: {
    mask: output.scalar('Mask', '0 or 1.', {
      quantity: 'mask',
      low: 'does not hold',
      high: 'holds',
    }),
  },
  lower: (b, { a, b: other, tolerance }, { operation }, model) => {
    // a > b wherever b does not reach a, and the other way round.
    if (operation === 'greater') return { mask: b.sub(b.f(1), evenStep(b, other, a, model)) };
    if (operation === 'less') return { mask: b.sub(b.f(1), evenStep(b, a, other, model)) };
    return {
      mask: b.select(b.le(b.abs(b.sub(a, other)), b.max(tolerance, b.f(0))), b.f(1), b.f(0)),
    };
  },
});
