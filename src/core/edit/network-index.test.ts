import fc from 'fast-check';
import type { Network } from '../graph/document';
import { NetworkSketch } from './network-sketch';
import { indexNetwork } from './network-index';

const network = (): Network =>
  new NetworkSketch()
    .node('n', 'patterns.noise')
    .node('r', 'gradients.ramp')
    .node('s', 'surface.surface')
    .wire('n.value > r.value', 'r.colour > s.baseColour', 'n.value > s.roughness')
    .inside({});

describe('the index of a network', () => {
  it('finds nodes, and the strands that arrive at and leave each', () => {
    const index = indexNetwork(network());
    expect(index.nodes.get('r')?.type).toBe('gradients.ramp');
    expect(index.arriving.get('s')?.map(({ from }) => from.node)).toEqual(['r', 'n']);
    expect(index.leaving.get('n')?.map(({ to }) => to.node)).toEqual(['r', 's']);
    expect(index.arriving.get('n')).toBeUndefined();
  });
  it('keeps what did not change, whatever value is set', () => {
    const before = network();
    const first = indexNetwork(before);
    const after = {
      ...before,
      nodes: before.nodes.map((node) =>
        node.id === 'n' ? { ...node, values: { scale: 3 } } : node,
      ),
    };
    const second = indexNetwork(after, first);
    expect(second.arriving).toBe(first.arriving);
    expect(second.nodes.get('r')).toBe(first.nodes.get('r'));
    expect(second.nodes.get('n')).not.toBe(first.nodes.get('n'));
  });
  it('keeps the lists of nodes whose strands are as before', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 2 }), (removed) => {
        const before = network();
        const first = indexNetwork(before);
        const gone = before.strands[removed];
        const after = { ...before, strands: before.strands.filter((each) => each !== gone) };
        const second = indexNetwork(after, first);
        for (const { id } of before.nodes) {
          if (gone?.to.node !== id) expect(second.arriving.get(id)).toBe(first.arriving.get(id));
          if (gone?.from.node !== id) expect(second.leaving.get(id)).toBe(first.leaving.get(id));
        }
      }),
    );
  });
});
