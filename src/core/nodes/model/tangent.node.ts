import { defineNode, output } from '../define';
import { tangentFrame } from '../tangents';

export const tangent = defineNode({
  id: 'model.tangent',
  version: 1,
  title: 'Tangent',
  family: 'model',
  synonyms: ['direction of u', 'grain direction', 'brushed', 'bitangent'],
  help:
    'The directions along the surface in which the texture coordinates grow, square to the ' +
    'normal. Where there are none, some direction along the surface.',
  formula: 'T ∝ ±(∇v × N); B = ±(N × T), on the side where v grows',
  inputs: {},
  outputs: {
    along: output.vector('Along u', 'Unit direction in which u grows.'),
    across: output.vector('Across, along v', 'Unit direction square to it, in which v grows.'),
  },
  lower: (b, _inputs, _options, model) => {
    const { along, across } = tangentFrame(b, model.normal, model);
    return { along, across };
  },
});
