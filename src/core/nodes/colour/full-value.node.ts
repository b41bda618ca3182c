import { largestOf } from '../colour-lanes';
import { defineNode, input, option, output } from '../define';
import { map3 } from '../lanes';

export const fullValue = defineNode({
  id: 'colour.full-value',
  version: 1,
  title: 'Full value',
  family: 'colour',
  synonyms: ['brightest', 'normalise colour', 'remove shading', 'pure colour', 'value to one'],
  help:
    'Brings the largest channel to 1: by a factor, which keeps hue and saturation, or by ' +
    'adding, which pales. Black becomes white.',
  formula: 'scaled: rgb/max; lifted: rgb + (1 − max)',
  inputs: {
    colour: input.colour({
      title: 'Colour',
      help: 'What is brightened.',
      default: [0.3, 0.1, 0.05],
    }),
  },
  options: {
    mode: option('Mode', 'How it is brightened.', {
      scaled: ['Scaled', 'rgb/max'],
      lifted: ['Lifted', 'rgb + (1 − max)'],
    }),
  },
  outputs: {
    colour: output.colour('Colour', 'With its largest channel at 1.'),
    value: output.scalar('Value', 'The largest channel as it was.', {
      low: 'dark',
      high: 'bright',
    }),
  },
  tolerance: { value: 1e-3, reason: 'Nearly black colours are divided by nearly 0.' },
  lower: (b, { colour }, { mode }) => {
    const value = largestOf(b, colour);
    const black = b.le(value, b.f(0));
    const lift = b.sub(b.f(1), value);
    const scaled = map3(colour, (lane) =>
      b.select(black, b.f(1), b.div(lane, b.select(black, b.f(1), value))),
    );
    return {
      colour: mode === 'scaled' ? scaled : map3(colour, (lane) => b.add(lane, lift)),
      value,
    };
  },
});
