import { input } from '../ports';
import { defineParameter } from './define';

/** Source: glTF 2.0. */
export const metalness = defineParameter({
  lanes: 1,
  plain: 0,
  order: 20,
  layer: 'finish',
  inputs: {
    metalness: input.scalar({
      title: 'Metalness',
      help: 'Bare metal or not.',
      default: 0,
      hard: [0, 1],
      low: 'paint, stone, wood',
      high: 'bare metal',
    }),
  },
  lower: (b, { metalness }) => b.saturate(metalness),
  shading: { name: 'surfaceMetalness' },
  encoding: 'share',
  empty: [0],
  map: { name: 'metalness', when: [] },
  model: { texture: 'roughness and metalness', channels: 'b', when: [] },
});
