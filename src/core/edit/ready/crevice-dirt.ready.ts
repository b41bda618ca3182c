import { NetworkSketch } from '../network-sketch';
import { asIs, factor, grain, ready, seed, times, value } from './define';

export const creviceDirt = ready(
  'Crevice dirt',
  ['grime', 'cavity dirt', 'soot', 'dirty corners', 'occlusion mask'],
  'Where dirt gathers: corners that see little sky, and hollows, thinned by noise.',
  {
    sketch: new NetworkSketch()
      .node('corners', 'model.occlusion', { name: 'Corners', values: { reach: 0.12, falloff: 1 } })
      .node('deep', 'ranges.levels', {
        name: 'Deep corners',
        values: { inBlack: 0.18, inWhite: 0.7 },
      })
      .node('hollows', 'model.curvature', { name: 'Hollows', values: { gain: 2 } })
      .node('both', 'masks.union', { name: 'Both' })
      .node('torn', 'masks.break-edge', {
        name: 'Thinned',
        values: { amount: 0.35, level: 0.4, width: 0.5, scale: 18, octaves: 4 },
      })
      .wire(
        'corners.occlusion > deep.value',
        'deep.value > both.masks',
        'hollows.concave > both.masks',
        'both.mask > torn.mask',
      ),
    outputs: [{ id: 'mask', name: 'Dirt', kind: 'scalar', from: 'torn.mask' }],
    dials: [
      factor(
        'amount',
        ['Amount', 'How much dirt; 1 as designed.', 'clean', 'full of dirt'],
        times('deep', 'outWhite'),
        times('hollows', 'gain'),
      ),
      value(
        'reach',
        [
          'Reach',
          'How far from a corner dirt lies. Changing it measures the model again.',
          'close to the corner',
          'far out',
        ],
        0.12,
        [0.02, 0.5],
        'of the object’s size',
        asIs('corners', 'reach'),
      ),
      factor(
        'torn',
        ['Breakup', 'How patchy it is.', 'even', 'in patches'],
        times('torn', 'amount'),
      ),
      grain('How fine the patches are.', 'large patches', 'fine ones', 'torn'),
      seed(asIs('torn', 'seed')),
    ],
    limits: 'Parts that touch count as corners of each other only where they are one model.',
  },
);
