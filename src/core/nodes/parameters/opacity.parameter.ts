import { input } from '../ports';
import { defineParameter } from './define';

/** Coverage of what lies behind. Source: glTF 2.0, alpha. */
export const opacity = defineParameter({
  lanes: 1,
  plain: 1,
  order: 50,
  layer: 'opacity',
  inputs: {
    opacity: input.scalar({
      quantity: 'opacity',
      title: 'Opacity',
      help: 'Share that covers what lies behind. Always opacity, never transparency.',
      default: 1,
      hard: [0, 1],
      low: 'see-through',
      high: 'opaque',
      section: 'Opacity',
    }),
  },
  lower: (b, { opacity }) => b.saturate(opacity),
  shading: { name: 'surfaceOpacity' },
  encoding: 'share',
  empty: [1],
  map: { name: 'opacity', when: [] },
  model: { texture: 'base colour', channels: 'a', when: [] },
});
