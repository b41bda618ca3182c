import { defineNode, input, output } from '../define';

export const colour = defineNode({
  id: 'constants.colour',
  version: 1,
  title: 'Colour',
  family: 'constants',
  synonyms: ['constant', 'paint', 'rgb', 'tone', 'swatch'],
  help: 'One colour for several places.',
  formula: 'colour',
  inputs: {
    colour: input.colour({ title: 'Colour', help: 'The colour.', default: [0.6, 0.45, 0.1] }),
  },
  outputs: { colour: output.colour('Colour', 'The colour.') },
  lower: (_b, { colour: value }) => ({ colour: value }),
});
