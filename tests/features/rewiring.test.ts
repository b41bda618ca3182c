/** One act that rewires: exchange, swap, switch off, insert, repeat, linked copies. */
import { checkReferences } from '@/core/compile/check/check';
import { hasErrors } from '@/core/base/diagnostic';
import { describePorts } from '@/core/compile/catalogue';
import { complementInput, maskInput } from '@/core/edit/complement';
import { exchangeNode, swapInputs, swappableInputs } from '@/core/edit/exchange';
import { addNode, setOption, setValue } from '@/core/edit/nodes';
import { findListChain, repeatChain } from '@/core/edit/repeat';
import { insertIntoStrand, setConversion } from '@/core/edit/strands';
import { addTwin, partTwin, spreadToTwins, twinsOf } from '@/core/edit/twins';
import { changeNode } from '@/core/edit/board';
import { groupSelection } from '@/core/edit/group';
import { addDial } from '@/core/edit/dials';
import type { NetworkDocument, NodeInstance } from '@/core/graph/document';
import { NODES } from '@/core/nodes/registry.generated';
import { seededRandom } from '@/core/base/random';
import { documentOf, node, optionVariants } from '../support/networks';
import { outputAt as lanesAt } from '../support/evaluate';

const find = ({ network }: NetworkDocument, id: string): NodeInstance => {
  const found = network.nodes.find((each) => each.id === id);
  if (!found) throw new Error(`no node ${id}`);
  return found;
};
const strandsOf = ({ network }: NetworkDocument): readonly string[] =>
  network.strands
    .map(({ from, to }) => `${from.node}:${from.output} > ${to.node}:${to.input}`)
    .sort();
/** An output at one point, lane by lane. */
const outputAt = (document: NetworkDocument, key: string): readonly number[] =>
  lanesAt(document, key, { 'position.x': [0.31] }, 1).map(([value]) => value ?? Number.NaN);
const valueAt = (document: NetworkDocument, key: string): number => outputAt(document, key)[0] ?? 0;
const surfaceOf = (document: NetworkDocument): readonly (readonly number[])[] =>
  lanesAt(document, 'n1:surface', {}, 1, { surface: true, taps: [] });
const isSound = (document: NetworkDocument): boolean => !hasErrors(checkReferences(document));
const off = (document: NetworkDocument, id: string): NetworkDocument =>
  changeNode(document, null, id, (each) => ({ ...each, off: true }));

const rough = documentOf(
  [
    node('n1', 'patterns.noise', { scale: 42, seed: 3 }),
    node('n2', 'ranges.smoothstep', { edge: 0.4 }),
    node('n3', 'surface.surface'),
  ],
  ['n1:value > n2:value', 'n2:mask > n3:roughness', 'n3:surface > @out:surface'],
);

