import { NetworkSketch } from '../network-sketch';
import { asIs, factor, over, ready, seed, times, whole } from './define';

export const regionMask = ready(
  'Region mask',
  ['beacon mask', 'placed mask', 'spot', 'area', 'local'],
  'A mask at a place of one’s own: a beacon whose border is broken by noise.',
  {
    sketch: new NetworkSketch()
      .node('beacon', 'model.beacon', { name: 'Region', values: { extent: [0.35, 0.25, 0.3] } })
      .node('torn', 'masks.break-edge', {
        name: 'Broken border',
        values: { amount: 0.3, level: 0.45, width: 0.4, scale: 14, octaves: 4 },
      })
      .wire('beacon.mask > torn.mask'),
    outputs: [{ id: 'mask', name: 'Region', kind: 'scalar', from: 'torn.mask' }],
    dials: [
      whole(
        'place',
        'Place',
        'Where it stands, in object sizes from the middle; it can be moved on the stage.',
        { kind: 'vector', home: [0, 0.25, 0], soft: [-1, 1] },
        asIs('beacon', 'place'),
      ),
      whole(
        'turn',
        'Turn',
        'How it is turned, degrees about X, then Y, then Z.',
        { kind: 'vector', home: [0, 0, 0], soft: [-180, 180], unit: '°' },
        asIs('beacon', 'turn'),
      ),
      whole(
        'extent',
        'Extent',
        'How far it reaches along its axes, in object sizes.',
        { kind: 'vector', home: [0.35, 0.25, 0.3], soft: [0, 1] },
        asIs('beacon', 'extent'),
      ),
      over(
        factor(
          'feather',
          ['Core', 'How much of it is full.', 'soft from the middle', 'full to its border'],
          times('beacon', 'inner'),
        ),
        0,
        1.8,
      ),
      factor(
        'torn',
        ['Breakup', 'How torn its border is.', 'a clean border', 'a torn one'],
        times('torn', 'amount'),
      ),
      seed(asIs('torn', 'seed')),
    ],
    limits: 'It reaches through thin walls: what lies behind in the same place is marked, too.',
  },
);
