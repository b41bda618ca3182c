import { NetworkSketch, makeRamp } from '../edit/network-sketch';
import type { NetworkDocument } from '../graph/document';
import { defineStarter } from './define';

const TIDE_WIRES = [
  'calm.distance > near.distances',
  'corner.distance > near.distances',
  'near.distance > rough.a',
  'edge.value > rough.b',
  'rough.value > wet.value',
  'rough.value > weed.value',
  'grain.value > stone.value',
  'stone.colour > dry.baseColour',
  'stone.colour > soaked.colour',
  'soaked.colour > damp.baseColour',
  'grain.value > relief.height',
  'relief.normal > dry.normal',
  'relief.normal > damp.normal',
  'tufts.value > green.value',
  'green.colour > weeds.baseColour',
  'dry.surface > shore.under',
  'damp.surface > shore.over',
  'wet.mask > turned.a',
  'turned.value > shore.where',
  'shore.surface > lined.under',
  'weeds.surface > lined.over',
  'weed.mask > grown.masks',
  'patchy.mask > grown.masks',
  'tufts.value > patchy.value',
  'grown.mask > lined.where',
];

function network(): NetworkDocument {
  return new NetworkSketch()
    .node('calm', 'model.beacon', {
      name: 'Open water',
      values: { place: [0, -0.22, 0], extent: [0.9, 0.28, 0.9] },
      options: { shape: 'box' },
    })
    .node('corner', 'model.beacon', {
      name: 'Splash at the corner',
      values: { place: [0.32, -0.05, 0.2], extent: [0.26, 0.24, 0.26] },
    })
    .node('near', 'masks.nearest-of', { name: 'Nearest water', values: { smoothing: 0.2 } })
    .node('edge', 'patterns.fractal-noise', { name: 'Lapping', values: { scale: 9, octaves: 4 } })
    .node('rough', 'math.math', { name: 'Water line', options: { operation: 'add' } })
    .node('wet', 'ranges.smoothstep', { name: 'Above water', values: { edge: 1.45, width: 0.18 } })
    .node('turned', 'math.math', { name: 'Wet', options: { operation: 'invert' } })
    .node('weed', 'ranges.band', {
      name: 'Weed line',
      values: { centre: 1.38, width: 0.24, softness: 0.12 },
    })
    .node('tufts', 'patterns.fractal-noise', {
      name: 'Tufts',
      values: { scale: 38, octaves: 4, seed: 5, stretch: 2.4 },
    })
    .node('patchy', 'ranges.smoothstep', { name: 'In patches', values: { edge: 0.42, width: 0.3 } })
    .node('grown', 'masks.intersect', { name: 'Grown', options: { mode: 'product' } })
    .node('grain', 'patterns.fractal-noise', { name: 'Grain', values: { scale: 26, octaves: 6 } })
    .node('stone', 'gradients.ramp', {
      name: 'Stone',
      values: { stops: makeRamp([0, '#5b554d'], [0.5, '#8d857a'], [1, '#b5ab9c']) },
    })
    .node('soaked', 'colour.correct', { name: 'Soaked', values: { gain: [0.32, 0.34, 0.36] } })
    .node('green', 'gradients.ramp', {
      name: 'Greens',
      values: { stops: makeRamp([0.2, '#16240f'], [0.6, '#3c5a1d', 'smooth'], [0.9, '#7c8f36']) },
    })
    .node('relief', 'surface.bump', { name: 'Stone relief', values: { relief: 0.004 } })
    .node('dry', 'surface.surface', { name: 'Dry stone', values: { roughness: 0.9 } })
    .node('damp', 'surface.surface', { name: 'Wet stone', values: { roughness: 0.24, coat: 0.5 } })
    .node('weeds', 'surface.surface', { name: 'Weed', values: { roughness: 0.55, sheen: 0.4 } })
    .node('shore', 'surface.layer', { name: 'Wet foot' })
    .node('lined', 'surface.layer', { name: 'Tide line' })
    .wire(...TIDE_WIRES)
    .finish('Tide line', 'lined.surface');
}

export const tideLine = defineStarter({
  id: 'tide-line',
  title: 'Tide line',
  help: 'Beacons place the water: wet stone, a weed line, dry stone above.',
  model: 'demo-quay',
  document: network,
});
