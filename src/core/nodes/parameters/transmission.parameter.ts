import { input } from '../ports';
import { defineParameter } from './define';

/** Source: KHR_materials_transmission. */
export const transmission = defineParameter({
  lanes: 1,
  plain: 0,
  order: 100,
  layer: 'clarity',
  inputs: {
    transmission: input.scalar({
      title: 'Transmission',
      help: 'Share of the light that goes through instead of being scattered.',
      default: 0,
      hard: [0, 1],
      low: 'opaque paint',
      high: 'clear glass',
      section: 'Transmission',
    }),
  },
  lower: (b, { transmission }) => b.saturate(transmission),
  shading: {
    name: 'transmission',
    feature: 'transmission',
    switches: { transmission: 1, thickness: 1 },
  },
  encoding: 'share',
  empty: [0],
  map: { name: 'transmission', when: ['transmission'] },
  model: { texture: 'transmission', channels: 'r', when: ['transmission'] },
  gltf: (_, hasTexture) =>
    hasTexture('transmission')
      ? {
          KHR_materials_transmission: {
            transmissionFactor: 1,
            transmissionTexture: { texture: 'transmission' },
          },
        }
      : null,
});
