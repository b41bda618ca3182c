import { defineNode, input, output } from '../define';
import { measureOption } from '../places';

export const creaseDistance = defineNode({
  id: 'model.crease-distance',
  version: 1,
  title: 'Crease distance',
  family: 'model',
  synonyms: ['edge distance', 'edge mask', 'bevel', 'sharp edges', 'distance to edge', 'seam'],
  help:
    'How far it is, along the surface, to the nearest edge that is bent more sharply than ' +
    'an angle: 0 on it, 1 from the width on. Hard-surface edges get a band of the width ' +
    'asked for, ' +
    'however large the triangles are.',
  formula: 'min(distance along the surface/width, 1)',
  inputs: {
    angle: input.fixed({
      title: 'Angle',
      help: 'Edges between faces bent by more than this are creases.',
      default: 30,
      soft: [5, 120],
      hard: [0.5, 179],
      step: 1,
      low: 'every edge',
      high: 'only the sharpest',
      unit: '°',
    }),
    width: input.fixed({
      title: 'Width',
      help: 'Where 1 is reached. Changing it measures the model again.',
      default: 0.05,
      soft: [0.005, 0.25],
      hard: [0.0001, 10],
      step: 0.005,
      low: 'a line',
      high: 'wide bands',
    }),
  },
  options: { measure: measureOption },
  outputs: {
    distance: output.scalar('Distance', '0 on a crease, 1 from the width on.', {
      low: 'on a crease',
      high: 'away',
    }),
    band: output.scalar('Band', '1 − distance.', {
      quantity: 'mask',
      low: 'away',
      high: 'on a crease',
    }),
  },
  lower: (b, { angle, width }, _options, model) => {
    const distance = model.meshMap('crease', { angle, width, measure: 'measure' });
    return { distance, band: b.sub(b.f(1), distance) };
  },
});
