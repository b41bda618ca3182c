import type { F32 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import { eachLane } from '../lanes';

export const slide = defineNode({
  id: 'ranges.slide',
  version: 1,
  title: 'Slide',
  family: 'ranges',
  synonyms: ['shift', 'offset', 'cycle', 'move values'],
  help:
    'Moves all values up or down. Holding stops at 0 and 1; wrapping comes in again at the ' +
    'other end.',
  formula: 'hold: limit(x + shift); wrap: fraction(x + shift)',
  inputs: {
    value: input.flex({ title: 'Value', help: 'What is moved.', default: 0.5 }),
    shift: input.scalar({
      title: 'Shift',
      help: 'How far.',
      default: 0.2,
      soft: [-1, 1],
      low: 'down',
      high: 'up',
      neutral: 0,
    }),
  },
  options: {
    edge: option('At the ends', 'What happens beyond 0 and 1.', {
      hold: ['Hold', 'Stops at 0 and 1.'],
      wrap: ['Wrap', 'Comes in again at the other end.'],
    }),
  },
  outputs: { value: output.flex('Value', '0 to 1.') },
  lower: (b, { value, shift }, { edge }) => ({
    value: eachLane([value], ([x]) => {
      const moved = b.add(x as F32, shift);
      return edge === 'hold' ? b.saturate(moved) : b.sub(moved, b.floor(moved));
    }),
  }),
});
