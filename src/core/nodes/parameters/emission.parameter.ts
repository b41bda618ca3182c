import { map3 } from '../lanes';
import { input } from '../ports';
import { defineParameter } from './define';

/** Linear Rec. 709. Source: glTF 2.0 with KHR_materials_emissive_strength. */
export const emission = defineParameter({
  lanes: 3,
  plain: 0,
  order: 40,
  layer: 'glow',
  inputs: {
    emission: input.colour({
      factor: 'emissionStrength',
      title: 'Emission',
      help: 'Colour of its own light.',
      default: [1, 1, 1],
      section: 'Emission',
    }),
    emissionStrength: input.scalar({
      title: 'Emission strength',
      help: 'How strongly it glows.',
      default: 0,
      soft: [0, 10],
      hard: [0, 100000],
      low: 'dark',
      high: 'glowing',
      section: 'Emission',
    }),
  },
  lower: (b, { emission, emissionStrength }) =>
    map3(emission, (lane) => b.max(b.mul(lane, emissionStrength), b.f(0))),
  shading: { name: 'surfaceEmission' },
  encoding: 'colour',
  empty: [0, 0, 0],
  map: { name: 'emission', when: [] },
  model: { texture: 'emission', channels: 'rgb', when: ['emission'], isRelative: true },
  gltf: ({ largest }) =>
    largest > 1 ? { KHR_materials_emissive_strength: { emissiveStrength: largest } } : null,
  loss: ({ largest }) =>
    largest > 1
      ? `Emission reaches ${largest.toPrecision(3)}: the map is limited to 1, the model holds ` +
        'all of it.'
      : null,
});
