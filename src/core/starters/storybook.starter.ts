import { NetworkSketch, paint } from '../edit/network-sketch';
import type { NetworkDocument } from '../graph/document';
import { defineStarter } from './define';

function network(): NetworkDocument {
  return new NetworkSketch()
    .node('light', 'model.light-response', {
      name: 'Light',
      options: { shadows: 'thrown', light: 'first' },
    })
    .node('wobble', 'patterns.noise', { name: 'Wobble', values: { scale: 16, seed: 4 } })
    .node('edge', 'math.mix', { name: 'Drawn edge', values: { amount: 0.09 } })
    .node('lit', 'ranges.threshold', { name: 'Lit', values: { level: 0.52, width: 0.02 } })
    .node('pen', 'patterns.hatch', {
      name: 'Pen strokes',
      values: { scale: 62, angle: 38, softness: 0.25 },
    })
    .node('tones', 'colour.blend', {
      name: 'Two tones',
      values: { under: paint('#2f4a78'), over: paint('#f1c272') },
    })
    .node('shade', 'colour.blend', {
      name: 'Hatched shade',
      values: { over: paint('#1e2f55'), amount: 0.75 },
    })
    .node('inShade', 'masks.minus', { name: 'Strokes in the shade' })
    .node('ink', 'math.math', { name: 'Ink of the strokes', options: { operation: 'invert' } })
    .node('rim', 'model.view-angle', {
      name: 'Rim',
      values: { exponent: 1.4 },
      options: { range: 'rim' },
    })
    .node('outline', 'ranges.threshold', { name: 'Outline', values: { level: 0.84, width: 0.05 } })
    .node('drawn', 'colour.blend', { name: 'Ink rim', values: { over: paint('#1a1420') } })
    .node('page', 'surface.flat', { name: 'Page' })
    .wire(
      'light.facing > edge.a',
      'wobble.value > edge.b',
      'edge.value > lit.value',
      'light.wrapped > pen.tone',
      'lit.mask > tones.where',
      'pen.paper > ink.a',
      'ink.value > inShade.mask',
      'lit.mask > inShade.cuts',
      'tones.colour > shade.under',
      'inShade.mask > shade.where',
      'shade.colour > drawn.under',
      'rim.value > outline.value',
      'outline.mask > drawn.where',
      'drawn.colour > page.colour',
    )
    .finish('Storybook two-tone', 'page.surface');
}

export const storybook = defineStarter({
  id: 'storybook',
  title: 'Storybook two-tone',
  help: 'Two flat tones that follow the light, hatched shade, an ink rim.',
  model: 'demo-bell',
  document: network,
});
