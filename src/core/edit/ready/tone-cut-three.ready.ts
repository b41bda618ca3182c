import { NetworkSketch, paint } from '../network-sketch';
import { asIs, factor, lift, ready, times, valueInput, whole } from './define';

export const toneCutThree = ready(
  'Tone cut, three tones',
  ['three tone', 'cel shading', 'light, middle and dark', 'toon', 'poster'],
  'Three flat colours from any value, cut at two levels: dark, middle and light.',
  {
    sketch: new NetworkSketch()
      .node('lower', 'ranges.smoothstep', {
        name: 'Lower cut',
        values: { edge: 0.35, width: 0.06 },
      })
      .node('upper', 'ranges.smoothstep', {
        name: 'Upper cut',
        values: { edge: 0.65, width: 0.06 },
      })
      .node('two', 'colour.blend', {
        name: 'Dark and middle',
        values: { under: paint('#2f3d4d'), over: paint('#8a6f4e') },
      })
      .node('three', 'colour.blend', { name: 'And light', values: { over: paint('#f3e2b8') } })
      .wire(
        '@in.value > lower.value',
        '@in.value > upper.value',
        'lower.mask > two.where',
        'two.colour > three.under',
        'upper.mask > three.where',
      ),
    inputs: [valueInput('What is cut, mostly how light falls.')],
    outputs: [{ id: 'colour', name: 'Colour', kind: 'colour', from: 'three.colour' }],
    dials: [
      factor(
        'lower',
        ['Lower level', 'Where dark ends; 1 as designed.', 'little dark', 'dark to the middle'],
        lift('lower', 'edge', 0.2),
      ),
      factor(
        'upper',
        [
          'Upper level',
          'Where light begins; 1 as designed.',
          'light from the middle',
          'little light',
        ],
        lift('upper', 'edge', 0.2),
      ),
      factor(
        'softness',
        ['Softness', 'How soft both cuts are.', 'hard cuts', 'soft ones'],
        times('lower', 'width'),
        times('upper', 'width'),
      ),
      whole(
        'dark',
        'Dark colour',
        'What lies below both cuts.',
        { kind: 'colour', home: paint('#2f3d4d') },
        asIs('two', 'under'),
      ),
      whole(
        'middle',
        'Middle colour',
        'What lies between the cuts.',
        { kind: 'colour', home: paint('#8a6f4e') },
        asIs('two', 'over'),
      ),
      whole(
        'light',
        'Light colour',
        'What lies above both cuts.',
        { kind: 'colour', home: paint('#f3e2b8') },
        asIs('three', 'over'),
      ),
    ],
    limits: 'The upper level belongs above the lower one; crossed, the middle tone is gone.',
  },
);
