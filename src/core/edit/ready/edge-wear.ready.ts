import { NetworkSketch } from '../network-sketch';
import { asIs, factor, grain, ready, seed, times, value } from './define';

export const edgeWear = ready(
  'Edge wear',
  ['worn edges', 'scuffed', 'chipped paint', 'bare edges', 'curvature mask'],
  'Where edges are worn bare: convex curvature with a broken border.',
  {
    sketch: new NetworkSketch()
      .node('edges', 'model.curvature', { name: 'Edges', values: { gain: 3 } })
      .node('torn', 'masks.break-edge', {
        name: 'Broken border',
        values: { amount: 0.45, level: 0.42, width: 0.14, scale: 26, octaves: 4 },
      })
      .wire('edges.convex > torn.mask'),
    outputs: [{ id: 'mask', name: 'Wear', kind: 'scalar', from: 'torn.mask' }],
    dials: [
      factor(
        'amount',
        ['Amount', 'How far the wear reaches; 1 as designed.', 'hardly worn', 'worn far in'],
        times('edges', 'gain'),
      ),
      value(
        'radius',
        [
          'Radius',
          'How wide an edge counts. Changing it measures the model again.',
          'only the very edge',
          'whole corners',
        ],
        0.03,
        [0.005, 0.15],
        'of the object’s size',
        asIs('edges', 'radius'),
      ),
      factor(
        'torn',
        ['Breakup', 'How torn the border is.', 'a clean border', 'flakes'],
        times('torn', 'amount'),
      ),
      grain('How fine the breakup is.', 'large flakes', 'fine ones', 'torn'),
      seed(asIs('torn', 'seed')),
    ],
    limits: 'Needs real edges: a model smoothed to one round form has little to wear.',
  },
);
