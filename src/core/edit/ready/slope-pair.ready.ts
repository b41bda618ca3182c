import { NetworkSketch } from '../network-sketch';
import { asIs, factor, ready, times, value, whole } from './define';

export const slopePair = ready(
  'Slope pair',
  ['top and underside', 'up and down', 'slopes', 'facing up', 'drips below'],
  'Two masks from how a surface leans: its top side and its underside.',
  {
    sketch: new NetworkSketch()
      .node('slope', 'model.slope', { name: 'Lean' })
      .node('top', 'ranges.smoothstep', { name: 'Top side', values: { edge: 0.8, width: 0.2 } })
      .node('low', 'ranges.smoothstep', { name: 'Not below', values: { edge: 0.2, width: 0.2 } })
      .node('under', 'math.math', { name: 'Underside', options: { operation: 'invert' } })
      .wire('slope.slope > top.value', 'slope.slope > low.value', 'low.mask > under.a'),
    outputs: [
      { id: 'top', name: 'Top', kind: 'scalar', from: 'top.mask' },
      { id: 'under', name: 'Underside', kind: 'scalar', from: 'under.value' },
    ],
    dials: [
      value(
        'topEdge',
        ['Top from', 'From which lean on a surface is top.', 'walls too', 'only flat tops'],
        0.8,
        [0.5, 1],
        '',
        asIs('top', 'edge'),
      ),
      value(
        'underEdge',
        ['Underside to', 'To which lean a surface is underside.', 'only ceilings', 'walls too'],
        0.2,
        [0, 0.5],
        '',
        asIs('low', 'edge'),
      ),
      factor(
        'softness',
        ['Softness', 'How softly both pass.', 'hard borders', 'long passages'],
        times('top', 'width'),
        times('low', 'width'),
      ),
      whole(
        'up',
        'Up',
        'Which way is up for both masks.',
        { kind: 'vector', home: [0, 1, 0], soft: [-1, 1] },
        asIs('slope', 'up'),
      ),
    ],
    limits: 'It sees how a surface leans, not whether something hangs over it.',
  },
);
