import { input } from '../ports';
import { defineParameter } from './define';

/** Source: KHR_materials_clearcoat. */
export const coatRoughness = defineParameter({
  lanes: 1,
  plain: 0.1,
  order: 140,
  shareOf: 'coat',
  layer: 'coat',
  inputs: {
    coatRoughness: input.scalar({
      factor: 'coat',
      quantity: 'roughness',
      title: 'Coat roughness',
      help: 'How blurred the coat’s reflections are.',
      default: 0.1,
      hard: [0, 1],
      low: 'mirror',
      high: 'matt',
      section: 'Coat',
    }),
  },
  lower: (b, { coatRoughness }) => b.saturate(coatRoughness),
  shading: { name: 'clearcoatRoughness', feature: null },
  encoding: 'share',
  empty: [0],
  map: { name: 'coat-roughness', when: ['coat'] },
  model: { texture: 'coat', channels: 'g', when: ['coat'] },
  gltf: (_, hasTexture) =>
    hasTexture('coat')
      ? {
          KHR_materials_clearcoat: {
            clearcoatRoughnessFactor: 1,
            clearcoatRoughnessTexture: { texture: 'coat' },
          },
        }
      : null,
});
