import { input } from '../ports';
import { defineParameter } from './define';

/** In the units of the height inputs; read by bakes and by layers. */
export const height = defineParameter({
  lanes: 1,
  plain: 0,
  order: 180,
  layer: 'relief',
  inputs: {
    height: input.scalar({
      title: 'Height',
      help: 'Goes into height maps; to see it as relief, wire it through a bump.',
      default: 0,
      low: 'deep',
      high: 'high',
      section: 'Relief',
    }),
  },
  lower: (_, { height }) => height,
  shading: null,
  encoding: 'share',
  empty: [0],
  map: { name: 'height', when: ['height'] },
  model: null,
  loss: ({ beyond }) =>
    beyond > 0
      ? `Height leaves 0 to 1 on ${(beyond * 100).toFixed(0)} % of the surface; the map is ` +
        'limited there.'
      : null,
});
