import { input } from '../ports';
import { defineParameter } from './define';

/** 20 divided by the Abbe number. Source: KHR_materials_dispersion. */
export const dispersion = defineParameter({
  lanes: 1,
  plain: 0,
  order: 120,
  shareOf: 'transmission',
  layer: 'clarity',
  inputs: {
    dispersion: input.scalar({
      factor: 'transmission',
      title: 'Dispersion',
      help: 'How far colours are spread: 20 divided by the Abbe number.',
      default: 0,
      soft: [0, 1],
      hard: [0, 20],
      low: 'none',
      high: 'prism',
      section: 'Transmission',
    }),
  },
  lower: (b, { dispersion }) => b.max(dispersion, b.f(0)),
  shading: {
    name: 'dispersion',
    feature: 'dispersion',
    switches: { dispersion: 1 },
    needs: 'transmission',
  },
  encoding: 'share',
  empty: [0],
  map: null,
  model: null,
  gltf: ({ mean }, hasTexture) =>
    // It bends only what goes through a volume; no thickness is known, so the volume has none.
    hasTexture('transmission') && mean > 0
      ? { KHR_materials_volume: {}, KHR_materials_dispersion: { dispersion: mean } }
      : null,
  loss: ({ isUsed, isVarying, mean }) =>
    isUsed && isVarying
      ? `Dispersion varies over the surface; the model holds its mean, ${mean.toFixed(2)}.`
      : null,
});
