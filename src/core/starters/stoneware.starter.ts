import { defineStarter } from './define';
import type { NetworkDocument } from '../graph/document';
import { NetworkSketch, paint, makeRamp } from '../edit/network-sketch';

function network(): NetworkDocument {
  return new NetworkSketch()
    .node('cells', 'patterns.cell-noise', { name: 'Crackle', values: { scale: 9 } })
    .node('cracks', 'ranges.smoothstep', { name: 'Cracks', values: { edge: 0.03, width: 0.04 } })
    .node('pool', 'patterns.fractal-noise', { name: 'Pooling', values: { scale: 3, octaves: 3 } })
    .node('glaze', 'gradients.ramp', {
      name: 'Glaze',
      values: { stops: makeRamp([0.15, '#1d4651'], [0.6, '#3f8a8d', 'smooth'], [1, '#bcd8c4']) },
    })
    .node('crackled', 'colour.blend', { name: 'Crackled', values: { under: paint('#1a1512') } })
    .node('body', 'surface.surface', { name: 'Stoneware', values: { roughness: 0.16 } })
    .wire(
      'cells.border > cracks.value',
      'pool.value > glaze.value',
      'glaze.colour > crackled.over',
      'cracks.mask > crackled.where',
      'crackled.colour > body.baseColour',
    )
    .finish('Glazed stoneware', 'body.surface');
}

export const stoneware = defineStarter({
  id: 'stoneware',
  title: 'Glazed stoneware',
  help: 'A crackled glaze over a speckled body.',
  model: 'demo-tile',
  document: network,
});
