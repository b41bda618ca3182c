import { defineNode, input, output } from '../define';

export const split = defineNode({
  id: 'math.split',
  version: 1,
  title: 'Split',
  family: 'math',
  synonyms: ['separate', 'components', 'channels', 'x y z', 'r g b', 'break'],
  help: 'The three components of a vector, or the channels of a colour.',
  formula: 'x, y, z',
  inputs: {
    vector: input.vector({
      title: 'Vector',
      help: 'What is taken apart.',
      default: 'position',
      soft: [-1, 1],
    }),
  },
  outputs: {
    x: output.scalar('X', 'First component, or red.', { quantity: 'coordinate' }),
    y: output.scalar('Y', 'Second component, or green.', { quantity: 'coordinate' }),
    z: output.scalar('Z', 'Third component, or blue.', { quantity: 'coordinate' }),
  },
  lower: (_b, { vector }) => ({ x: vector[0], y: vector[1], z: vector[2] }),
});
