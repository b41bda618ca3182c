import { input } from '../ports';
import { defineParameter } from './define';

/** Source: KHR_materials_specular. */
export const specular = defineParameter({
  lanes: 1,
  plain: 1,
  order: 80,
  layer: 'finish',
  inputs: {
    specular: input.scalar({
      title: 'Reflection',
      help: 'Scales the reflection of what is not metal.',
      default: 1,
      hard: [0, 1],
      low: 'none',
      high: 'as the index says',
      section: 'Reflection',
    }),
  },
  lower: (b, { specular }) => b.saturate(specular),
  shading: { name: 'specularIntensity', feature: 'reflection' },
  encoding: 'share',
  empty: [1],
  map: { name: 'specular', when: ['specular'] },
  model: { texture: 'specular', channels: 'a', when: ['specular', 'specularColour'] },
  gltf: (_, hasTexture) =>
    hasTexture('specular')
      ? { KHR_materials_specular: { specularTexture: { texture: 'specular' } } }
      : null,
});
