import { input } from '../ports';
import { defineParameter } from './define';

/** Perceptual roughness. Source: glTF 2.0. */
export const roughness = defineParameter({
  lanes: 1,
  plain: 0.6,
  order: 30,
  layer: 'finish',
  inputs: {
    roughness: input.scalar({
      quantity: 'roughness',
      title: 'Roughness',
      help: 'How blurred reflections are.',
      default: 0.5,
      hard: [0, 1],
      low: 'mirror',
      high: 'matt',
    }),
  },
  lower: (b, { roughness }) => b.saturate(roughness),
  shading: { name: 'surfaceRoughness' },
  encoding: 'share',
  empty: [0.5],
  map: { name: 'roughness', when: [] },
  model: { texture: 'roughness and metalness', channels: 'g', when: [] },
});
