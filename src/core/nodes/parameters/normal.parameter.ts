import { normalise } from '../lanes';
import { input } from '../ports';
import { defineParameter } from './define';

/** Unit, object space; baked in tangent space, +Y up. */
export const normal = defineParameter({
  lanes: 3,
  plain: 0,
  order: 60,
  axes: ['x', 'y', 'z'],
  layer: 'relief',
  inputs: {
    normal: input.vector({
      title: 'Normal',
      help: 'Direction the light sees; wire a bump here.',
      default: 'normal',
      soft: [-1, 1],
      section: 'Relief',
    }),
  },
  lower: (b, { normal }, model) => normalise(b, normal, model.normal),
  shading: { name: 'surfaceNormal' },
  encoding: 'direction',
  empty: [0.5, 0.5, 1],
  map: { name: 'normal', when: [] },
  model: { texture: 'normal', channels: 'rgb', when: [] },
});
