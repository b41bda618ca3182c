import { defineNode, input, option, output } from '../define';

export const thickness = defineNode({
  id: 'model.thickness',
  version: 1,
  title: 'Thickness',
  family: 'model',
  synonyms: ['depth of body', 'translucent', 'subsurface', 'thin parts', 'inside distance'],
  help:
    'How thick the body is under the point: the mean way inwards, cosine-weighted, as a ' +
    'share of the reach. Thin flanges are dark, solid parts white.',
  formula: 'mean over cosine-weighted rays inwards of min(distance, reach)/reach',
  inputs: {
    reach: input.fixed({
      title: 'Reach',
      help: 'The way that counts as fully thick. Changing it measures the model again.',
      default: 0.25,
      soft: [0.02, 1],
      hard: [0.0001, 100],
      step: 0.005,
      low: 'only thin shells differ',
      high: 'the whole body',
      unit: 'of the object’s size',
    }),
  },
  options: {
    measure: option('Reach in', 'What the reach counts in.', {
      relative: ['Object size', 'A share of the diameter of the smallest enclosing sphere.'],
      units: ['Metres', 'A real length.'],
    }),
  },
  outputs: {
    thickness: output.scalar('Thickness', 'Share of the reach.', { low: 'thin', high: 'thick' }),
    thinness: output.scalar('Thinness', '1 − thickness.', {
      quantity: 'mask',
      low: 'thick',
      high: 'thin',
    }),
  },
  lower: (b, { reach }, _options, model) => {
    // What occlusion measures looking inwards, each hit counting by its distance, is this mean.
    const share = model.meshMap('occlusion', {
      reach,
      cone: 90,
      falloff: 1,
      side: { choice: 'solid' },
      measure: 'measure',
    });
    return { thickness: share, thinness: b.sub(b.f(1), share) };
  },
});
