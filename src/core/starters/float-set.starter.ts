import { NetworkSketch, paint } from '../edit/network-sketch';
import type { NetworkDocument } from '../graph/document';
import { defineStarter } from './define';

function network(): NetworkDocument {
  return new NetworkSketch()
    .node('part', 'model.part', { name: 'Which float', values: { seed: 3 } })
    .node('palette', 'gradients.palette', {
      name: 'Harbour palette',
      values: { base: paint('#c9432b'), count: 5, spread: 1 },
      options: { harmony: 'split' },
    })
    .node('bands', 'patterns.stripes', {
      name: 'Bands',
      values: { scale: 34, direction: [1, 0, 0], whiteShare: 0.3, softness: 0.05 },
      options: { shape: 'square' },
    })
    .node('striped', 'colour.blend', {
      name: 'White bands',
      values: { over: paint('#ece4d2'), amount: 0.85 },
    })
    .node('knocks', 'patterns.speckle', {
      name: 'Knocks',
      values: { scale: 42, size: 0.5, density: 0.35, seed: 4 },
    })
    .node('worn', 'masks.break-edge', {
      name: 'Knocked off',
      values: { amount: 0.5, level: 0.5, width: 0.1, scale: 120 },
    })
    .node('grime', 'patterns.fractal-noise', {
      name: 'Grime',
      values: { scale: 14, octaves: 5, seed: 9 },
    })
    .node('dull', 'ranges.remap', { name: 'Dull spots', values: { outLow: 0.22, outHigh: 0.6 } })
    .node('gloss', 'surface.surface', { name: 'Gloss paint', values: { coat: 0.5 } })
    .node('wood', 'surface.surface', {
      name: 'Bare wood',
      values: { baseColour: paint('#8a6a45'), roughness: 0.85 },
    })
    .node('float', 'surface.layer', { name: 'Painted float' })
    .wire(
      'part.id > palette.number',
      'palette.colour > striped.under',
      'bands.value > striped.where',
      'knocks.mask > worn.mask',
      'grime.value > dull.value',
      'striped.colour > gloss.baseColour',
      'dull.value > gloss.roughness',
      'gloss.surface > float.under',
      'wood.surface > float.over',
      'worn.mask > float.where',
    )
    .finish('Painted floats', 'float.surface');
}

export const floatSet = defineStarter({
  id: 'float-set',
  title: 'Painted floats',
  help: 'One palette, a colour for each part, worn where they knock together.',
  model: 'demo-floats',
  document: network,
});
