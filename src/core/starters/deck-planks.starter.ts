import { NetworkSketch, makeRamp, paint } from '../edit/network-sketch';
import type { NetworkDocument } from '../graph/document';
import { defineStarter } from './define';

function network(): NetworkDocument {
  return new NetworkSketch()
    .node('planks', 'patterns.blocks', {
      name: 'Planks',
      values: { scale: 7, length: 7, gap: 0.05, bevel: 0.06, offset: 0.37 },
      options: { plane: 'xz' },
    })
    .node('along', 'coordinates.transform', {
      name: 'Along the grain',
      values: { scale: [0.09, 1, 1] },
    })
    .node('grain', 'patterns.fractal-noise', {
      name: 'Grain',
      values: { scale: 44, octaves: 6, stretch: 2, distortion: 0.6 },
    })
    .node('shade', 'math.mix', { name: 'Each its own', values: { amount: 0.35 } })
    .node('wood', 'gradients.ramp', {
      name: 'Larch',
      values: { stops: makeRamp([0.1, '#4d3320'], [0.5, '#94683d', 'smooth'], [0.9, '#c79a63']) },
    })
    .node('sun', 'patterns.fractal-noise', {
      name: 'Sun',
      values: { scale: 3, octaves: 3, seed: 6 },
    })
    .node('silver', 'colour.blend', {
      name: 'Silvered',
      values: { over: paint('#a8a49b'), amount: 0.7 },
    })
    .node('bleached', 'ranges.smoothstep', { name: 'Bleached', values: { edge: 0.5, width: 0.4 } })
    .node('boards', 'surface.surface', { name: 'Boards', values: { roughness: 0.72 } })
    .node('pitch', 'surface.surface', {
      name: 'Caulking',
      values: { baseColour: paint('#15120f'), roughness: 0.4 },
    })
    .node('rise', 'math.math', {
      name: 'Worn grain',
      values: { c: 0.12 },
      options: { operation: 'multiply' },
    })
    .node('relief', 'surface.bump', { name: 'Relief', values: { relief: 0.006 } })
    .node('deck', 'surface.layer', { name: 'Deck', options: { relief: 'follows' } })
    .wire(
      'along.coordinates > grain.at',
      'grain.value > shade.a',
      'planks.random > shade.b',
      'shade.value > wood.value',
      'wood.colour > silver.under',
      'sun.value > bleached.value',
      'bleached.mask > silver.where',
      'silver.colour > boards.baseColour',
      'planks.height > rise.a',
      'grain.value > rise.b',
      'rise.value > relief.height',
      'relief.normal > boards.normal',
      'boards.surface > deck.over',
      'pitch.surface > deck.under',
      'planks.mask > deck.where',
    )
    .finish('Deck planks', 'deck.surface');
}

export const deckPlanks = defineStarter({
  id: 'deck-planks',
  title: 'Deck planks',
  help: 'Planks with caulked seams, grain, and silvered wear.',
  model: 'demo-tile',
  document: network,
});
