import { NetworkSketch } from '../network-sketch';
import { asIs, factor, ready, seed, times, value } from './define';

export const tideLine = ready(
  'Tide line',
  ['waterline', 'water mark', 'algae line', 'height mask', 'flood'],
  'A level line around the object, ragged by noise: what lies below, and the line itself.',
  {
    sketch: new NetworkSketch()
      .node('foot', 'model.position', { name: 'Over the foot', options: { space: 'bounds' } })
      .node('noise', 'patterns.fractal-noise', { name: 'Ragged', values: { scale: 5, octaves: 5 } })
      .node('height', 'math.formula', {
        name: 'Ragged height',
        values: { b: 0.05, formula: { formula: 'a + b * (2.0 * c - 1.0)' } },
      })
      .node('below', 'ranges.smoothstep', {
        name: 'Above the line',
        values: { edge: 0.4, width: 0.03 },
      })
      .node('under', 'math.math', { name: 'Below the line', options: { operation: 'invert' } })
      .node('line', 'ranges.band', {
        name: 'The line',
        values: { centre: 0.4, width: 0.03, softness: 0.03 },
      })
      .wire(
        'foot.y > height.a',
        'noise.value > height.c',
        'height.value > below.value',
        'height.value > line.value',
        'below.mask > under.a',
      ),
    outputs: [
      { id: 'mask', name: 'Below', kind: 'scalar', from: 'under.value' },
      { id: 'line', name: 'Line', kind: 'scalar', from: 'line.mask' },
    ],
    dials: [
      value(
        'level',
        ['Level', 'Height of the line over the foot of the object.', 'at its foot', 'at its top'],
        0.4,
        [0, 1],
        'of its height',
        asIs('below', 'edge'),
        asIs('line', 'centre'),
      ),
      factor(
        'ragged',
        ['Raggedness', 'How far the line wanders.', 'level', 'ragged'],
        times('height', 'b'),
      ),
      factor(
        'breadth',
        ['Breadth', 'How broad the line is.', 'no line', 'a broad line'],
        times('line', 'width'),
        times('line', 'softness'),
      ),
      seed(asIs('noise', 'seed')),
    ],
    limits: 'The level counts in the height of each model: two models need not agree in metres.',
  },
);
