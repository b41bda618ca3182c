import { documentOf, node, randomDocument, randomLanes } from '../../../tests/support/networks';
import { evaluateWasm } from '../../../tests/support/agreement';
import { checkReferences } from '../compile/check/check';
import { compileNetwork } from '../compile/compile';
import { structureKey } from '../compile/structure';
import { hasErrors } from '../base/diagnostic';
import { addDial, addDrive, changeDial, moveDial, removeDial } from './dials';
import { offerDial } from './dial-offers';
import { groupSelection } from './group';
import { ungroup } from './ungroup';
import { copyNodes, pasteClip } from './clip';
import { addNode, removeNodes, setOption, setValue } from './nodes';
import { canConnect, connect, insertIntoStrand } from './strands';
import type { NetworkDocument } from '../graph/document';
import { getNetwork } from './board';

const look = (document: NetworkDocument): readonly number[] => {
  const compiled = compileNetwork(document, { surface: true, taps: [] });
  const { wasm } = evaluateWasm(compiled, document, randomLanes(64, 5), 64);
  return wasm.flatMap((lane) => [...lane]);
};
const painted = (): NetworkDocument =>
  documentOf(
    [
      node('n1', 'patterns.fractal-noise', { scale: 42 }),
      node('n2', 'ranges.smoothstep', { edge: 0.4 }),
      node('n3', 'gradients.ramp'),
      node('n4', 'colour.blend'),
      node('n5', 'surface.surface', { roughness: 0.3 }),
      node('n6', 'model.slope'),
    ],
    [
      'n1:value > n2:value',
      'n1:value > n3:value',
      'n3:colour > n4:under',
      'n2:mask > n4:where',
      'n6:slope > n4:amount',
      'n4:colour > n5:baseColour',
      'n5:surface > @out:surface',
    ],
  );

describe('strands', () => {
  it('refuse circles and kinds that do not fit', () => {
    const document = painted();
    expect(
      canConnect(document, null, { node: 'n4', output: 'colour' }, { node: 'n1', input: 'scale' }),
    ).toBe(false);
    expect(
      canConnect(document, null, { node: 'n5', output: 'surface' }, { node: 'n4', input: 'under' }),
    ).toBe(false);
    expect(
      canConnect(document, null, { node: 'n6', output: 'slope' }, { node: 'n2', input: 'edge' }),
    ).toBe(true);
    expect(
      connect(document, null, { node: 'n4', output: 'colour' }, { node: 'n1', input: 'scale' }),
    ).toBe(document);
  });

  it('take a node in between, and heal when it is removed', () => {
    const document = painted();
    const { document: added, id } = addNode(document, null, 'math.math', [0, 0]);
    const strand = added.network.strands.find((each) => each.to.input === 'where');
    const inserted = insertIntoStrand(added, null, strand?.id ?? '', id);
    expect(
      inserted.network.strands.some(({ from, to }) => from.node === id && to.input === 'where'),
    ).toBe(true);
    const healed = removeNodes(inserted, null, [id]);
    expect(
      healed.network.strands.some(({ from, to }) => from.node === 'n2' && to.input === 'where'),
    ).toBe(true);
    expect(look(healed)).toEqual(look(document));
  });
});

describe('copies', () => {
  it('keep inner strands, and incoming ones when asked', () => {
    const document = painted();
    const clip = copyNodes(document, null, ['n2', 'n4']);
    const [bare, fed] = [
      pasteClip(document, null, clip, [10, 10], false),
      pasteClip(document, null, clip, [10, 10], true),
    ];
    expect(bare.ids).toHaveLength(2);
    expect(bare.document.network.strands.length).toBe(document.network.strands.length + 1);
    expect(fed.document.network.strands.length).toBe(document.network.strands.length + 4);
    expect(hasErrors(checkReferences(fed.document))).toBe(false);
  });
});

describe('grouping', () => {
  it('makes inputs and outputs from crossing strands and changes nothing', () => {
    const document = painted();
    const grouped = groupSelection(document, {
      board: null,
      ids: ['n2', 'n3', 'n4'],
      name: 'Paint',
      path: [],
      source: { materialId: 'm', revision: 1 },
    });
    const group = grouped.document.groups[grouped.groupId];
    expect(group?.inputs.map(({ name, kind }) => [name, kind])).toEqual([
      ['Value', 'scalar'],
      ['Amount', 'scalar'],
    ]);
    expect(group?.outputs.map(({ name, kind }) => [name, kind])).toEqual([['Colour', 'colour']]);
    expect(hasErrors(checkReferences(grouped.document))).toBe(false);
    expect(look(grouped.document)).toEqual(look(document));
    expect(look(ungroup(grouped.document, null, grouped.nodeId))).toEqual(look(document));
  });

  it('keeps the look of random networks, for random selections', () => {
    let tried = 0;
    for (let seed = 1; seed <= 40; seed++) {
      const document = randomDocument(seed, 10);
      const ids = document.network.nodes
        .filter((_, k) => (seed + k * 7) % 3 === 0)
        .map((each) => each.id);
      let grouped: ReturnType<typeof groupSelection>;
      try {
        grouped = groupSelection(document, { board: null, ids, name: 'G', path: [] });
      } catch (error) {
        // A selection that is left and entered again would feed itself; that is said.
        expect(String(error)).toContain('feed itself');
        continue;
      }
      tried++;
      expect(look(grouped.document)).toEqual(look(document));
    }
    expect(tried).toBeGreaterThan(8);
  });
});

