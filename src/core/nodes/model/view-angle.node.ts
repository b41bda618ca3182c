import { pow } from '../../ir/library/transcendental';
import { defineNode, input, option, output } from '../define';
import { normalise } from '../lanes';

export const viewAngle = defineNode({
  id: 'model.view-angle',
  version: 1,
  title: 'View angle',
  family: 'model',
  follows: 'camera',
  synonyms: ['facing ratio', 'rim', 'grazing', 'fresnel', 'silhouette', 'incidence', 'velvet'],
  help:
    'How squarely the surface is looked at: 1 straight on, 0 at the rim. It follows the ' +
    'camera; where there is none, as in a bake, every point ' +
    'counts as seen straight on, and the bake says so.',
  formula: '|N·V|^exponent, V from the point to the eye',
  inputs: {
    exponent: input.scalar({
      title: 'Exponent',
      help: 'Shapes the passage; 1 is the plain cosine.',
      default: 1,
      soft: [0.1, 8],
      hard: [0, 100],
      low: 'rim only',
      high: 'narrow middle',
    }),
    normal: input.vector({
      title: 'Normal',
      help: 'The direction that is looked at; wire a bump here for its relief to count.',
      default: 'normal',
      soft: [-1, 1],
    }),
  },
  options: {
    range: option('Range', 'Which end is white.', {
      facing: ['Facing is white', '1 straight on.'],
      rim: ['Rim is white', '1 at the rim.'],
    }),
  },
  outputs: { value: output.scalar('Value', '0 to 1.', { low: 'at the rim', high: 'straight on' }) },
  lower: (b, { exponent, normal }, { range }, model) => {
    const cosine = b.min(b.abs(b.dot(normalise(b, normal, model.normal), model.view())), b.f(1));
    const shaped = pow(b, cosine, b.max(exponent, b.f(0)));
    return { value: range === 'rim' ? b.sub(b.f(1), shaped) : shaped };
  },
});
