import fc from 'fast-check';
import { checkReferences } from '@/core/compile/check/check';
import { compileNetwork } from '@/core/compile/compile';
import { AppError } from '@/core/base/diagnostic';
import { addDial } from '@/core/edit/dials';
import { groupSelection } from '@/core/edit/group';
import { unwiredHere } from '@/core/edit/group-papers';
import {
  addEmptyGroup,
  addPort,
  changePort,
  leadIn,
  leadOut,
  movePort,
  removePort,
} from '@/core/edit/group-ports';
import { listUses, makeOwn } from '@/core/edit/group-uses';
import { addNode, setValue } from '@/core/edit/nodes';
import { connect, disconnect } from '@/core/edit/strands';
import { ungroup } from '@/core/edit/ungroup';
import type { GroupPort, Law, NetworkDocument } from '@/core/graph/document';
import { evaluateWasm } from '../support/agreement';
import { documentOf, node, randomDocument, randomLanes } from '../support/networks';

const COUNT = 48;
function bitsOf(document: NetworkDocument, tap?: string): readonly number[] {
  const compiled = compileNetwork(document, { surface: !tap, taps: tap ? [tap] : [] });
  const { wasm } = evaluateWasm(compiled, document, randomLanes(COUNT, 9), COUNT);
  return wasm.flatMap((lane) => [...new Uint32Array(Float32Array.from(lane).buffer)]);
}
const errors = (document: NetworkDocument): readonly string[] =>
  checkReferences(document).map(({ code }) => code);

/** A noise inside a group whose vector input goes to its coordinates. */
const scarf = (port: Partial<GroupPort> = {}): NetworkDocument => {
  const { document, id } = addEmptyGroup(
    documentOf([node('end', 'surface.surface')]),
    null,
    [0, 0],
  );
  const inside = addNode(document, 'g1', 'patterns.noise', [0, 0]);
  const led = leadOut(leadIn(inside.document, 'g1', { node: inside.id, input: 'at' }), 'g1', {
    node: inside.id,
    output: 'value',
  });
  const said = changePort(led, 'g1', 'inputs', 'in1', port);
  return connect(said, null, { node: id, output: 'out1' }, { node: 'end', input: 'roughness' });
};

