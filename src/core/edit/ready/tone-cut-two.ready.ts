import { NetworkSketch, paint } from '../network-sketch';
import { asIs, factor, lift, ready, times, valueInput, whole } from './define';

export const toneCutTwo = ready(
  'Tone cut, two tones',
  ['two tone', 'cel shading', 'posterised light', 'shadow shape', 'toon'],
  'Two flat colours from any value, cut at one level: storybook light and shadow.',
  {
    sketch: new NetworkSketch()
      .node('cut', 'ranges.smoothstep', { name: 'Cut', values: { edge: 0.5, width: 0.06 } })
      .node('tones', 'colour.blend', {
        name: 'Two tones',
        values: { under: paint('#3d4f66'), over: paint('#f2d9a6') },
      })
      .wire('@in.value > cut.value', 'cut.mask > tones.where'),
    inputs: [valueInput('What is cut, mostly how light falls.')],
    outputs: [
      { id: 'colour', name: 'Colour', kind: 'colour', from: 'tones.colour' },
      { id: 'mask', name: 'Light mask', kind: 'scalar', from: 'cut.mask' },
    ],
    dials: [
      factor(
        'level',
        ['Level', 'Where light ends; 1 in the middle.', 'all in light', 'all in shadow'],
        lift('cut', 'edge', 0.5),
      ),
      factor(
        'softness',
        ['Softness', 'How soft the cut is.', 'a hard cut', 'a soft one'],
        times('cut', 'width'),
      ),
      whole(
        'dark',
        'Shadow colour',
        'What lies below the cut.',
        { kind: 'colour', home: paint('#3d4f66') },
        asIs('tones', 'under'),
      ),
      whole(
        'light',
        'Light colour',
        'What lies above the cut.',
        { kind: 'colour', home: paint('#f2d9a6') },
        asIs('tones', 'over'),
      ),
    ],
    limits: 'A hard cut of a coarse model shows its facets.',
  },
);