describe('a node exchanged in place', () => {
  it('keeps its place, strands of the same name or kind, and values that mean the same', () => {
    const made = exchangeNode(rough, null, 'n1', { type: 'patterns.fractal-noise' });
    expect(made).toMatchObject({ kept: 1, lost: 0 });
    expect(find(made?.document ?? rough, 'n1')).toMatchObject({
      type: 'patterns.fractal-noise',
      at: find(rough, 'n1').at,
      values: { scale: 42, seed: 3 },
    });
    expect(strandsOf(made?.document ?? rough)).toEqual(strandsOf(rough));
    expect(isSound(made?.document ?? rough)).toBe(true);
  });
  it('finds the fitting port where names differ, and says what found none', () => {
    const made = exchangeNode(rough, null, 'n1', { type: 'patterns.image' });
    expect(made).toMatchObject({ kept: 1, lost: 0 });
    expect(isSound(made?.document ?? rough)).toBe(true);
    const surface = exchangeNode(rough, null, 'n1', { type: 'surface.surface' });
    expect(surface).toMatchObject({ kept: 0, lost: 1 });
    expect(exchangeNode(rough, null, 'n9', { type: 'patterns.noise' })).toBeNull();
    expect(exchangeNode(rough, null, 'n1', { type: 'patterns.none' })).toBeNull();
  });
  it('keeps what both can hold, though one has it as its default: the look stays', () => {
    const colour = [0.7, 0.3, 0.1] as const;
    const given = documentOf([
      node('n1', 'colour.hue-saturation-value', { colour, hue: 60, saturation: 1.3 }),
    ]);
    const made = exchangeNode(given, null, 'n1', { type: 'colour.correct' });
    expect(made?.unkept).toEqual([]);
    const [before, after] = [given, made?.document ?? given].map((each) =>
      outputAt(each, 'n1:colour'),
    );
    after?.forEach((channel, k) => {
      expect(channel).toBeCloseTo(before?.[k] ?? NaN, 5);
    });
    const back = exchangeNode(made?.document ?? given, null, 'n1', {
      type: 'colour.hue-saturation-value',
    });
    expect(find(back?.document ?? given, 'n1')).toEqual(find(given, 'n1'));
  });
  it('keeps or names every value and every choice, whichever node takes the place', () => {
    let named = 0;
    for (const [seed, from] of NODES.entries()) {
      const random = seededRandom(seed + 1);
      const values = Object.fromEntries(
        Object.entries(from.inputs).flatMap(([id, { kind }]) =>
          kind === 'scalar' || kind === 'flex' || kind === 'fixed' ? [[id, random()]] : [],
        ),
      );
      for (const options of optionVariants(from))
        for (const to of NODES) {
          if (to.family !== from.family || to === from) continue;
          const bare = node('n', from.id, {}, options);
          const shown = new Set(
            describePorts(documentOf([bare]), bare)?.inputs.map(({ id }) => id),
          );
          const set = Object.entries(values).filter(([id]) => shown.has(id));
          const given = documentOf([{ ...bare, values: Object.fromEntries(set) }]);
          const made = exchangeNode(given, null, 'n', { type: to.id });
          const taken = find(made?.document ?? given, 'n');
          const unkept = made?.unkept ?? [];
          expect(Object.keys(taken.values).length + unkept.length).toBeGreaterThanOrEqual(
            set.length,
          );
          for (const [id, choice] of Object.entries(options)) {
            const next = to.options[id];
            if (!next?.choices.some(({ value }) => value === choice)) continue;
            expect([from.id, to.id, id, taken.options[id] ?? next.default]).toEqual([
              from.id,
              to.id,
              id,
              choice,
            ]);
          }
          named += unkept.length;
        }
    }
    expect(named).toBeGreaterThan(100);
  });
  it('keeps the drives of dials whose input is still there, and drops the others', () => {
    const grouped = groupSelection(rough, {
      board: null,
      ids: ['n1', 'n2'],
      name: 'Grain',
      path: [],
      source: { materialId: 'm', revision: 1 },
    });
    const dialled = addDial(grouped.document, grouped.groupId, 'n1', 'scale', 'times', 'Size');
    const inside = dialled?.document ?? rough;
    const drives = (document: NetworkDocument) =>
      document.groups[grouped.groupId]?.dials[0]?.drives.map(({ input }) => input);
    const kept = exchangeNode(inside, grouped.groupId, 'n1', { type: 'patterns.fractal-noise' });
    expect(drives(kept?.document ?? rough)).toEqual(['scale']);
    const gone = exchangeNode(inside, grouped.groupId, 'n1', { type: 'model.slope' });
    expect(drives(gone?.document ?? rough)).toEqual([]);
    expect(isSound(gone?.document ?? rough)).toBe(true);
  });
});