describe('ports of a group of one’s own', () => {
  it('are made by leading strands to the edges, and name what they lead to', () => {
    const group = scarf().groups['g1'];
    expect(group?.inputs).toEqual([
      { id: 'in1', name: 'Coordinates', kind: 'vector', unwired: 'position' },
    ]);
    expect(group?.outputs).toEqual([{ id: 'out1', name: 'Value', kind: 'scalar' }]);
    expect(errors(scarf())).toEqual([]);
  });
  it('say what they are unwired; saying nothing is found', () => {
    const silent = scarf({ unwired: undefined });
    expect(errors(silent)).toEqual(['group.unwired']);
    expect(bitsOf(scarf(), 'n1:out1')).toEqual(bitsOf(silent, 'n1:out1'));
    const byNormal = bitsOf(scarf({ unwired: 'normal' }), 'n1:out1');
    expect(byNormal).not.toEqual(bitsOf(scarf(), 'n1:out1'));
    const typed = bitsOf(
      scarf({ unwired: undefined, fallback: [0, 0, 0] } as unknown as Partial<GroupPort>),
      'n1:out1',
    );
    expect(new Set(typed).size).toBe(1);
    expect(typed).not.toEqual(byNormal);
  });
  it('may count as what changes nothing where they go', () => {
    const base = documentOf([node('end', 'surface.surface')]);
    const { document, id } = addEmptyGroup(base, null, [0, 0]);
    const inside = addNode(document, 'g1', 'math.math', [0, 0], undefined, {
      operation: 'multiply',
    });
    const valued = setValue(inside.document, 'g1', inside.id, 'a', 0.6);
    const led = leadOut(
      leadIn(setValue(valued, 'g1', inside.id, 'b', 0.2), 'g1', { node: inside.id, input: 'b' }),
      'g1',
      { node: inside.id, output: 'value' },
    );
    const first = (each: NetworkDocument): number =>
      new Float32Array(Uint32Array.of(bitsOf(each, `${id}:out1`)[0] ?? 0).buffer)[0] ?? NaN;
    expect(first(led)).toBeCloseTo(0.12, 6);
    expect(first(changePort(led, 'g1', 'inputs', 'in1', { unwired: 'neutral' }))).toBeCloseTo(
      0.6,
      6,
    );
  });
  it('take a list of masks as one input', () => {
    const masks = documentOf([
      node('a', 'constants.number', { value: 0.2 }),
      node('b', 'constants.number', { value: 0.7 }),
    ]);
    const { document, id } = addEmptyGroup(masks, null, [0, 0]);
    const inside = addNode(document, 'g1', 'masks.union', [0, 0]);
    const led = leadOut(leadIn(inside.document, 'g1', { node: inside.id, input: 'masks' }), 'g1', {
      node: inside.id,
      output: 'mask',
    });
    expect(led.groups['g1']?.inputs[0]).toMatchObject({ kind: 'scalar', many: true });
    const wired = ['a', 'b'].reduce(
      (each, from) =>
        connect(each, null, { node: from, output: 'value' }, { node: id, input: 'in1' }),
      led,
    );
    expect(wired.network.strands).toHaveLength(2);
    expect(errors(wired)).toEqual([]);
    const flat = ungroup(wired, null, id);
    expect(flat.network.strands).toHaveLength(2);
    const combined = flat.network.nodes.find(({ type }) => type === 'masks.union');
    expect(bitsOf(wired, `${id}:out1`)).toEqual(bitsOf(flat, `${combined?.id ?? ''}:mask`));
  });
  it('go with the strands to them, inside and at every card', () => {
    const gone = removePort(scarf(), 'g1', 'outputs', 'out1');
    expect(gone.network.strands).toEqual([]);
    expect(gone.groups['g1']?.network.strands).toHaveLength(1);
    expect(removePort(gone, 'g1', 'inputs', 'in1').groups['g1']?.network.strands).toEqual([]);
  });
  it('never change a value by being named, ordered or added', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1e6 }), (seed) => {
        const document = randomDocument(seed, 9);
        const ids = document.network.nodes.map(({ id }) => id).slice(0, 6);
        let group;
        try {
          group = groupSelection(document, { board: null, ids, name: 'G', path: [] });
        } catch {
          return;
        }
        const { groupId } = group;
        const before = bitsOf(group.document);
        const { inputs = [], outputs = [] } = group.document.groups[groupId] ?? {};
        const sides = [
          ...inputs.map(({ id }) => ['inputs', id] as const),
          ...outputs.map(({ id }) => ['outputs', id] as const),
        ];
        const changed = sides.reduce(
          (each, [side, id], k) =>
            movePort(
              changePort(each, groupId, side, id, { name: `Port ${String(k)}`, help: 'New words' }),
              groupId,
              side,
              id,
              k % 2 === 0 ? 1 : -1,
            ),
          group.document,
        );
        const more = (['inputs', 'outputs'] as const).reduce(
          (each, side) =>
            addPort(each, groupId, side, { name: 'More', kind: 'scalar' })?.document ?? each,
          changed,
        );
        expect(bitsOf(more)).toEqual(before);
      }),
      { numRuns: 30 },
    );
  });
});

describe('whether something is wired', () => {
  const { document, id } = addEmptyGroup(
    documentOf([node('mask', 'model.slope'), node('end', 'surface.surface')]),
    null,
    [0, 0],
  );
  const inside = addNode(document, 'g1', 'math.is-wired', [0, 0]);
  const led = leadOut(
    leadOut(leadIn(inside.document, 'g1', { node: inside.id, input: 'first' }), 'g1', {
      node: inside.id,
      output: 'first',
    }),
    'g1',
    { node: inside.id, output: 'either' },
  );
  const valueOf = (each: NetworkDocument, port: string): number =>
    new Float32Array(Uint32Array.of(bitsOf(each, `${id}:${port}`)[0] ?? 0).buffer)[0] ?? NaN;

  it('is told inside a group by what is wired outside, whatever it is unwired', () => {
    expect([valueOf(led, 'out1'), valueOf(led, 'out2')]).toEqual([0, 0]);
    const fallen = changePort(led, 'g1', 'inputs', 'in1', { fallback: 0.5 });
    expect(valueOf(fallen, 'out1')).toBe(0);
    const wired = connect(
      fallen,
      null,
      { node: 'mask', output: 'slope' },
      { node: id, input: 'in1' },
    );
    expect([valueOf(wired, 'out1'), valueOf(wired, 'out2')]).toEqual([1, 1]);
    const [strand] = wired.network.strands;
    expect(valueOf(disconnect(wired, null, [strand?.id ?? '']), 'out1')).toBe(0);
  });
});

