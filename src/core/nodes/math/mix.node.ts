import { percent } from '../advice';
import type { F32 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import { eachLane } from '../lanes';

export const mix = defineNode({
  id: 'math.mix',
  version: 1,
  title: 'Mix',
  family: 'math',
  synonyms: ['lerp', 'interpolate', 'crossfade', 'between'],
  help: 'Passes from A to B by an amount.',
  formula: 'a + (b − a)·amount',
  inputs: {
    a: input.flex({ title: 'A', help: 'The whole of this at amount 0.', default: 0 }),
    b: input.flex({ title: 'B', help: 'The whole of this at amount 1.', default: 1 }),
    amount: input.flex({
      title: 'Amount',
      help: 'How far towards B.',
      quantity: 'mask',
      default: 0.5,
      low: 'all A',
      high: 'all B',
    }),
  },
  options: {
    limit: option('Amount', 'What happens to amounts outside 0–1.', {
      yes: ['Limited', 'Kept within 0–1.'],
      no: ['Goes on', 'Beyond both ends.'],
    }),
  },
  sides: () => ['a', 'b'],
  outputs: { value: output.flex('Value', 'The mixture.') },
  watches: ['amount'],
  advise: (reads) => {
    const amount = reads.arriving('amount');
    if (!amount || (amount.below === 0 && amount.above === 0)) return [];
    const text =
      `The amount leaves 0–1 on ${percent(amount.below + amount.above)} of the surface ` +
      `(${amount.minimum.toFixed(2)} to ${amount.maximum.toFixed(2)})`;
    return reads.choice('limit') === 'yes'
      ? [{ code: 'amount.leaves-range', mark: 'limits', message: `${text}; it is limited.` }]
      : [
          {
            code: 'amount.leaves-range',
            mark: 'beyond',
            message: `${text}. Limit it?`,
            cure: { title: 'Limit the amount', option: 'limit', choice: 'yes' },
          },
        ];
  },
  lower: (builder, { a, b, amount }, { limit }) => ({
    value: eachLane([a, b, amount], (lanes) => {
      const [x, y, t] = lanes as [F32, F32, F32];
      return builder.mix(x, y, limit === 'yes' ? builder.saturate(t) : t);
    }),
  }),
});
