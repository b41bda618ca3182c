import { map3 } from '../lanes';
import { input } from '../ports';
import { defineParameter } from './define';

/** Linear Rec. 709. Source: KHR_materials_specular. */
export const specularColour = defineParameter({
  lanes: 3,
  plain: 1,
  order: 90,
  layer: 'finish',
  inputs: {
    specularColour: input.colour({
      factor: 'specular',
      title: 'Reflection colour',
      help: 'Tints that reflection, head-on.',
      default: [1, 1, 1],
      section: 'Reflection',
    }),
  },
  lower: (b, { specularColour }) => map3(specularColour, (lane) => b.max(lane, b.f(0))),
  shading: { name: 'specularColor', feature: 'reflection' },
  encoding: 'colour',
  empty: [1, 1, 1],
  map: { name: 'specular-colour', when: ['specularColour'] },
  model: { texture: 'specular', channels: 'rgb', when: ['specular', 'specularColour'] },
  gltf: (_, hasTexture) =>
    hasTexture('specular')
      ? { KHR_materials_specular: { specularColorTexture: { texture: 'specular' } } }
      : null,
});
