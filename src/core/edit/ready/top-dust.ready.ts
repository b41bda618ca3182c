import { NetworkSketch } from '../network-sketch';
import { asIs, factor, grain, ready, seed, times, value } from './define';

export const topDust = ready(
  'Top dust',
  ['dust', 'snow', 'settled', 'powder', 'upward faces'],
  'What settles from above: surfaces that look up and are open to the sky.',
  {
    sketch: new NetworkSketch()
      .node('up', 'model.slope', { name: 'Looks up' })
      .node('flat', 'ranges.smoothstep', {
        name: 'Flat enough',
        values: { edge: 0.82, width: 0.2 },
      })
      .node('sky', 'model.occlusion', { name: 'Open to the sky', values: { reach: 0.3 } })
      .node('lies', 'masks.intersect', { name: 'Lies there' })
      .node('torn', 'masks.break-edge', {
        name: 'Uneven',
        values: { amount: 0.3, level: 0.45, width: 0.6, scale: 14, octaves: 5 },
      })
      .wire(
        'up.slope > flat.value',
        'flat.mask > lies.masks',
        'sky.openness > lies.masks',
        'lies.mask > torn.mask',
      ),
    outputs: [{ id: 'mask', name: 'Dust', kind: 'scalar', from: 'torn.mask' }],
    dials: [
      value(
        'steepness',
        ['Steepness', 'How steep a surface still holds dust.', 'walls hold it', 'only flat tops'],
        0.82,
        [0.5, 1],
        '',
        asIs('flat', 'edge'),
      ),
      factor(
        'passage',
        ['Passage', 'How softly it thins out.', 'a hard border', 'a long passage'],
        times('flat', 'width'),
      ),
      factor(
        'torn',
        ['Unevenness', 'How patchy it lies.', 'even', 'in patches'],
        times('torn', 'amount'),
      ),
      grain('How fine the patches are.', 'large patches', 'fine ones', 'torn'),
      seed(asIs('torn', 'seed')),
    ],
    limits: 'Up is the model’s own Y axis: a model that lies on its side gathers dust there.',
  },
);
