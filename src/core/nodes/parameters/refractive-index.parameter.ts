import { input } from '../ports';
import { defineParameter } from './define';

/** At least 1. Source: KHR_materials_ior. */
export const refractiveIndex = defineParameter({
  lanes: 1,
  plain: 1.5,
  order: 70,
  layer: 'finish',
  inputs: {
    refractiveIndex: input.scalar({
      quantity: 'refractive index',
      title: 'Refractive index',
      help: 'How strongly light bends on entering; decides how much is reflected head-on.',
      default: 1.5,
      soft: [1, 2.5],
      hard: [1, 40],
      low: 'air, no reflection',
      high: 'diamond',
      section: 'Reflection',
    }),
  },
  lower: (b, { refractiveIndex }) => b.max(refractiveIndex, b.f(1)),
  shading: { name: 'ior', feature: 'reflection' },
  encoding: 'share',
  empty: [0],
  map: null,
  model: null,
  gltf: ({ mean }) =>
    // An index this close to the one glTF assumes goes without saying.
    Math.abs(mean - 1.5) > 1e-3 ? { KHR_materials_ior: { ior: Math.max(1, mean) } } : null,
  loss: ({ isUsed, isVarying, mean }) =>
    isUsed && isVarying
      ? `The refractive index varies over the surface; the model holds its mean, ` +
        `${mean.toFixed(2)}.`
      : null,
});
