import { defineNode, input, output } from '../define';
import { normalise } from '../lanes';
import { threeWayPlanes, threeWayWeights } from '../three-way';

export const threeWayCoordinates = defineNode({
  id: 'coordinates.three-way',
  version: 1,
  title: 'Three-way coordinates',
  family: 'coordinates',
  synonyms: ['box projection', 'project pattern', 'plane coordinates', 'three-way projection'],
  help:
    'Coordinates for flat patterns projected along X, Y and Z: wire each into a pattern of ' +
    'its own, and the three patterns with the weights into a ' +
    'Three-way blend.',
  formula: 'planes (∓z, −y), (x, ±z), (±x, −y), turned; wₖ ∝ max(|nₖ| − (1 − blend)·max|n|, 0)²',
  inputs: {
    at: input.vector({
      title: 'Coordinates',
      help: 'What is projected; unwired, the position on the object.',
      default: 'position',
      soft: [-1, 1],
    }),
    blend: input.scalar({
      title: 'Blend width',
      help: 'How far the projections run into each other.',
      default: 0.3,
      low: 'hard borders',
      high: 'wide',
    }),
    turn: input.vector({
      title: 'Turn',
      help: 'Degrees about each axis.',
      default: [0, 0, 0],
      soft: [-180, 180],
      step: 1,
      unit: '°',
    }),
    normal: input.vector({
      title: 'Normal',
      help: 'What the projections are chosen by.',
      default: 'normal',
      soft: [-1, 1],
    }),
  },
  outputs: {
    alongX: output.vector('Along X', 'Plane coordinates u, v, 0.'),
    alongY: output.vector('Along Y', 'Plane coordinates u, v, 0.'),
    alongZ: output.vector('Along Z', 'Plane coordinates u, v, 0.'),
    weights: output.vector('Weights', 'How much each counts; together 1.'),
  },
  lower: (b, { at, blend, turn, normal }, _options, model) => {
    const outward = normalise(b, normal, model.normal);
    const [x, y, z] = threeWayPlanes(b, at, outward, turn);
    return {
      alongX: [x.u, x.v, b.f(0)],
      alongY: [y.u, y.v, b.f(0)],
      alongZ: [z.u, z.v, b.f(0)],
      weights: threeWayWeights(b, outward, blend),
    };
  },
});
