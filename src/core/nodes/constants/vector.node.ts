import { defineNode, input, output } from '../define';

export const vector = defineNode({
  id: 'constants.vector',
  version: 1,
  title: 'Vector',
  family: 'constants',
  synonyms: ['constant', 'direction', 'xyz', 'offset'],
  help: 'One vector for several places.',
  formula: 'vector',
  inputs: {
    vector: input.vector({
      title: 'Vector',
      help: 'The vector.',
      default: [0, 1, 0],
      soft: [-1, 1],
    }),
  },
  outputs: { vector: output.vector('Vector', 'The vector.') },
  lower: (_b, { vector: value }) => ({ vector: value }),
});
