import { NetworkSketch, paint } from '../network-sketch';
import { asIs, factor, ready, times, value, valueInput, whole } from './define';

export const paletteSteps = ready(
  'Palette steps',
  ['flat steps', 'posterise to a palette', 'colour bands', 'contour colours', 'quantise'],
  'Flat steps of a value, each in the next colour of a palette made from one base colour.',
  {
    sketch: new NetworkSketch()
      .node('steps', 'ranges.posterise', { name: 'Steps', values: { bands: 5 } })
      .node('number', 'math.math', {
        name: 'Which colour',
        values: { b: 4 },
        options: { operation: 'multiply' },
      })
      .node('palette', 'gradients.palette', {
        name: 'Palette',
        values: { base: paint('#b4552d'), count: 5 },
      })
      .wire('@in.value > steps.value', 'steps.value > number.a', 'number.value > palette.number'),
    inputs: [valueInput('What is stepped, 0 to 1.')],
    outputs: [{ id: 'colour', name: 'Colour', kind: 'colour', from: 'palette.colour' }],
    dials: [
      whole(
        'base',
        'Base colour',
        'The colour the palette is made from.',
        { kind: 'colour', home: paint('#b4552d') },
        asIs('palette', 'base'),
      ),
      factor(
        'spread',
        ['Spread', 'How far the colours are apart.', 'one colour', 'far apart'],
        times('palette', 'spread'),
      ),
      {
        ...value(
          'bands',
          ['Steps', 'How many flat steps there are.', 'two tones', 'nine tones'],
          5,
          [2, 9],
          '',
          asIs('steps', 'bands'),
        ),
        step: 1,
      },
    ],
    limits: 'Five colours at most: more steps share them.',
  },
);