describe('dials', () => {
  const grouped = groupSelection(painted(), {
    board: null,
    ids: ['n1', 'n2', 'n3', 'n4'],
    name: 'Paint',
    path: [],
  });
  const { groupId, nodeId } = grouped;
  const expose = (
    law: 'times' | 'lift' | 'as is',
    input = 'scale',
    inner = 'n1',
  ): { document: NetworkDocument; dialId: string } => {
    const made = addDial(grouped.document, groupId, inner, input, law, 'Grain');
    if (!made) throw new Error('not offered');
    return made;
  };

  it.each(['times', 'lift', 'as is'] as const)('by “%s” change nothing at home', (law) => {
    const { document } = expose(law);
    expect(hasErrors(checkReferences(document))).toBe(false);
    expect(look(document)).toEqual(look(grouped.document));
  });

  it('reach the inner value by their law', () => {
    const { document, dialId } = expose('times');
    const doubled = setValue(document, null, nodeId, dialId, 2);
    expect(look(doubled)).toEqual(look(setValue(grouped.document, groupId, 'n1', 'scale', 84)));
    const lifted = expose('lift', 'edge', 'n2');
    expect(document.groups[groupId]?.dials[0]?.drives[0]).toEqual({
      node: 'n1',
      input: 'scale',
      law: 'times',
    });
    expect(look(setValue(lifted.document, null, nodeId, lifted.dialId, 1.5))).toEqual(
      look(setValue(grouped.document, groupId, 'n2', 'edge', 0.4 + 0.5 * 0.4)),
    );
  });

  it('drive several values, keep their order, and go away cleanly', () => {
    const first = expose('times');
    const both = addDrive(first.document, groupId, first.dialId, 'n2', 'edge');
    expect(both.groups[groupId]?.dials[0]?.drives).toHaveLength(2);
    const second = addDial(both, groupId, 'n2', 'width', 'times', 'Softness');
    expect(
      moveDial(second?.document ?? both, groupId, 'd2', -1).groups[groupId]?.dials.map(
        (dial) => dial.name,
      ),
    ).toEqual(['Softness', 'Grain']);
    expect(
      changeDial(both, groupId, first.dialId, { name: 'Size' }).groups[groupId]?.dials[0]?.name,
    ).toBe('Size');
    expect(look(removeDial(both, groupId, first.dialId))).toEqual(look(grouped.document));
  });

  it('warn that times is dead on a designed 0, and offer colours as they are', () => {
    const zero = setValue(grouped.document, groupId, 'n2', 'edge', 0);
    expect(offerDial(zero, groupId, 'n2', 'edge')?.warning).toContain('lift');
    expect(offerDial(zero, groupId, 'n4', 'over')).toMatchObject({
      kind: 'colour',
      laws: ['as is', 'times', 'lift'],
    });
    expect(offerDial(zero, groupId, 'n3', 'stops')).toMatchObject({ kind: 'ramp' });
    expect(offerDial(zero, groupId, 'n2', 'value')).toMatchObject({
      isWired: true,
      laws: ['times', 'lift', 'blend', 'power'],
    });
  });

  it('can be wired: the same law applies per point', () => {
    const { document, dialId } = expose('times');
    const wired = connect(
      document,
      null,
      { node: 'n6', output: 'slope' },
      { node: nodeId, input: dialId },
    );
    expect(getNetwork(wired, null).strands.length).toBe(
      getNetwork(document, null).strands.length + 1,
    );
    expect(look(wired)).not.toEqual(look(document));
  });
});

describe('the structure key', () => {
  it('stays when values, names and places change; changes with options and strands', () => {
    const document = painted();
    const key = structureKey(document);
    expect(structureKey(setValue(document, null, 'n1', 'scale', 7))).toBe(key);
    expect(structureKey({ ...document, name: 'Other' })).toBe(key);
    expect(structureKey(setOption(document, null, 'n1', 'fold', 'ridged'))).not.toBe(key);
    expect(structureKey(removeNodes(document, null, ['n6']))).not.toBe(key);
  });
});

describe('a group that is packaged before its end is wired', () => {
  it('has an output for each open end, of its kind, which can be wired at once', () => {
    const open = documentOf(
      [
        node('noise', 'patterns.noise'),
        node('step', 'ranges.smoothstep'),
        node('tint', 'gradients.ramp'),
        node('paint', 'surface.surface'),
      ],
      ['noise:value > step:value', 'noise:value > tint:value'],
    );
    const ids = ['noise', 'step', 'tint', 'paint'];
    const source = { materialId: 'm', revision: 1 };
    const made = groupSelection(open, { board: null, ids, name: 'Open', path: [], source });
    const group = made.document.groups[made.groupId];
    expect(group?.outputs.map(({ name, kind }) => [name, kind])).toEqual([
      ['Mask', 'scalar'],
      ['Colour', 'colour'],
      ['Surface', 'surface'],
    ]);
    expect(Object.values(group?.origin?.outputs ?? {}).map(({ node: id }) => id)).toEqual([
      'step',
      'tint',
      'paint',
    ]);
    expect(checkReferences(made.document).filter(({ severity }) => severity === 'error')).toEqual(
      [],
    );
    const inside = groupSelection(open, { board: null, ids: ['noise'], name: 'In', path: [] });
    // What is used outside is all that goes out, as before.
    expect(inside.document.groups[inside.groupId]?.outputs).toHaveLength(1);
  });
});
