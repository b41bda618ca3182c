import { map3 } from '../lanes';
import { input } from '../ports';
import { defineParameter } from './define';

/** Linear Rec. 709: colour times amount. Source: KHR_materials_sheen. */
export const sheen = defineParameter({
  lanes: 3,
  plain: 0,
  order: 150,
  layer: 'sheen',
  inputs: {
    sheen: input.scalar({
      title: 'Sheen',
      help: 'The bright rim of cloth and dust.',
      default: 0,
      hard: [0, 1],
      low: 'none',
      high: 'velvet',
      section: 'Sheen',
    }),
    sheenColour: input.colour({
      factor: 'sheen',
      title: 'Sheen colour',
      help: 'Colour of that rim.',
      default: [1, 1, 1],
      section: 'Sheen',
    }),
  },
  lower: (b, { sheen, sheenColour }) =>
    map3(sheenColour, (lane) => b.mul(b.max(lane, b.f(0)), b.saturate(sheen))),
  shading: { name: 'sheenColor', feature: 'sheen', switches: { sheen: 1 } },
  encoding: 'colour',
  empty: [0, 0, 0],
  map: { name: 'sheen-colour', when: ['sheen'] },
  model: { texture: 'sheen', channels: 'rgb', when: ['sheen'] },
  gltf: (_, hasTexture) =>
    hasTexture('sheen')
      ? {
          KHR_materials_sheen: {
            sheenColorFactor: [1, 1, 1],
            sheenColorTexture: { texture: 'sheen' },
          },
        }
      : null,
});
