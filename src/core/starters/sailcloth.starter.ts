import { NetworkSketch, paint } from '../edit/network-sketch';
import type { NetworkDocument } from '../graph/document';
import { defineStarter } from './define';

function network(): NetworkDocument {
  return new NetworkSketch()
    .node('threads', 'patterns.weave', {
      name: 'Twill',
      values: { scale: 46, width: 0.92 },
      options: { binding: 'twill', plane: 'xz' },
    })
    .node('panel', 'patterns.stripes', {
      name: 'Panels',
      values: { scale: 2, direction: [1, 0, 0], whiteShare: 0.22, softness: 0.02 },
      options: { shape: 'square' },
    })
    .node('cloth', 'colour.blend', {
      name: 'Dyed stripe',
      values: { under: paint('#dccfae'), over: paint('#a4472e') },
    })
    .node('uneven', 'math.math', {
      name: 'Thread by thread',
      values: { b: 0.22 },
      options: { operation: 'multiply' },
    })
    .node('yarn', 'colour.blend', { name: 'Yarn', values: { over: paint('#6d5c40') } })
    .node('damp', 'patterns.fractal-noise', {
      name: 'Damp',
      values: { scale: 4, octaves: 5, seed: 8, distortion: 0.5 },
    })
    .node('stain', 'ranges.band', {
      name: 'Edge of the stain',
      values: { centre: 0.56, width: 0.05, softness: 0.06 },
    })
    .node('stained', 'colour.blend', {
      name: 'Stained',
      values: { over: paint('#5b4a33'), amount: 0.5 },
    })
    .node('relief', 'surface.bump', { name: 'Threads in relief', values: { relief: 0.004 } })
    .node('sail', 'surface.surface', {
      name: 'Sail',
      values: { roughness: 0.92, sheen: 0.5, sheenRoughness: 0.5 },
    })
    .wire(
      'panel.value > cloth.where',
      'threads.random > uneven.a',
      'uneven.value > yarn.where',
      'cloth.colour > yarn.under',
      'yarn.colour > stained.under',
      'damp.value > stain.value',
      'stain.mask > stained.where',
      'stained.colour > sail.baseColour',
      'threads.height > relief.height',
      'relief.normal > sail.normal',
    )
    .finish('Sailcloth', 'sail.surface');
}

export const sailcloth = defineStarter({
  id: 'sailcloth',
  title: 'Sailcloth',
  help: 'Twill weave with a sewn stripe, stained along the hem.',
  model: 'demo-tile',
  document: network,
});
