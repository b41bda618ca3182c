import { defineParameter } from './define';

/** 0 lit, 1 shows its base colour as it is. Source: KHR_materials_unlit. */
export const unlit = defineParameter({
  lanes: 1,
  plain: 0,
  order: 170,
  layer: 'colour',
  inputs: {},
  lower: (b) => b.f(0),
  shading: { name: 'surfaceUnlit' },
  encoding: 'share',
  empty: [0],
  map: null,
  model: null,
  gltf: ({ mean }) => (mean > 0.5 ? { KHR_materials_unlit: {} } : null),
  loss: ({ isVarying }) =>
    isVarying
      ? 'Part of the surface is flat and part is lit; the model shows all of it as most of it is.'
      : null,
});