describe('what an input gives inside', () => {
  it('is said where nothing is wired to the card that was entered, and only there', () => {
    const document = documentOf([node('end', 'surface.surface')]);
    const made = addEmptyGroup(document, null, [0, 0]);
    const ports: readonly Partial<GroupPort>[] = [
      { kind: 'scalar', fallback: 0.25 },
      { kind: 'vector', unwired: 'position' },
      { kind: 'scalar', unwired: 'neutral' },
      { kind: 'scalar' },
    ];
    const group = made.document.groups['g1'];
    if (!group) throw new Error('no group');
    const inputs = ports.map((port, k): GroupPort => ({
      id: `p${String(k)}`,
      name: 'P',
      kind: 'scalar',
      ...port,
    }));
    const withPorts = { ...made.document, groups: { g1: { ...group, inputs } } };
    expect(unwiredHere(withPorts, [])).toEqual({});
    expect(unwiredHere(withPorts, [made.id])).toEqual({
      p0: 'unwired 0.25',
      p1: 'unwired the position',
      p2: 'unwired what changes nothing',
      p3: 'unwired: each input’s own',
    });
    const noise = addNode(withPorts, null, 'patterns.noise', [0, 0]);
    const wired = connect(
      noise.document,
      null,
      { node: noise.id, output: 'value' },
      { node: made.id, input: 'p0' },
    );
    expect(Object.keys(unwiredHere(wired, [made.id]))).toEqual(['p1', 'p2', 'p3']);
  });
});

describe('a group that several cards share', () => {
  const shared = (): NetworkDocument => {
    const document = scarf();
    const [first] = document.network.nodes.filter(({ group }) => group === 'g1');
    if (!first) throw new Error('no card');
    return {
      ...document,
      network: {
        ...document.network,
        nodes: [...document.network.nodes, { ...first, id: 'other' }],
      },
    };
  };
  it('lists its uses, and one of them can have its own', () => {
    expect(listUses(shared(), 'g1')).toEqual([
      { board: null, node: 'n1' },
      { board: null, node: 'other' },
    ]);
    const parted = makeOwn(shared(), null, 'other');
    expect(listUses(parted, 'g1')).toEqual([{ board: null, node: 'n1' }]);
    expect(parted.groups['g2']?.name).toBe('New group 2');
    expect(bitsOf(parted)).toEqual(bitsOf(shared()));
    expect(makeOwn(parted, null, 'other')).toBe(parted);
  });
});

describe('dissolving', () => {
  it('after packaging is the network there was, to the bit', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1e6 }), (seed) => {
        const document = randomDocument(seed, 10);
        const ids = document.network.nodes.map(({ id }) => id).slice(0, 6);
        let group;
        try {
          group = groupSelection(document, { board: null, ids, name: 'G', path: [] });
        } catch {
          return;
        }
        expect(bitsOf(ungroup(group.document, null, group.nodeId))).toEqual(bitsOf(document));
      }),
      { numRuns: 40 },
    );
  });
  it.each([
    ['times', 1.7],
    ['lift', 0.4],
    ['span', 0.8],
    ['blend', 0.3],
    ['as is', 12],
  ] as const)('keeps what a dial by “%s” has set', (law: Law, setting) => {
    const document = documentOf(
      [node('noise', 'patterns.noise', { scale: 7 }), node('end', 'surface.surface')],
      ['noise:value > end:roughness', 'end:surface > @out:surface'],
    );
    const group = groupSelection(document, { board: null, ids: ['noise'], name: 'G', path: [] });
    const made = addDial(group.document, group.groupId, 'noise', 'scale', law, 'Size');
    const set = setValue(
      made?.document ?? document,
      null,
      group.nodeId,
      made?.dialId ?? '',
      setting,
    );
    const flat = ungroup(set, null, group.nodeId);
    expect(flat.network.nodes.some(({ type }) => type === 'group')).toBe(false);
    expect(bitsOf(flat)).toEqual(bitsOf(set));
    expect(bitsOf(flat)).not.toEqual(bitsOf(document));
  });
  it('keeps what an input is unwired, or refuses where that cannot be typed', () => {
    const usual = ungroup(scarf(), null, 'n1');
    const noise = usual.network.nodes.find(({ type }) => type === 'patterns.noise');
    expect(bitsOf(usual, `${noise?.id ?? ''}:value`)).toEqual(bitsOf(scarf(), 'n1:out1'));
    expect(() => ungroup(scarf({ unwired: 'normal' }), null, 'n1')).toThrow('cannot be typed');
  });
  it('refuses a moved dial that acts on a strand, and says so', () => {
    const document = documentOf(
      [node('noise', 'patterns.noise'), node('more', 'math.math'), node('end', 'surface.surface')],
      ['noise:value > more:a', 'more:value > end:roughness', 'end:surface > @out:surface'],
    );
    const group = groupSelection(document, {
      board: null,
      ids: ['noise', 'more'],
      name: 'G',
      path: [],
    });
    const made = addDial(group.document, group.groupId, 'more', 'a', 'times', 'Gain');
    const set = setValue(made?.document ?? document, null, group.nodeId, made?.dialId ?? '', 2);
    expect(() => ungroup(set, null, group.nodeId)).toThrow(AppError);
    expect(() => ungroup(set, null, group.nodeId)).toThrow('acts on a strand');
  });
});
