import { defineNode, input, output } from '../define';

export const combine = defineNode({
  id: 'math.combine',
  version: 1,
  title: 'Combine',
  family: 'math',
  synonyms: ['join', 'components', 'compose', 'x y z', 'r g b', 'make vector'],
  help: 'Three scalars as one vector, or as a colour.',
  formula: '(x, y, z)',
  inputs: {
    x: input.scalar({ title: 'X', help: 'First component, or red.', default: 0, soft: [-1, 1] }),
    y: input.scalar({ title: 'Y', help: 'Second component, or green.', default: 0, soft: [-1, 1] }),
    z: input.scalar({ title: 'Z', help: 'Third component, or blue.', default: 0, soft: [-1, 1] }),
  },
  outputs: { vector: output.vector('Vector', 'The three together.') },
  lower: (_b, { x, y, z }) => ({ vector: [x, y, z] }),
});
