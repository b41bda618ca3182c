import { input } from '../ports';
import { defineParameter } from './define';

/** Source: KHR_materials_sheen. */
export const sheenRoughness = defineParameter({
  lanes: 1,
  plain: 0.3,
  order: 160,
  layer: 'sheen',
  inputs: {
    sheenRoughness: input.scalar({
      factor: 'sheen',
      quantity: 'roughness',
      title: 'Sheen roughness',
      help: 'How wide the rim is.',
      default: 0.3,
      hard: [0, 1],
      low: 'thin line',
      high: 'wide',
      section: 'Sheen',
    }),
  },
  lower: (b, { sheenRoughness }) => b.saturate(sheenRoughness),
  shading: { name: 'sheenRoughness', feature: null },
  encoding: 'share',
  empty: [0],
  map: { name: 'sheen-roughness', when: ['sheen'] },
  model: { texture: 'sheen', channels: 'a', when: ['sheen'] },
  gltf: (_, hasTexture) =>
    hasTexture('sheen')
      ? {
          KHR_materials_sheen: {
            sheenRoughnessFactor: 1,
            sheenRoughnessTexture: { texture: 'sheen' },
          },
        }
      : null,
});
