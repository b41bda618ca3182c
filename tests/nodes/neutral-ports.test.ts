/** An input of a group that is neutral while nothing is wired to it: every node, every input. */
import { findKeptValue, withoutInput } from '@/core/compile/neutral';
import { checkReferences } from '@/core/compile/check/check';
import { ungroup } from '@/core/edit/ungroup';
import { INPUT_EDGE, OUTPUT_EDGE } from '@/core/graph/document';
import type { GroupDefinition, NetworkDocument, NodeInstance } from '@/core/graph/document';
import { TYPED_ONLY } from '@/core/nodes/define';
import { NODES } from '@/core/nodes/registry.generated';
import { outputAt } from '../support/evaluate';
import { documentOf, node, randomLanes } from '../support/networks';

const POINTS = 5;
const LANES = (() => {
  const lanes = randomLanes(POINTS, 9);
  const names = ['position.x', 'position.y', 'position.z', 'normal.x', 'normal.y', 'normal.z'];
  return Object.fromEntries(names.map((name) => [name, lanes(name)]));
})();
const plain = (kind: string) =>
  kind === 'vector' || kind === 'colour' || kind === 'surface' ? kind : 'scalar';

/** A card of a group around one node, one of whose inputs is led out and neutral, unwired. */
function inGroup(inner: NodeInstance, input: string): NetworkDocument {
  const definition = NODES.find(({ id }) => id === inner.type);
  const port = definition?.inputs[input];
  if (!definition || !port) throw new Error('no such input');
  const group: GroupDefinition = {
    id: 'g',
    name: 'One',
    description: '',
    inputs: [
      {
        id: 'in',
        name: 'In',
        kind: plain(port.kind),
        unwired: 'neutral',
        ...(port.kind === 'scalars' ? { many: true } : {}),
      },
    ],
    outputs: Object.entries(definition.outputs).map(([id, { kind }]) => ({
      id,
      name: id,
      kind: plain(kind),
    })),
    dials: [],
    network: {
      nodes: [inner],
      strands: [
        {
          id: 'i',
          from: { node: INPUT_EDGE, output: 'in' },
          to: { node: inner.id, input },
          order: 0,
        },
        ...Object.keys(definition.outputs).map((id, k) => ({
          id: `o${String(k)}`,
          from: { node: inner.id, output: id },
          to: { node: OUTPUT_EDGE, input: id },
          order: 0,
        })),
      ],
      regions: [],
      notes: [],
    },
  };
  return { ...documentOf([{ ...node('card', 'group'), group: 'g' }]), groups: { g: group } };
}
const read = (document: NetworkDocument, key: string): number[][] =>
  outputAt(document, key, LANES, POINTS);

describe.each(NODES.map((definition) => [definition.id, definition] as const))(
  'neutral inputs of %s',
  (type, definition) => {
    const inputs = Object.entries(definition.inputs).filter(
      ([, { kind }]) => !TYPED_ONLY.has(kind) && kind !== 'surface',
    );
    const outputs = Object.entries(definition.outputs).filter(([, { kind }]) => kind !== 'surface');
    it('are as a source that is off, warned of where a value of their own stays', () => {
      for (const [input, { kind }] of inputs) {
        const inner = node('n', type);
        const grouped = inGroup(inner, input);
        const source = kind === 'vector' ? 'vector' : kind === 'colour' ? 'colour' : 'number';
        const output = source === 'number' ? 'value' : source;
        const bare = documentOf(
          [{ ...node('x', `constants.${source}`), off: true }, inner],
          [`x:${output} > n:${input}`],
        );
        for (const [id] of outputs)
          expect([input, id, read(grouped, `card:${id}`)]).toEqual([
            input,
            id,
            read(bare, `n:${id}`),
          ]);
        const group = grouped.groups['g'];
        const kept = group ? findKeptValue(grouped, group, 'in') : null;
        const codes = checkReferences(grouped).map(({ code }) => code);
        expect([input, codes.includes('group.unwired')]).toEqual([input, kept !== null]);
        expect(kept !== null).toBe(withoutInput(grouped, inner, input) === 'own value');
      }
    });
    it('dissolve to the bit, or are refused', () => {
      for (const [input] of inputs) {
        const grouped = inGroup(node('n', type), input);
        let flat: NetworkDocument;
        try {
          flat = ungroup(grouped, null, 'card');
        } catch {
          continue;
        }
        const made = flat.network.nodes.find((each) => each.type === type)?.id ?? '';
        for (const [id] of outputs)
          expect([input, id, read(flat, `${made}:${id}`)]).toEqual([
            input,
            id,
            read(grouped, `card:${id}`),
          ]);
      }
    });
  },
);

describe('what neutral means', () => {
  const value = (type: string, input: string, key: string, options = {}, values = {}): number => {
    const [[found = NaN] = []] = read(
      inGroup(node('n', type, values, options), input),
      `card:${key}`,
    );
    return found;
  };
  it('is the other side, the rest of a list, or nothing let through', () => {
    expect(value('math.mix', 'amount', 'value', {}, { a: 0.3, b: 0.9, amount: 0.7 })).toBeCloseTo(
      0.3,
    );
    expect(value('math.mix', 'a', 'value', {}, { b: 0.9 })).toBeCloseTo(0.9);
    for (const operation of ['average', 'minimum', 'smoothMinimum', 'smoothMaximum', 'power'])
      expect(value('math.math', 'b', 'value', { operation }, { a: 1.5, b: 0.2 })).toBe(1.5);
    expect(
      value('math.math', 'b', 'value', { operation: 'multiplyAdd' }, { a: 0.5, b: 3, c: 0.25 }),
    ).toBe(0.75);
  });
});
