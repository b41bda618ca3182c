import type { NetworkDocument } from '@/core/graph/document';
import { NetworkSketch, paint, rampOf } from '@/core/edit/network-sketch';

export interface DemoMaterial {
  readonly id: string;
  readonly model: string;
  readonly document: () => NetworkDocument;
}

/** Painted tin of the channel buoy: chips on the edges, salt in the crevices, a dark waterline. */
function paintedTin(): NetworkDocument {
  return new NetworkSketch()
    .node('blotches', 'patterns.fractal-noise', {
      name: 'Blotches',
      values: { scale: 7, octaves: 4 },
    })
    .node('red', 'gradients.ramp', {
      name: 'Old red',
      values: { stops: rampOf([0.1, '#7c1f14'], [0.45, '#b23a22', 'smooth'], [0.9, '#d0603f']) },
    })
    .node('height', 'gradients.gradient', {
      name: 'Height',
      values: { length: 1, centre: [0, 0.24, 0] },
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
    .wire(
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
    )
    .finish('Painted tin', 'salted.surface');
}

/** Bell bronze with verdigris in the hollows and run-off. */
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
      values: { stops: rampOf([0.2, '#1f4a40'], [0.55, '#4f8d78', 'smooth'], [0.85, '#9cc7ac']) },
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

/** Stone of the quay: cells, moss on top, damp at the foot. */
function quayStone(): NetworkDocument {
  return new NetworkSketch()
    .node('grain', 'patterns.fractal-noise', { name: 'Grain', values: { scale: 22, octaves: 7 } })
    .node('stone', 'gradients.ramp', {
      name: 'Stone',
      values: { stops: rampOf([0, '#4d4a46'], [0.5, '#77726a'], [1, '#a29a8d']) },
    })
    .node('tops', 'model.slope', { name: 'Tops' })
    .node('mossy', 'patterns.fractal-noise', {
      name: 'Moss patches',
      values: { scale: 6, seed: 8, stretch: 2.2 },
    })
    .node('growth', 'math.math', { name: 'Growth', options: { operation: 'multiply' } })
    .node('moss', 'ranges.smoothstep', { name: 'Moss', values: { edge: 0.42, width: 0.2 } })
    .node('colour', 'colour.blend', { name: 'Mossy stone', values: { over: paint('#4b5d2c') } })
    .node('relief', 'surface.bump', { name: 'Roughness of stone', values: { relief: 0.004 } })
    .node('body', 'surface.surface', { name: 'Quay stone', values: { roughness: 0.86 } })
    .wire(
      'grain.value > stone.value',
      'tops.slope > growth.a',
      'mossy.value > growth.b',
      'growth.value > moss.value',
      'stone.colour > colour.under',
      'moss.mask > colour.where',
      'grain.value > relief.height',
      'colour.colour > body.baseColour',
      'relief.normal > body.normal',
    )
    .finish('Quay stone', 'body.surface');
}

/** Glazed stoneware on the tile: crackle under a shiny glaze. */
function stoneware(): NetworkDocument {
  return new NetworkSketch()
    .node('cells', 'patterns.cell-noise', { name: 'Crackle', values: { scale: 9 } })
    .node('cracks', 'ranges.smoothstep', { name: 'Cracks', values: { edge: 0.03, width: 0.04 } })
    .node('pool', 'patterns.fractal-noise', { name: 'Pooling', values: { scale: 3, octaves: 3 } })
    .node('glaze', 'gradients.ramp', {
      name: 'Glaze',
      values: { stops: rampOf([0.15, '#1d4651'], [0.6, '#3f8a8d', 'smooth'], [1, '#bcd8c4']) },
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

export const DEMO_MATERIALS: readonly DemoMaterial[] = [
  { id: 'demo-painted-tin', model: 'demo-buoy', document: paintedTin },
  { id: 'demo-bell-bronze', model: 'demo-bell', document: verdigris },
  { id: 'demo-quay-stone', model: 'demo-quay', document: quayStone },
  { id: 'demo-stoneware', model: 'demo-tile', document: stoneware },
];
