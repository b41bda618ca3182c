import { defineStarter } from './define';
import type { NetworkDocument } from '../graph/document';
import { NetworkSketch, paint, makeRamp } from '../edit/network-sketch';

const WIRES = [
  'blotches.value > red.value',
  'height.value > line.value',
  'red.colour > tide.over',
  'line.mask > tide.where',
  'edges.convex > broken.a',
  'flakes.value > broken.b',
  'broken.value > chips.value',
  'crevices.occlusion > salt.value',
  'tide.colour > coat.baseColour',
  'chips.mask > relief.height',
  'relief.normal > coat.normal',
  'coat.surface > chipped.under',
  'tin.surface > chipped.over',
  'chips.mask > chipped.where',
  'chipped.surface > salted.under',
  'crust.surface > salted.over',
  'salt.value > salted.where',
];

function network(): NetworkDocument {
  return new NetworkSketch()
    .node('blotches', 'patterns.fractal-noise', {
      name: 'Blotches',
      values: { scale: 7, octaves: 4 },
    })
    .node('red', 'gradients.ramp', {
      name: 'Old red',
      values: { stops: makeRamp([0.1, '#7c1f14'], [0.45, '#b23a22', 'smooth'], [0.9, '#d0603f']) },
    })
    .node('height', 'gradients.gradient', {
      name: 'Height',
      values: { length: 1, centre: [0, 0.24, 0] },
      options: { per: 'object' },
    })
    .node('line', 'ranges.smoothstep', { name: 'Waterline', values: { edge: 0.38, width: 0.05 } })
    .node('tide', 'colour.blend', { name: 'Below the tide', values: { under: paint('#20302b') } })
    .node('edges', 'model.curvature', {
      name: 'Edges',
      values: { radius: 0.022, gain: 3.2, threshold: 0.05 },
    })
    .node('flakes', 'patterns.fractal-noise', {
      name: 'Flakes',
      values: { scale: 28, octaves: 5, seed: 3 },
    })
    .node('broken', 'math.math', { name: 'Broken edges', options: { operation: 'multiply' } })
    .node('chips', 'ranges.smoothstep', { name: 'Chips', values: { edge: 0.3, width: 0.12 } })
    .node('crevices', 'model.occlusion', { name: 'Crevices', values: { reach: 0.08 } })
    .node('salt', 'ranges.levels', { name: 'Salt', values: { inBlack: 0.25, inWhite: 0.8 } })
    .node('tin', 'surface.surface', {
      name: 'Bare tin',
      values: { baseColour: paint('#8f9698'), metalness: 1, roughness: 0.42 },
    })
    .node('coat', 'surface.surface', { name: 'Paint', values: { roughness: 0.34 } })
    .node('crust', 'surface.surface', {
      name: 'Salt crust',
      values: { baseColour: paint('#dcd8cc'), roughness: 0.92 },
    })
    .node('relief', 'surface.bump', { name: 'Paint edge', values: { strength: -1, relief: 0.003 } })
    .node('chipped', 'surface.layer', { name: 'Chipped paint' })
    .node('salted', 'surface.layer', { name: 'Salted', values: { amount: 0.8 } })
    .wire(...WIRES)
    .finish('Painted tin', 'salted.surface');
}

export const paintedTin = defineStarter({
  id: 'painted-tin',
  title: 'Painted tin',
  help: 'Chips on the edges, salt in the crevices, a dark waterline.',
  model: 'demo-buoy',
  document: network,
});
