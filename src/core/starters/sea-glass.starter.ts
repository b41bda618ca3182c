import { NetworkSketch, makeRamp, paint } from '../edit/network-sketch';
import type { NetworkDocument } from '../graph/document';
import { defineStarter } from './define';

function network(): NetworkDocument {
  return new NetworkSketch()
    .node('rim', 'model.view-angle', {
      name: 'Rim',
      values: { exponent: 1.8 },
      options: { range: 'rim' },
    })
    .node('depth', 'gradients.ramp', {
      name: 'Depth of glass',
      values: { stops: makeRamp([0, '#0f5a48'], [0.4, '#2f8f74', 'smooth'], [1, '#d8f5e4']) },
    })
    .node('frost', 'patterns.fractal-noise', {
      name: 'Frost',
      values: { scale: 48, octaves: 4, stretch: 1.8 },
    })
    .node('rubbed', 'patterns.scratches', {
      name: 'Rubbed by sand',
      values: { scale: 16, density: 0.3, spread: 180 },
    })
    .node('finish', 'math.mix', { name: 'Finish', values: { b: 0.85, amount: 0.5 } })
    .node('worn', 'ranges.remap', { name: 'Frosted', values: { outLow: 0.32, outHigh: 0.62 } })
    .node('relief', 'surface.bump', { name: 'Worn surface', values: { relief: 0.0012 } })
    .node('glow', 'ranges.smoothstep', { name: 'Glow', values: { edge: 0.62, width: 0.5 } })
    .node('light', 'math.math', {
      name: 'Light through the rim',
      values: { b: 0.55 },
      options: { operation: 'multiply' },
    })
    .node('glass', 'surface.surface', {
      name: 'Glass',
      values: { coat: 0.25, coatRoughness: 0.35, emission: paint('#6fd0ae') },
    })
    .wire(
      'rim.value > depth.value',
      'frost.value > worn.value',
      'worn.value > finish.a',
      'rubbed.mask > finish.amount',
      'frost.value > relief.height',
      'rim.value > glow.value',
      'glow.mask > light.a',
      'depth.colour > glass.baseColour',
      'finish.value > glass.roughness',
      'relief.normal > glass.normal',
      'light.value > glass.emissionStrength',
    )
    .finish('Sea glass', 'glass.surface');
}

export const seaGlass = defineStarter({
  id: 'sea-glass',
  title: 'Sea glass',
  help: 'Frosted green glass with a bright rim and worn scratches.',
  model: 'demo-study',
  document: network,
});
