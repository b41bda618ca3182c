import { defineStarter } from './define';
import type { NetworkDocument } from '../graph/document';
import { NetworkSketch, paint, makeRamp } from '../edit/network-sketch';

function network(): NetworkDocument {
  return new NetworkSketch()
    .node('grain', 'patterns.fractal-noise', { name: 'Grain', values: { scale: 22, octaves: 7 } })
    .node('stone', 'gradients.ramp', {
      name: 'Stone',
      values: { stops: makeRamp([0, '#4d4a46'], [0.5, '#77726a'], [1, '#a29a8d']) },
    })
    .node('tops', 'model.slope', { name: 'Tops' })
    .node('mossy', 'patterns.fractal-noise', {
      name: 'Moss patches',
      values: { scale: 6, seed: 8, stretch: 2.2 },
    })
    .node('growth', 'math.math', { name: 'Growth', options: { operation: 'multiply' } })
    .node('moss', 'ranges.smoothstep', { name: 'Moss', values: { edge: 0.42, width: 0.2 } })
    .node('colour', 'colour.blend', { name: 'Mossy stone', values: { over: paint('#4b5d2c') } })
    .node('relief', 'surface.bump', { name: 'Roughness of stone', values: { relief: 0.004 } })
    .node('body', 'surface.surface', { name: 'Quay stone', values: { roughness: 0.86 } })
    .wire(
      'grain.value > stone.value',
      'tops.slope > growth.a',
      'mossy.value > growth.b',
      'growth.value > moss.value',
      'stone.colour > colour.under',
      'moss.mask > colour.where',
      'grain.value > relief.height',
      'colour.colour > body.baseColour',
      'relief.normal > body.normal',
    )
    .finish('Quay stone', 'body.surface');
}

export const quayStone = defineStarter({
  id: 'quay-stone',
  title: 'Quay stone',
  help: 'Stone with moss on its tops, damp at its foot.',
  model: 'demo-quay',
  document: network,
});
