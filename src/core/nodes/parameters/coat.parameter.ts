import { input } from '../ports';
import { defineParameter } from './define';

/** Source: KHR_materials_clearcoat. */
export const coat = defineParameter({
  lanes: 1,
  plain: 0,
  order: 130,
  layer: 'coat',
  inputs: {
    coat: input.scalar({
      title: 'Coat',
      help: 'A clear layer of index 1.5 over everything, as varnish.',
      default: 0,
      hard: [0, 1],
      low: 'bare',
      high: 'varnished',
      section: 'Coat',
    }),
  },
  lower: (b, { coat }) => b.saturate(coat),
  shading: { name: 'clearcoat', feature: 'coat', switches: { clearcoat: 1 } },
  encoding: 'share',
  empty: [0],
  map: { name: 'coat', when: ['coat'] },
  model: { texture: 'coat', channels: 'r', when: ['coat'] },
  gltf: (_, hasTexture) =>
    hasTexture('coat')
      ? { KHR_materials_clearcoat: { clearcoatFactor: 1, clearcoatTexture: { texture: 'coat' } } }
      : null,
});
