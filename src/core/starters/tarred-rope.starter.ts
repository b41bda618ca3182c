import { NetworkSketch, makeRamp, paint } from '../edit/network-sketch';
import type { NetworkDocument } from '../graph/document';
import { defineStarter } from './define';

function network(): NetworkDocument {
  return new NetworkSketch()
    .node('wander', 'patterns.distort', { name: 'Loose lay', values: { scale: 9, amount: 0.012 } })
    .node('strands', 'patterns.stripes', {
      name: 'Strands',
      values: { scale: 13, direction: [0.62, 1, 0.25] },
      options: { shape: 'sine' },
    })
    .node('fibres', 'patterns.stripes', {
      name: 'Fibres',
      values: { scale: 52, direction: [-0.5, 1, -0.3], whiteShare: 0.6, softness: 0.6 },
      options: { shape: 'triangle' },
    })
    .node('twist', 'math.mix', { name: 'Fibres on strands', values: { amount: 0.22 } })
    .node('blotches', 'patterns.fractal-noise', {
      name: 'Blotches',
      values: { scale: 5, octaves: 5, seed: 11, stretch: 2.2 },
    })
    .node('tar', 'ranges.smoothstep', { name: 'Tar', values: { edge: 0.52, width: 0.22 } })
    .node('hemp', 'gradients.ramp', {
      name: 'Hemp',
      values: { stops: makeRamp([0, '#2a2017'], [0.45, '#6b5638', 'smooth'], [1, '#a58d63']) },
    })
    .node('relief', 'surface.bump', { name: 'Lay of the rope', values: { relief: 0.012 } })
    .node('rope', 'surface.surface', { name: 'Dry rope', values: { roughness: 0.9, sheen: 0.3 } })
    .node('pitch', 'surface.surface', {
      name: 'Pitch',
      values: { baseColour: paint('#0d0b0a'), roughness: 0.28, coat: 0.4 },
    })
    .node('tarred', 'surface.layer', { name: 'Tarred rope', options: { relief: 'follows' } })
    .wire(
      'wander.coordinates > strands.at',
      'wander.coordinates > fibres.at',
      'strands.value > twist.a',
      'fibres.value > twist.b',
      'twist.value > hemp.value',
      'twist.value > relief.height',
      'hemp.colour > rope.baseColour',
      'relief.normal > rope.normal',
      'relief.normal > pitch.normal',
      'blotches.value > tar.value',
      'rope.surface > tarred.under',
      'pitch.surface > tarred.over',
      'tar.mask > tarred.where',
    )
    .finish('Tarred rope', 'tarred.surface');
}

export const tarredRope = defineStarter({
  id: 'tarred-rope',
  title: 'Tarred rope',
  help: 'Twisted strands of fibre under blotches of tar.',
  model: 'demo-study',
  document: network,
});