describe('two inputs swapped', () => {
  const blend = documentOf(
    [
      node('n1', 'constants.number', { value: 0.25 }),
      node('n2', 'math.mix', { b: 0.75, amount: 0.3 }),
      node('n3', 'math.math', { b: 4 }, { operation: 'subtract' }),
    ],
    ['n1:value > n3:a'],
  );
  it('takes strands and values along', () => {
    const swapped = swapInputs(blend, null, 'n3', ['a', 'b']);
    expect(strandsOf(swapped)).toEqual(['n1:value > n3:b']);
    expect(valueAt(swapped, 'n3:value')).toBeCloseTo(4 - 0.25, 6);
    expect(valueAt(blend, 'n3:value')).toBeCloseTo(0.25 - 4, 6);
    expect(strandsOf(swapInputs(swapped, null, 'n3', ['a', 'b']))).toEqual(strandsOf(blend));
  });
  it('with the mask complemented the result is the same', () => {
    const mix = find(blend, 'n2');
    const [pair] = swappableInputs(blend, mix);
    const mask = maskInput(blend, mix);
    expect(pair?.map(({ id }) => id)).toEqual(['a', 'b']);
    expect(mask).toBeDefined();
    const swapped = swapInputs(blend, null, 'n2', ['a', 'b']);
    const same = complementInput(swapped, null, 'n2', mask ?? '');
    expect(valueAt(same, 'n2:value')).toBeCloseTo(valueAt(blend, 'n2:value'), 6);
  });
  it('a wired mask gets an inversion, and loses it the second time', () => {
    const wired = documentOf(
      [node('n1', 'model.slope'), node('n2', 'math.mix')],
      [`n1:slope > n2:${maskInput(blend, find(blend, 'n2')) ?? ''}`],
    );
    const input = maskInput(wired, find(wired, 'n2')) ?? '';
    const once = complementInput(wired, null, 'n2', input);
    expect(once.network.nodes).toHaveLength(3);
    expect(isSound(once)).toBe(true);
    const twice = complementInput(once, null, 'n2', input);
    expect(strandsOf(twice)).toEqual(strandsOf(wired));
  });
});

describe('a node that is off', () => {
  it('passes what it gets at its first fitting input, wired or typed', () => {
    const bent = documentOf(
      [
        node('n1', 'constants.number', { value: 0.3 }),
        node('n2', 'math.math', { b: 5 }, { operation: 'multiply' }),
        node('n3', 'ranges.threshold'),
        node('n4', 'gradients.ramp'),
      ],
      ['n1:value > n2:a', 'n2:value > n3:value', 'n2:value > n4:value'],
    );
    expect(valueAt(bent, 'n2:value')).toBeCloseTo(1.5, 6);
    expect(valueAt(off(bent, 'n2'), 'n2:value')).toBeCloseTo(0.3, 6);
    expect(valueAt(off(off(bent, 'n2'), 'n3'), 'n3:mask')).toBeCloseTo(0.3, 6);
    expect(outputAt(off(off(bent, 'n2'), 'n4'), 'n4:colour').map((x) => x.toFixed(4))).toEqual([
      '0.3000',
      '0.3000',
      '0.3000',
    ]);
    expect(valueAt(off(bent, 'n4'), 'n4:alpha')).toBe(1);
    const typed = setValue(documentOf([node('n1', 'math.math')], []), null, 'n1', 'a', 0.8);
    expect(valueAt(off(typed, 'n1'), 'n1:value')).toBeCloseTo(0.8, 6);
  });
  it('a source passes nothing: its settings are not what it is about', () => {
    expect(valueAt(off(rough, 'n1'), 'n1:value')).toBe(0);
    expect(isSound(off(rough, 'n1'))).toBe(true);
  });
  it('a layer passes what is under it, a group what is wired into it', () => {
    const layers = documentOf(
      [
        node('n1', 'surface.surface', { roughness: 0.2 }),
        node('n2', 'surface.surface', { roughness: 0.9 }),
        node('n3', 'surface.layer', { where: 1 }),
      ],
      ['n1:surface > n3:under', 'n2:surface > n3:over', 'n3:surface > @out:surface'],
    );
    const [with3, without] = [layers, off(layers, 'n3')].map((each) => surfaceOf(each));
    const bare = documentOf(
      [node('n1', 'surface.surface', { roughness: 0.2 })],
      ['n1:surface > @out:surface'],
    );
    expect(without).toEqual(surfaceOf(bare));
    expect(with3).not.toEqual(without);
  });
});

