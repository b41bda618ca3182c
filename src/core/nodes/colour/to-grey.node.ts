import type { F32 } from '../../ir/types';
import { largestOf, smallestOf } from '../colour-lanes';
import { defineNode, input, option, output } from '../define';
import { luminance } from '../lanes';

export const toGrey = defineNode({
  id: 'colour.to-grey',
  version: 1,
  title: 'To grey',
  family: 'colour',
  synonyms: ['desaturate', 'black and white', 'luminance', 'brightness', 'colour to mask'],
  help: 'One number out of a colour, by the method of your choice.',
  formula:
    'luminance 0.2126 r + 0.7152 g + 0.0722 b; average (r + g + b)/3; largest; smallest; ' +
    'middle (max + min)/2; one channel',
  inputs: {
    colour: input.colour({ title: 'Colour', help: 'What is greyed.', default: [0.5, 0.2, 0.1] }),
  },
  options: {
    method: option('Method', 'What counts as bright.', {
      luminance: ['Luminance', 'As bright as it looks (Rec. 709).'],
      average: ['Average', 'All channels alike.'],
      largest: ['Largest', 'The value.'],
      smallest: ['Smallest', 'The least channel.'],
      middle: ['Middle', 'Between largest and smallest.'],
      red: ['Red', 'The red channel.'],
      green: ['Green', 'The green channel.'],
      blue: ['Blue', 'The blue channel.'],
    }),
  },
  outputs: { grey: output.scalar('Grey', 'The number.', { low: 'dark', high: 'light' }) },
  lower: (b, { colour }, { method }) => {
    const ways: Record<typeof method, () => F32> = {
      luminance: () => luminance(b, colour),
      average: () => b.div(b.add(b.add(colour[0], colour[1]), colour[2]), b.f(3)),
      largest: () => largestOf(b, colour),
      smallest: () => smallestOf(b, colour),
      middle: () => b.mul(b.add(largestOf(b, colour), smallestOf(b, colour)), b.f(0.5)),
      red: () => colour[0],
      green: () => colour[1],
      blue: () => colour[2],
    };
    return { grey: ways[method]() };
  },
});
