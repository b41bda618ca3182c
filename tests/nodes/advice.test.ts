import { compileNetwork, uniformsFor } from '@/core/compile/compile';
import { WasmRunner } from '@/core/backends/wasm/runner';
import { adviseDocument, adviseNode } from '@/core/advice/advise';
import { listPlaces } from '@/core/advice/places';
import { watchedIn } from '@/core/advice/watched';
import { cureAdvice } from '@/core/edit/advice-cures';
import { lightLamp } from '@/core/edit/lights';
import { idleInputs } from '@/core/compile/catalogue';
import { NODES } from '@/core/nodes/registry.generated';
import type { InputValue, NetworkDocument, NodeInstance } from '@/core/graph/document';
import { TEST_SCALE, documentOf, node } from '../support/networks';

/** Advice of a document over points whose x runs from `from` to `to`, by code, with its message. */
function adviceOn(document: NetworkDocument, from = 0, to = 1): Map<string, string> {
  const count = 101;
  const compiled = compileNetwork(document, {
    surface: false,
    taps: 'all',
    watched: watchedIn(document),
  });
  const runner = new WasmRunner(compiled.program);
  runner.setUniforms(uniformsFor(compiled, document, TEST_SCALE));
  const outputs = compiled.program.outputs.map(() => new Float32Array(count));
  runner.run(
    (name) =>
      name === 'position.x'
        ? Float32Array.from({ length: count }, (_, k) => from + ((to - from) * k) / (count - 1))
        : new Float32Array(count),
    count,
    outputs,
  );
  return new Map(
    adviseDocument(document, compiled, outputs)
      // None of these documents has an end.
      .filter(({ node: at, code }) => at.endsWith('n') && code !== 'node.unused')
      .map(({ code, message }) => [code, message]),
  );
}
const fed = (
  type: string,
  input: string,
  values: Record<string, InputValue> = {},
  options: Record<string, string> = {},
): NetworkDocument =>
  documentOf([node('p', 'model.position'), node('n', type, values, options)], [`p:x > n:${input}`]);