describe('a node put on a strand', () => {
  it.each([
    ['multiply', 1],
    ['add', 0],
  ])('with %s changes nothing as it comes', (operation, neutral) => {
    const added = addNode(rough, null, 'math.math', [0, 0], undefined, { operation });
    const strand = added.document.network.strands[0]?.id ?? '';
    const inserted = insertIntoStrand(added.document, null, strand, added.id);
    expect(find(inserted, added.id).values).toEqual({ b: neutral });
    expect(valueAt(inserted, 'n2:mask')).toBe(valueAt(rough, 'n2:mask'));
  });
});

describe('a strand that carries one channel', () => {
  it('fills a colour or a flexible input with it', () => {
    const red = documentOf(
      [
        node('n1', 'constants.colour', { colour: [0.1, 0.6, 0.3] }),
        node('n2', 'math.math', { b: 2 }, { operation: 'multiply' }),
        node('n3', 'colour.blend', { amount: 0 }),
      ],
      ['n1:colour > n2:a', 'n1:colour > n3:under'],
    );
    const [first, second] = red.network.strands.map(({ id }) => id);
    const routed = setConversion(
      setConversion(red, null, first ?? '', 'second'),
      null,
      second ?? '',
      'first',
    );
    expect(outputAt(routed, 'n2:value')).toEqual([Math.fround(0.6) * 2]);
    for (const lane of outputAt(routed, 'n3:colour')) expect(lane).toBeCloseTo(0.1, 6);
  });
});

describe('a chain repeated into a list', () => {
  const one = documentOf(
    [
      node('n1', 'model.beacon', { place: [0, 0, 0], extent: [0.2, 0.2, 0.2] }),
      node('n2', 'ranges.smoothstep', { edge: 0.5 }),
      node('n3', 'masks.union'),
      node('n4', 'patterns.noise', { seed: 7 }),
    ],
    ['n1:distance > n2:value', 'n2:mask > n3:masks', 'n4:value > n2:width'],
  );
  it('finds the chain by its end, and repeats it with other places', () => {
    const chain = findListChain(one, null, ['n1', 'n2']);
    expect(chain?.ids).toEqual(['n1', 'n2']);
    const made = repeatChain(one, null, chain ?? ({} as never), 5, { parts: [], box: null });
    expect(made.document.network.nodes.filter(({ type }) => type === 'model.beacon')).toHaveLength(
      5,
    );
    expect(strandsOf(made.document).filter((each) => each.endsWith('n3:masks'))).toHaveLength(5);
    expect(strandsOf(made.document).filter((each) => each.startsWith('n4:'))).toHaveLength(5);
    const places = made.document.network.nodes.flatMap(({ values }) =>
      values['place'] ? [JSON.stringify(values['place'])] : [],
    );
    expect(new Set(places).size).toBe(5);
    expect(isSound(made.document)).toBe(true);
  });
  it.each([2, 3, 5, 8, 32])('puts all %d places on the model, and names them apart', (count) => {
    const box = { minimum: [-3, 0, 1], extent: [2, 4, 1], size: 4.6 } as const;
    for (const measure of ['relative', 'units']) {
      const place = measure === 'units' ? ([-2, 2, 1.5] as const) : ([0, 0, 0] as const);
      const start = documentOf(
        [node('n1', 'model.beacon', { place }, { measure }), node('n3', 'masks.nearest-of')],
        ['n1:distance > n3:distances'],
      );
      const chain = findListChain(start, null, ['n1']);
      const made = repeatChain(start, null, chain ?? ({} as never), count, { parts: [], box });
      const beacons = made.document.network.nodes.filter(({ type }) => type === 'model.beacon');
      const heights = beacons.map(({ values }) => (values['place'] as readonly number[])[1] ?? 0);
      const metres = heights.map((y) => (measure === 'units' ? y : 2 + y * box.size));
      expect(Math.min(...metres)).toBeGreaterThanOrEqual(0);
      expect(Math.max(...metres)).toBeLessThanOrEqual(4);
      expect(new Set(heights).size).toBe(count);
      expect(new Set(beacons.map(({ name }) => name)).size).toBe(count);
    }
  });
  it('of a single node takes all that feeds nothing else', () => {
    expect(findListChain(one, null, ['n2'])?.ids.toSorted()).toEqual(['n1', 'n2', 'n4']);
    expect(findListChain(one, null, ['n4'])).toBeNull();
    expect(findListChain(one, null, [])).toBeNull();
  });
  it('gives each copy the next part and the next direction', () => {
    const parts = documentOf(
      [
        setOption(documentOf([node('n1', 'model.proximity')], []), null, 'n1', 'part', 'Hull')
          .network.nodes[0] as NodeInstance,
        node('n2', 'masks.union'),
      ],
      ['n1:t > n2:masks'],
    );
    const chain = findListChain(parts, null, ['n1']);
    const made = repeatChain(parts, null, chain ?? ({} as never), 3, {
      parts: ['Hull', 'Ring', 'Bolts'],
      box: null,
    });
    expect(made.document.network.nodes.flatMap(({ options }) => options['part'] ?? [])).toEqual([
      'Hull',
      'Ring',
      'Bolts',
    ]);
  });
});

