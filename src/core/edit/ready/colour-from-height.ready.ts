import { NetworkSketch, makeRamp } from '../network-sketch';
import { asIs, factor, grain, lift, ready, seed, times, whole } from './define';

const STOPS = makeRamp([0, '#27413f'], [0.35, '#5d7a5a'], [0.6, '#c8b98a'], [1, '#f1ead6']);

export const colourFromHeight = ready(
  'Colour from height',
  ['height gradient', 'bottom to top', 'altitude', 'ombre', 'layers of colour'],
  'Colours from the foot to the top of the object, by a ramp, with a border that wanders.',
  {
    sketch: new NetworkSketch()
      .node('foot', 'model.position', { name: 'Over the foot', options: { space: 'bounds' } })
      .node('noise', 'patterns.fractal-noise', { name: 'Wander', values: { scale: 6, octaves: 4 } })
      .node('height', 'math.formula', {
        name: 'Wandering height',
        values: {
          b: 0.06,
          d: 0.15,
          formula: { formula: 'a + b * (2.0 * c - 1.0) - (d - 0.15)' },
        },
      })
      .node('ramp', 'gradients.ramp', { name: 'Colours', values: { stops: STOPS } })
      .wire('foot.y > height.a', 'noise.value > height.c', 'height.value > ramp.value'),
    outputs: [{ id: 'colour', name: 'Colour', kind: 'colour', from: 'ramp.colour' }],
    dials: [
      whole(
        'ramp',
        'Colours',
        'The colours from the foot, at the left, to the top.',
        { kind: 'ramp', home: STOPS },
        asIs('ramp', 'stops'),
      ),
      factor(
        'shift',
        ['Shift', 'Moves all colours up or down.', 'down', 'up'],
        lift('height', 'd', 0.5),
      ),
      factor(
        'wander',
        ['Wander', 'How far the borders wander.', 'level', 'wandering'],
        times('height', 'b'),
      ),
      grain('How fine the borders wander.', 'in large waves', 'finely', 'noise'),
      seed(asIs('noise', 'seed')),
    ],
    limits: 'Height counts in the object’s own bounds, whatever its size.',
  },
);
