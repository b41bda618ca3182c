import { defineNode, input, output } from '../define';
import { eachLane } from '../lanes';

export const threeWayBlend = defineNode({
  id: 'coordinates.three-way-blend',
  version: 1,
  title: 'Three-way blend',
  family: 'coordinates',
  synonyms: ['weigh three', 'box projection', 'barycentric'],
  help: 'Three values weighed by three numbers, as Three-way coordinates gives them.',
  formula: 'a·w₁ + b·w₂ + c·w₃',
  inputs: {
    first: input.flex({ title: 'Along X', help: 'Counts by the first weight.', default: 0 }),
    second: input.flex({ title: 'Along Y', help: 'Counts by the second weight.', default: 0.5 }),
    third: input.flex({ title: 'Along Z', help: 'Counts by the third weight.', default: 1 }),
    weights: input.vector({
      title: 'Weights',
      help: 'Three numbers.',
      default: [0.34, 0.33, 0.33],
      soft: [0, 1],
    }),
  },
  outputs: { result: output.flex('Result', 'The weighed sum.') },
  lower: (b, { first, second, third, weights }) => ({
    result: eachLane([first, second, third], ([x, y, z]) =>
      b.dot([x ?? b.f(0), y ?? b.f(0), z ?? b.f(0)], weights),
    ),
  }),
});