describe('linked copies', () => {
  const twin = addTwin(rough, null, 'n2');
  const made = twin?.document ?? rough;
  const copy = twin?.id ?? '';
  const edit = (change: (document: NetworkDocument) => NetworkDocument, from = made) =>
    spreadToTwins(from, change(from), null);

  it('are fed alike and edited once, from either side', () => {
    expect(twinsOf(made.network, 'n2').map(({ id }) => id)).toEqual([copy]);
    expect(strandsOf(made)).toContain(`n1:value > ${copy}:value`);
    const edited = edit((document) => setValue(document, null, copy, 'edge', 0.7));
    expect(find(edited, 'n2').values).toEqual({ edge: 0.7 });
    const named = edit((document) =>
      changeNode(document, null, 'n2', (each) => ({ ...each, name: 'Edge', off: true })),
    );
    expect(find(named, copy)).toMatchObject({ name: 'Edge', off: true });
    expect(find(named, copy).at).toEqual(find(made, copy).at);
  });
  it('are rewired together', () => {
    const added = addNode(made, null, 'model.slope', [0, 0]);
    const strand = added.document.network.strands.find(({ to }) => to.node === 'n2')?.id ?? '';
    const rewired = edit(
      (document) => ({
        ...document,
        network: {
          ...document.network,
          strands: document.network.strands.map((each) =>
            each.id === strand ? { ...each, from: { node: added.id, output: 'slope' } } : each,
          ),
        },
      }),
      added.document,
    );
    expect(strandsOf(rewired)).toContain(`${added.id}:slope > ${copy}:value`);
    expect(strandsOf(rewired)).not.toContain(`n1:value > ${copy}:value`);
  });
  it('part on purpose; what is duplicated is no link', () => {
    const parted = partTwin(made, null, copy);
    expect(parted.network.nodes.some((each) => each.twin !== undefined)).toBe(false);
    expect(edit((document) => setValue(document, null, copy, 'edge', 0.7), parted)).toMatchObject({
      network: {
        nodes: expect.arrayContaining([
          expect.objectContaining({ id: 'n2', values: { edge: 0.4 } }),
        ]) as unknown,
      },
    });
  });
});
