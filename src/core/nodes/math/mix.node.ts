import type { F32 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import { eachLane } from '../lanes';

export const mix = defineNode({
  id: 'math.mix', version: 1, title: 'Mix', family: 'math',
  synonyms: ['lerp', 'interpolate', 'crossfade', 'between'],
  help: 'Passes from A to B by an amount.',
  formula: 'a + (b − a)·amount',
  inputs: {
    a: input.flex({ title: 'A', help: 'The whole of this at amount 0.', default: 0 }),
    b: input.flex({ title: 'B', help: 'The whole of this at amount 1.', default: 1 }),
    amount: input.flex({ title: 'Amount', help: 'How far towards B.', default: 0.5, low: 'all A', high: 'all B' }),
  },
  options: {
    limit: option('Amount', 'What happens to amounts outside 0–1.', { yes: ['Limited', 'Kept within 0–1.'], no: ['Goes on', 'Beyond both ends.'] }),
  },
  outputs: { value: output.flex('Value', 'The mixture.') },
  lower: (builder, { a, b, amount }, { limit }) => ({
    value: eachLane([a, b, amount], (lanes) => {
      const [x, y, t] = lanes as [F32, F32, F32];
      return builder.mix(x, y, limit === 'yes' ? builder.saturate(t) : t);
    }),
  }),
});
