import { map3 } from '../lanes';
import { input } from '../ports';
import { defineParameter } from './define';

/** Linear Rec. 709: the tint of what shines through. Source: OpenPBR. */
export const transmissionColour = defineParameter({
  lanes: 3,
  plain: 1,
  order: 110,
  shareOf: 'transmission',
  layer: 'clarity',
  inputs: {
    transmissionColour: input.colour({
      factor: 'transmission',
      title: 'Transmission colour',
      help: 'Tints what shines through.',
      default: [1, 1, 1],
      section: 'Transmission',
    }),
  },
  lower: (b, { transmissionColour }) => map3(transmissionColour, (lane) => b.max(lane, b.f(0))),
  shading: { name: 'transmissionColour', feature: null },
  encoding: 'colour',
  empty: [1, 1, 1],
  map: { name: 'transmission-colour', when: ['transmissionColour'] },
  model: null,
});
