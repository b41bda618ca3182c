import type { F32 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import { readCurve } from '../ramp-lanes';

const STRAIGHT = [
  [0, 0],
  [1, 1],
] as const;
export const curve = defineNode({
  id: 'gradients.curve',
  version: 1,
  title: 'Curve',
  family: 'gradients',
  synonyms: [
    'tone curve',
    'profile',
    'response',
    'contrast curve',
    'ease',
    'colour grading',
    'shape of values',
  ],
  help:
    'Bends values along a curve through points, all channels alike, then each channel ' +
    'along its own. The curve is smooth and ' +
    'monotone between points: it never swings beyond them. Points above each other make a jump.',
  formula: 'cubic of Hermite with the slopes of Steffen (1990); y = channel(all(x))',
  inputs: {
    value: input.flex({
      title: 'Value',
      help: 'What is bent; a vector or colour channel by channel.',
      default: 0.5,
    }),
    all: input.curve({ title: 'All channels', help: 'For every channel.', default: STRAIGHT }),
    first: input.curve({
      title: 'First',
      help: 'For x or red, or a single number, after the one for all.',
      default: STRAIGHT,
    }),
    second: input.curve({ title: 'Second', help: 'For y or green.', default: STRAIGHT }),
    third: input.curve({ title: 'Third', help: 'For z or blue.', default: STRAIGHT }),
    amount: input.scalar({
      title: 'Amount',
      help: 'How far the values follow the curve.',
      default: 1,
      low: 'unchanged',
      high: 'on the curve',
    }),
  },
  outputs: { result: output.flex('Result', 'The bent value.') },
  options: {
    outside: option('Outside', 'What lies beyond the end points.', {
      hold: ['Holds', 'The end values go on.'],
      straight: ['Goes on', 'Straight on, in the direction of the end.'],
    }),
    channels: option('Channels', 'Which curves there are.', {
      all: ['All alike', 'One curve.'],
      each: ['Each its own', 'One curve for all, then one for each channel.'],
    }),
  },
  idle: ({ channels }) => (channels === 'all' ? ['first', 'second', 'third'] : []),
  watches: ['value'],
  lower: (b, { value, all, first, second, third, amount }, { outside, channels }) => {
    const goesOn = outside === 'straight';
    return {
      result: value.map((lane: F32, k: number) => {
        const bent = readCurve(b, all, lane, goesOn);
        return b.mix(
          lane,
          channels === 'each'
            ? readCurve(b, [first, second, third][k] ?? third, bent, goesOn)
            : bent,
          amount,
        );
      }),
    };
  },
});
