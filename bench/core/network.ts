import type { NetworkDocument, NodeInstance } from '@/core/graph/document';
import { NetworkSketch, paint, makeRamp } from '@/core/edit/network-sketch';

/**
 * The fixed network of the benchmark: two fractal noises of six octaves, a cell noise, four
 * smoothsteps, a ramp of five stops, a dozen mixes (four blends of three channels), into a surface:
 * the work of the reference in C. Frozen, so that figures of different days can be compared.
 */
export function benchNetwork(): NetworkDocument {
  const mix = (sketch: NetworkSketch, id: string, colour: string, amount: number): NetworkSketch =>
    sketch.node(id, 'colour.blend', { values: { over: paint(colour), amount } });
  const sketch = new NetworkSketch()
    .node('coarse', 'patterns.fractal-noise', { values: { scale: 15, octaves: 6 } })
    .node('fine', 'patterns.fractal-noise', { values: { scale: 60, octaves: 6, seed: 2 } })
    .node('cells', 'patterns.cell-noise', { values: { scale: 24 } })
    .node('curvature', 'model.curvature')
    .node('occlusion', 'model.occlusion')
    .node('height', 'gradients.gradient', { options: { per: 'object' } })
    .node('edge', 'ranges.smoothstep', { values: { edge: 0.62, width: 0.15 } })
    .node('grime', 'ranges.smoothstep', { values: { edge: 0.4, width: 0.5 } })
    .node('line', 'ranges.smoothstep', { values: { edge: 0.5, width: 0.1 } })
    .node('spots', 'ranges.smoothstep', { values: { edge: 0.25, width: 0.2 } })
    .node('ramp', 'gradients.ramp', {
      values: {
        stops: makeRamp(
          [0, '#5a7a94'],
          [0.2, '#c8bb5a'],
          [0.45, '#a99462'],
          [0.7, '#e67a6c'],
          [1, '#f3f9e6'],
        ),
      },
    })
    .node('surface', 'surface.surface')
    .wire(
      'coarse.value > ramp.value',
      'curvature.convex > edge.value',
      'occlusion.occlusion > grime.value',
      'height.value > line.value',
      'cells.nearest > spots.value',
    );
  const masks = ['edge', 'grime', 'line', 'spots'];
  let before = 'ramp.colour';
  for (let k = 0; k < 4; k++) {
    mix(
      sketch,
      `mix${String(k)}`,
      ['#8c8071', '#3d3a36', '#e6e2d2', '#705a48'][k % 4] ?? '#808080',
      0.3 + 0.05 * k,
    ).wire(
      `${before} > mix${String(k)}.under`,
      `${masks[k % 4] ?? 'edge'}.mask > mix${String(k)}.where`,
    );
    before = `mix${String(k)}.colour`;
  }
  return sketch
    .wire(
      `${before} > surface.baseColour`,
      'fine.value > surface.roughness',
      'edge.mask > surface.metalness',
    )
    .finish('Benchmark', 'surface.surface');
}

/** A network of about `count` nodes: copies of the fixed one beside each other, layered. */
export function largeNetwork(count: number): NetworkDocument {
  const single = benchNetwork();
  const copies = Math.max(1, Math.round(count / (single.network.nodes.length + 1)));
  const nodes: NodeInstance[] = [];
  const strands = [];
  for (let c = 0; c < copies; c++) {
    const rename = (id: string): string => (id.startsWith('@') ? id : `${id}-${String(c)}`);
    nodes.push(...single.network.nodes.map((node) => ({ ...node, id: rename(node.id) })));
    for (const strand of single.network.strands) {
      if (strand.to.node !== '@out')
        strands.push({
          ...strand,
          id: `${strand.id}-${String(c)}`,
          from: { ...strand.from, node: rename(strand.from.node) },
          to: { ...strand.to, node: rename(strand.to.node) },
        });
    }
    if (c > 0) {
      nodes.push({
        id: `layer-${String(c)}`,
        type: 'surface.layer',
        version: 1,
        at: [0, 0],
        values: {},
        options: {},
      });
      strands.push(
        {
          id: `u${String(c)}`,
          from: { node: c === 1 ? 'surface-0' : `layer-${String(c - 1)}`, output: 'surface' },
          to: { node: `layer-${String(c)}`, input: 'under' },
          order: 0,
        },
        {
          id: `o${String(c)}`,
          from: { node: `surface-${String(c)}`, output: 'surface' },
          to: { node: `layer-${String(c)}`, input: 'over' },
          order: 0,
        },
      );
    }
  }
  strands.push({
    id: 'end',
    from: { node: copies > 1 ? `layer-${String(copies - 1)}` : 'surface-0', output: 'surface' },
    to: { node: '@out', input: 'surface' },
    order: 0,
  });
  return { ...single, network: { ...single.network, nodes, strands } };
}
