/**
 * Nodes that are off or at part of their amount, with inputs that nothing is wired to, on a board
 * and inside a group: always computed, alike by all back ends.
 */
import { checkCompiled, compileNetwork } from '@/core/compile/compile';
import { findDefinition, takesMany } from '@/core/compile/catalogue';
import { groupSelection } from '@/core/edit/group';
import { seededRandom } from '@/core/base/random';
import { INPUT_EDGE } from '@/core/graph/document';
import type { GroupDefinition, NetworkDocument, NodeInstance } from '@/core/graph/document';
import { TYPED_ONLY } from '@/core/nodes/define';
import type { NodeDefinition } from '@/core/nodes/define';
import { NODES } from '@/core/nodes/registry.generated';
import { measureAgreement } from '../support/agreement';
import { documentOf, node, optionVariants, randomDocument, randomLanes } from '../support/networks';

/** A block of the back end's four lanes, and a point over. */
const POINTS = 5;
const NETWORKS = 75;
const STATES: readonly Partial<NodeInstance>[] = [{ off: true }, { amount: 0.4 }];

/** Nothing fails, and WebAssembly gives what the reference gives. */
function expectComputed(document: NetworkDocument): void {
  const faults = checkCompiled(document).filter(
    ({ severity, code }) => severity === 'error' || code === 'node.failed',
  );
  expect(faults).toEqual([]);
  const compiled = compileNetwork(document, { surface: true, taps: 'all' });
  const { bitDifferences } = measureAgreement(
    compiled,
    document,
    randomLanes(POINTS, 3),
    POINTS,
    Infinity,
  );
  expect(bitDifferences).toBe(0);
}

/** A card of a group in which a node takes all it can from the group's inputs; none is wired. */
function inUnwiredGroup(definition: NodeDefinition, inner: NodeInstance): NetworkDocument {
  const flowing = Object.entries(definition.inputs).filter(
    ([, port]) => !TYPED_ONLY.has(port.kind),
  );
  const kindOf = (kind: string): 'scalar' | 'vector' | 'colour' | 'surface' =>
    kind === 'vector' || kind === 'colour' || kind === 'surface' ? kind : 'scalar';
  const group: GroupDefinition = {
    id: 'g',
    name: 'Unwired',
    description: '',
    inputs: flowing.map(([id, { kind }]) => ({
      id: `in-${id}`,
      name: id,
      kind: kindOf(kind),
      ...(takesMany(kind) ? { many: true } : {}),
    })),
    outputs: Object.entries(definition.outputs).map(([id, { kind }]) => ({
      id: `out-${id}`,
      name: id,
      kind: kindOf(kind),
    })),
    dials: [],
    network: {
      nodes: [inner],
      strands: [
        ...flowing.map(([id], k) => ({
          id: `i${String(k)}`,
          from: { node: INPUT_EDGE, output: `in-${id}` },
          to: { node: inner.id, input: id },
          order: 0,
        })),
        ...Object.keys(definition.outputs).map((id, k) => ({
          id: `o${String(k)}`,
          from: { node: inner.id, output: id },
          to: { node: '@out', input: `out-${id}` },
          order: 0,
        })),
      ],
      regions: [],
      notes: [],
    },
  };
  const card = { ...node('card', 'group'), group: 'g' };
  return { ...documentOf([card]), groups: { g: group } };
}

describe('every node, off or at part of its amount', () => {
  it.each(NODES.map((definition) => [definition.id, definition] as const))(
    '%s is computed without strands, on a board and in a group',
    (id, definition) => {
      for (const options of optionVariants(definition))
        for (const state of STATES) {
          const instance = { ...node('n', id, {}, options), ...state };
          expectComputed(documentOf([instance]));
          expectComputed(inUnwiredGroup(definition, instance));
        }
    },
  );
});

describe('random networks with nodes off, amounts, and a group that nothing is wired to', () => {
  it(`are computed, ${String(NETWORKS)} of them`, () => {
    let off = 0;
    for (let seed = 1; seed <= NETWORKS; seed++) {
      const random = seededRandom(seed * 7);
      const given = randomDocument(seed, 4 + (seed % 9));
      const nodes = given.network.nodes.map((each): NodeInstance => {
        const drawn = random();
        if (drawn < 0.35) off++;
        if (drawn < 0.35) return { ...each, off: true };
        return drawn < 0.6 ? { ...each, amount: random() * 1.4 } : each;
      });
      const document = { ...given, network: { ...given.network, nodes } };
      expectComputed(document);
      // What comes later feeds nothing that comes earlier: it can be packaged.
      const ids = nodes.slice(nodes.length >> 1).map(({ id }) => id);
      const packed = groupSelection(document, { board: null, ids, name: 'Part', path: [] });
      const { network } = packed.document;
      const card = network.nodes.find(({ group }) => group === packed.groupId)?.id;
      const strands = network.strands.filter(({ to }) => to.node !== card);
      expectComputed({ ...packed.document, network: { ...network, strands } });
    }
    expect(off).toBeGreaterThan(NETWORKS);
  });
});

describe('a node that the program cannot compute', () => {
  it('is a finding at its card; the rest is computed', () => {
    const broken = findDefinition('patterns.noise');
    if (!broken) throw new Error('there is no noise');
    const { lower } = broken;
    const document = documentOf(
      [node('bad', 'patterns.noise'), node('good', 'constants.number', { value: 0.25 })],
      [],
    );
    Object.assign(broken, {
      lower: () => {
        throw new TypeError('planted');
      },
    });
    try {
      expect(checkCompiled(document)).toEqual([
        expect.objectContaining({
          code: 'node.failed',
          severity: 'warning',
          nodeId: 'bad',
          pointer: '/network/nodes/0',
          message: expect.stringContaining('planted') as string,
        }),
      ]);
      const compiled = compileNetwork(document, { surface: true, taps: ['good:value'] });
      expect(compiled.slots.map(({ key }) => key)).toContain('good:value');
    } finally {
      Object.assign(broken, { lower });
    }
  });
});