describe('advice from values', () => {
  it('gives the shares outside 0–1, and says what is constant', () => {
    const advice = adviceOn(fed('math.math', 'a', { b: 0 }, { operation: 'add' }), -0.5, 1.5);
    // 101 points from −0.5 to 1.5: 25 below 0 and 25 above 1.
    expect(advice.get('value.below')).toBe('25 % of the surface lies below 0');
    expect(advice.get('value.above')).toBe('25 % of the surface lies above 1');
    expect(
      adviceOn(documentOf([node('n', 'constants.number', { value: 0.5 })])).get('value.constant'),
    ).toBe('The same value over the whole surface');
    expect(adviceOn(fed('math.math', 'a', { b: 0 }, { operation: 'add' })).size).toBe(0);
  });
  it('advises a limit for shares and colours only, whatever the node', () => {
    // An index of 1.5, a place in metres, a distance and a count are right above 1.
    const beyond = [
      documentOf([node('n', 'optics.measured')]),
      documentOf([node('n', 'optics.reflectance', { index: 1.5 })]),
      documentOf([node('n', 'constants.number', { value: 7 })]),
      fed('masks.nearest-of', 'distances'),
      documentOf([node('n', 'model.slope', {}, {})]),
    ];
    for (const document of beyond) {
      const advice = adviceOn(document, -2, 2);
      expect([...advice.keys()].filter((code) => /^value.(above|below)$/.test(code))).toEqual([]);
    }
  });
  it('what is multiplied by 0, for every such input of the catalogue', () => {
    let count = 0;
    for (const definition of NODES)
      for (const [id, { factor, kind }] of Object.entries(definition.inputs)) {
        if (factor === undefined) continue;
        count++;
        expect(definition.inputs[factor]?.kind).toBe('scalar');
        const source = kind === 'colour' ? 'c:colour' : 'v:value';
        const wired = (value: number): NetworkDocument =>
          documentOf(
            [
              node('c', 'constants.colour'),
              node('v', 'constants.number'),
              node('n', definition.id, { [factor]: value }),
            ],
            [`${source} > n:${id}`],
          );
        const said = adviceOn(wired(0)).get('factor.idle');
        expect([id, said]).toEqual([id, expect.stringContaining('does nothing')]);
        expect([id, adviceOn(wired(0.5)).get('factor.idle')]).toEqual([id, undefined]);
      }
    expect(count).toBeGreaterThan(5);
  });
  it('a level that no clear body has', () => {
    const level = (value: number): NetworkDocument =>
      documentOf([node('n', 'optics.reflectance', { level: value }, { from: 'level' })]);
    expect(adviceOn(level(14)).get('range.left')).toContain('limited everywhere');
    expect(adviceOn(level(0.5)).has('range.left')).toBe(false);
  });
  it('a clamp that changes nothing', () => {
    expect(adviceOn(fed('ranges.clamp', 'value')).get('clamp.idle')).toContain(
      'changes nothing: what arrives lies between 0.00 and 1.00',
    );
    expect(adviceOn(fed('ranges.clamp', 'value'), 0, 1.2).has('clamp.idle')).toBe(false);
    expect(adviceOn(fed('ranges.clamp', 'value', { lowest: 0.1 })).has('clamp.idle')).toBe(false);
  });
  it('an amount that leaves 0–1, with a cure only where it goes on', () => {
    expect(
      adviceOn(fed('math.mix', 'amount', {}, { limit: 'no' }), 0, 2).get('amount.leaves-range'),
    ).toMatch(/leaves 0–1 on 50 % of the surface \(0\.00 to 2\.00\)\. Limit it\?/);
    expect(adviceOn(fed('math.mix', 'amount'), 0, 2).get('amount.leaves-range')).toContain(
      'it is limited',
    );
    expect(adviceOn(fed('math.mix', 'amount')).has('amount.leaves-range')).toBe(false);
  });
  it('a layer that hides all, or is not to be seen', () => {
    expect(
      adviceOn(documentOf([node('n', 'surface.layer', { where: 1 })])).get('layer.covered'),
    ).toContain('0 % of the lower surface remains visible');
    expect(
      adviceOn(documentOf([node('n', 'surface.layer', { amount: 0 })])).has('layer.unseen'),
    ).toBe(true);
    const between = adviceOn(fed('surface.layer', 'where'));
    expect(between.has('layer.covered') || between.has('layer.unseen')).toBe(false);
  });
  it('stops of a ramp that no value reaches', () => {
    const stop = (
      position: number,
    ): {
      id: string;
      position: number;
      colour: [number, number, number];
      alpha: number;
      segment: 'linear';
    } => ({
      id: `s${String(position)}`,
      position,
      colour: [position, position, position],
      alpha: 1,
      segment: 'linear',
    });
    const stops = { stops: [stop(0.9), stop(0), stop(0.5), stop(0.7)] };
    expect(
      adviceOn(fed('gradients.ramp', 'value', { stops }), 0, 0.4).get('ramp.unreached'),
    ).toContain('reaches stop 3, 4 of 4: the values run from 0.00 to 0.40');
    expect(adviceOn(fed('gradients.ramp', 'value', { stops }), 0, 1).has('ramp.unreached')).toBe(
      false,
    );
  });
  it('a tint without strength, once a tint was chosen', () => {
    const tint: [number, number, number] = [1, 0, 0];
    expect(
      adviceOn(documentOf([node('n', 'colour.correct', { tint })])).get('tint.idle'),
    ).toContain('its strength is 0');
    expect(adviceOn(documentOf([node('n', 'colour.correct')])).has('tint.idle')).toBe(false);
    expect(
      adviceOn(documentOf([node('n', 'colour.correct', { tint, strength: 0.3 })])).has('tint.idle'),
    ).toBe(false);
    expect(adviceOn(fed('colour.correct', 'strength', { tint })).has('tint.idle')).toBe(false);
  });
  it('what a limit or a clamp cuts is said at the node, channel by channel', () => {
    const limited = (document: NetworkDocument): NetworkDocument => ({
      ...document,
      network: {
        ...document.network,
        nodes: document.network.nodes.map((each) =>
          each.id === 'n' ? { ...each, limited: true as const } : each,
        ),
      },
    });
    const colours = documentOf(
      [
        node('p', 'model.position'),
        node('q', 'math.combine', { y: 1.5, z: -0.25 }),
        node('n', 'colour.correct', {}),
      ],
      ['p:x > q:x', 'q:vector > n:colour'],
    );
    const said = adviceOn(limited(colours), -0.5, 1.5).get('value.cut');
    expect(said).toContain('red below 0 on 25 % of the surface (down to -0.5)');
    expect(said).toContain('green above 1 on 100 % of the surface (up to 1.5)');
    expect(said).toContain('blue below 0 on 100 %');
    expect(adviceOn(limited(colours), 0, 1).get('value.cut')).not.toContain('red');
    const within = fed('math.math', 'a', { b: 0 }, { operation: 'add' });
    expect(adviceOn(limited(within), 0, 1).has('value.cut')).toBe(false);
    const cut = adviceOn(fed('ranges.clamp', 'value', { lowest: 0.25, highest: 0.5 }));
    expect(cut.get('value.cut')).toBe('It cuts below 0.25 (down to 0), above 0.5 (up to 1).');
    expect(adviceOn(fed('ranges.levels', 'value', { inBlack: 0.5 })).get('value.cut')).toBe(
      'It cuts below 0.5 (down to 0).',
    );
    expect(
      adviceOn(fed('ranges.remap', 'value', { inHigh: 0.5 }, { limit: 'no' })).has('value.cut'),
    ).toBe(false);
    expect(adviceOn(fed('ranges.posterise', 'value'), 0, 2).get('value.cut')).toContain(
      'above 1 on',
    );
  });
  it('a side without hue in a mode that takes one says so, in both orders', () => {
    const modes = ['hue', 'saturation', 'colour', 'multiply', 'value', 'normal'];
    const hueless = (over: readonly [number, number, number], order = 'given'): string[] =>
      modes.filter((mode) =>
        adviceOn(
          documentOf([
            node(
              'n',
              'colour.blend',
              { over, under: order === 'given' ? [0.2, 0.5, 0.1] : over },
              { mode, order },
            ),
          ]),
        ).has('hue.none'),
      );
    expect(hueless([0, 0, 0])).toEqual(['hue', 'saturation', 'colour']);
    expect(hueless([0.3, 0.3, 0.3], 'swapped')).toEqual(['hue', 'saturation', 'colour']);
    expect(hueless([0.3, 0.3, 0.31])).toEqual([]);
  });
  it('a transmission colour near black says how little it lets through', () => {
    const glass = (transmissionColour: readonly [number, number, number], transmission: number) =>
      adviceOn(
        documentOf([node('n', 'surface.surface', { transmissionColour, transmission })]),
      ).get('transmission.dark');
    expect(glass([0.03, 0.015, 0.022], 1)).toContain('at most 3 % of the light');
    expect(glass([0.03, 0.015, 0.022], 0)).toBeUndefined();
    expect(glass([0.3, 0.015, 0.022], 1)).toBeUndefined();
  });
  it('equal in-ends', () => {
    expect(
      adviceOn(fed('ranges.remap', 'value', { inLow: 0.3, inHigh: 0.3 })).get('range.flat'),
    ).toContain('hard step');
    expect(adviceOn(fed('ranges.levels', 'value')).has('range.flat')).toBe(false);
  });
  it('offers no limit for a vector, which has every right to leave 0–1', () => {
    const cures = (formula: string, kind: 'vector' | 'scalar'): (string | undefined)[] => {
      const document = documentOf([node('n', 'math.formula', { formula: { formula } })]);
      const [place] = listPlaces(document);
      if (!place) throw new Error('no node');
      return adviseNode(place, () => ({
        minimum: -1,
        maximum: 2,
        below: 0.5,
        above: 0.5,
        notANumber: 0,
        constant: false,
        mean: 0.5,
        kind,
      }))
        .filter(({ code }) => code !== 'node.unused')
        .map((each) => each.cure?.title);
    };
    expect(cures('vec3(a)', 'vector')).toEqual([undefined, undefined]);
    expect(cures('a', 'scalar')).toEqual(['Limit to 0–1', 'Limit to 0–1']);
  });
  it('finds nodes inside groups, with the path and the pointer of their place', () => {
    const inner = documentOf(
      [node('c', 'ranges.clamp')],
      ['@in:g > c:value', 'c:value > @out:o'],
    ).network;
    const document: NetworkDocument = {
      ...documentOf(
        [node('p', 'model.position'), { ...node('w', 'group'), group: 'G' }],
        ['p:x > w:g'],
      ),
      groups: {
        G: {
          id: 'G',
          name: 'G',
          description: '',
          inputs: [{ id: 'g', name: 'g', kind: 'scalar' }],
          outputs: [{ id: 'o', name: 'o', kind: 'scalar' }],
          dials: [],
          network: inner,
        },
      },
    };
    expect(
      listPlaces(document).map((place) => [place.path.join('/'), place.node.id, place.pointer]),
    ).toEqual([
      ['', 'p', '/network/nodes/0'],
      ['', 'w', '/network/nodes/1'],
      ['w', 'c', '/groups/G/network/nodes/0'],
    ]);
  });
});

