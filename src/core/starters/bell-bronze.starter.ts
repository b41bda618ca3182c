import { defineStarter } from './define';
import type { NetworkDocument } from '../graph/document';
import { NetworkSketch, paint, makeRamp } from '../edit/network-sketch';

function verdigris(): NetworkDocument {
  return new NetworkSketch()
    .node('hollows', 'model.occlusion', { name: 'Hollows', values: { reach: 0.2 } })
    .node('patches', 'patterns.fractal-noise', {
      name: 'Patches',
      values: { scale: 9, octaves: 6, stretch: 2 },
    })
    .node('both', 'masks.union', { name: 'Damp places', options: { mode: 'screen' } })
    .node('green', 'ranges.smoothstep', { name: 'Verdigris', values: { edge: 0.72, width: 0.3 } })
    .node('tones', 'gradients.ramp', {
      name: 'Greens',
      values: { stops: makeRamp([0.2, '#1f4a40'], [0.55, '#4f8d78', 'smooth'], [0.85, '#9cc7ac']) },
    })
    .node('bronze', 'surface.surface', {
      name: 'Bronze',
      values: { baseColour: paint('#b5803f'), metalness: 1, roughness: 0.36 },
    })
    .node('patina', 'surface.surface', { name: 'Patina', values: { roughness: 0.88 } })
    .node('bell', 'surface.layer', { name: 'Weathered bronze' })
    .wire(
      'hollows.occlusion > both.masks',
      'patches.value > both.masks',
      'both.mask > green.value',
      'patches.value > tones.value',
      'tones.colour > patina.baseColour',
      'bronze.surface > bell.under',
      'patina.surface > bell.over',
      'green.mask > bell.where',
    )
    .finish('Bell bronze', 'bell.surface');
}

export const bellBronze = defineStarter({
  id: 'bell-bronze',
  title: 'Bell bronze',
  help: 'Bronze with verdigris in the hollows.',
  model: 'demo-bell',
  document: verdigris,
});
