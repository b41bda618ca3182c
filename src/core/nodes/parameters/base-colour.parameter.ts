import { map3 } from '../lanes';
import { input } from '../ports';
import { defineParameter } from './define';

/** Linear Rec. 709. Source: glTF 2.0. */
export const baseColour = defineParameter({
  lanes: 3,
  plain: 0.5,
  order: 10,
  layer: 'colour',
  inputs: {
    baseColour: input.colour({
      title: 'Base colour',
      help: 'Colour of the paint, or of the metal’s reflection.',
      default: [0.5, 0.5, 0.5],
    }),
  },
  lower: (b, { baseColour }) => map3(baseColour, (lane) => b.max(lane, b.f(0))),
  shading: { name: 'surfaceBaseColour' },
  encoding: 'colour',
  empty: [0, 0, 0],
  map: { name: 'base-colour', when: [] },
  model: {
    texture: 'base colour',
    channels: 'rgb',
    when: [],
    // glTF tints what shines through by the base colour: exact where all or nothing does.
    replacedBy: { colour: 'transmissionColour', share: 'transmission' },
  },
});