describe('what is said where something is missing', () => {
  const codesAt = (document: NetworkDocument, id: string): readonly string[] => {
    const found = document.network.nodes.find((each) => each.id === id) as NodeInstance;
    return adviseNode({ document, network: document.network, path: [], node: found }, () => null)
      .map(({ code }) => code)
      .filter((code) => code !== 'node.unused');
  };
  it('a node that shapes values says that it gets none; a driven or wired one does not', () => {
    const bare = documentOf([node('n1', 'ranges.levels'), node('n2', 'math.math')]);
    expect(codesAt(bare, 'n1')).toEqual(['input.no-source']);
    expect(codesAt(bare, 'n2')).toEqual([]);
    const wired = documentOf(
      [node('n1', 'ranges.levels'), node('n3', 'model.slope')],
      ['n3:slope > n1:value'],
    );
    expect(codesAt(wired, 'n1')).toEqual([]);
    const off = documentOf([{ ...node('n1', 'ranges.levels'), off: true }]);
    expect(codesAt(off, 'n1')).toEqual([]);
  });
  it('a card that nothing depends on says so, on any board, and its cure removes it', () => {
    const document = documentOf(
      [
        node('n1', 'patterns.noise'),
        node('n2', 'ranges.levels'),
        node('n3', 'patterns.noise'),
        node('n4', 'surface.surface'),
      ],
      ['n3:value > n4:roughness', 'n1:value > n2:value', 'n4:surface > @out:surface'],
    );
    const places = listPlaces(document).map((place) => ({
      id: place.node.id,
      unused: adviseNode(place, () => null).find(({ code }) => code === 'node.unused'),
    }));
    expect(places.filter(({ unused }) => unused).map(({ id }) => id)).toEqual(['n1', 'n2']);
    const cure = places[0]?.unused?.cure;
    if (!cure) throw new Error('no cure');
    const { network } = cureAdvice(document, null, 'n1', cure);
    expect(network.nodes.map(({ id }) => id)).toEqual(['n2', 'n3', 'n4']);
  });
  it('one direction in place of the surface’s own says so wherever a normal is meant', () => {
    const typed = Object.values(NODES).flatMap(({ id, family, inputs }) =>
      Object.entries(inputs)
        .filter(([, port]) => port.kind === 'vector' && port.default === 'normal')
        // What the choice at hand does not read misleads nobody.
        .filter(([input]) => !idleInputs(node('n', id)).includes(input))
        .map(([input]) => ({ id, input, isSaid: family !== 'math' })),
    );
    expect(typed.length).toBeGreaterThan(10);
    for (const { id, input, isSaid } of typed) {
      const fixed = documentOf([node('n', id, { [input]: [0, 1, 0] })]);
      const wired = documentOf(
        [node('n', id), node('v', 'constants.vector')],
        [`v:vector > n:${input}`],
      );
      expect([id, codesAt(fixed, 'n').includes('normal.fixed')]).toEqual([id, isSaid]);
      expect([id, codesAt(wired, 'n').includes('normal.fixed')]).toEqual([id, isSaid]);
      expect(codesAt(documentOf([node('n', id)]), 'n')).not.toContain('normal.fixed');
    }
  });
  it('whoever asks for light says where there is none, and lights a lamp', () => {
    const lamps = (...intensities: number[]): NetworkDocument['lights'] =>
      intensities.map((intensity, k) => ({
        id: `l${String(k)}`,
        name: `Lamp ${String(k)}`,
        kind: 'far',
        at: [0, 1, 0],
        colour: [1, 1, 1],
        intensity,
      }));
    const asking = (which: string, lights: NetworkDocument['lights']): NetworkDocument => ({
      ...documentOf([node('n', 'model.light-response', {}, { light: which })]),
      lights: lights ?? [],
    });
    const isDark = (document: NetworkDocument): boolean =>
      codesAt(document, 'n').includes('light.none');
    expect(isDark(asking('all', lamps()))).toBe(true);
    expect(isDark(asking('all', lamps(0, 0)))).toBe(true);
    expect(isDark(asking('all', lamps(0, 1)))).toBe(false);
    expect(isDark(asking('first', lamps(0, 1)))).toBe(true);
    expect(isDark(asking('third', lamps(1, 1)))).toBe(true);
    expect(isDark(asking('second', lamps(0, 1)))).toBe(false);
    expect(isDark(lightLamp(asking('all', lamps())))).toBe(false);
    expect(isDark(lightLamp(asking('all', lamps(0, 0))))).toBe(false);
  });
  it('a layer says which surface it lacks', () => {
    const lone = documentOf(
      [node('n1', 'surface.layer'), node('n2', 'surface.surface')],
      ['n2:surface > n1:under'],
    );
    expect(codesAt(lone, 'n1')).toEqual(['layer.no-surface']);
  });
  it.each([
    ['bands', 0.3, [1, 3, 4]],
    ['bands', 0.6, [1, 2, 4]],
    ['placed', 0.3, [1, 3, 4]],
  ])('a ramp of %s says which stops nothing at %d reaches', (layout, at, unreached) => {
    const stops = [0, 0.25, 0.5, 0.75].map((position, k) => ({
      id: `s${String(k)}`,
      position,
      colour: [0, 0, 0] as const,
      alpha: 1,
      segment: layout === 'placed' ? ('hold' as const) : ('linear' as const),
    }));
    const ramp = documentOf(
      [node('n1', 'gradients.ramp', { stops: { stops } }, { layout }), node('n2', 'model.slope')],
      ['n2:slope > n1:value'],
    );
    const flat = { minimum: at, maximum: at, mean: at, below: 0, above: 0, notANumber: 0 };
    const [found] = ramp.network.nodes;
    const said = adviseNode(
      { document: ramp, network: ramp.network, path: [], node: found as NodeInstance },
      (key) => (key === 'n1<value' ? { ...flat, constant: true } : null),
    ).find(({ code }) => code === 'ramp.unreached');
    expect(said?.message).toContain(`stop ${unreached.join(', ')} of 4`);
  });
});
