import { NetworkSketch, makeRamp, paint } from '../edit/network-sketch';
import type { NetworkDocument } from '../graph/document';
import { defineStarter } from './define';

function network(): NetworkDocument {
  return new NetworkSketch()
    .node('reach', 'gradients.gradient', {
      name: 'Reach of the flame',
      values: { centre: [0, 0, 0], length: 0.75 },
      options: { shape: 'spherical', per: 'object' },
    })
    .node('warmth', 'gradients.ramp', {
      name: 'Warmth',
      values: {
        stops: makeRamp(
          [0, '#ffd27a'],
          [0.35, '#e0661c', 'smooth'],
          [0.8, '#240802'],
          [1, '#000000'],
        ),
      },
    })
    .node('hollows', 'model.occlusion', { name: 'Hollows', values: { reach: 0.16 } })
    .node('puffs', 'patterns.fractal-noise', {
      name: 'Puffs',
      values: { scale: 11, octaves: 5, seed: 2, stretch: 2 },
    })
    .node('collects', 'math.math', { name: 'Collects', options: { operation: 'multiply' } })
    .node('soot', 'ranges.smoothstep', { name: 'Soot', values: { edge: 0.26, width: 0.26 } })
    .node('polish', 'patterns.scratches', {
      name: 'Polish marks',
      values: { scale: 22, density: 0.4, length: 9, spread: 24 },
    })
    .node('finish', 'ranges.remap', { name: 'Finish', values: { outLow: 0.2, outHigh: 0.42 } })
    .node('brass', 'surface.surface', {
      name: 'Brass',
      values: { baseColour: paint('#d9a648'), metalness: 1, emissionStrength: 1.6 },
    })
    .node('black', 'surface.surface', {
      name: 'Lamp black',
      values: { baseColour: paint('#151210'), roughness: 0.95 },
    })
    .node('lantern', 'surface.layer', { name: 'Sooted brass' })
    .wire(
      'reach.value > warmth.value',
      'hollows.occlusion > collects.a',
      'puffs.value > collects.b',
      'collects.value > soot.value',
      'polish.mask > finish.value',
      'finish.value > brass.roughness',
      'warmth.colour > brass.emission',
      'brass.surface > lantern.under',
      'black.surface > lantern.over',
      'soot.mask > lantern.where',
    )
    .finish('Lantern brass', 'lantern.surface');
}

export const lanternBrass = defineStarter({
  id: 'lantern-brass',
  title: 'Lantern brass',
  help: 'Polished brass lit from below by the lantern, soot where it collects.',
  model: 'demo-bell',
  document: network,
});
