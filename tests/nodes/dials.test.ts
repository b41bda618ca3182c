import fc from 'fast-check';
import { checkReferences } from '@/core/compile/check/check';
import { compileNetwork } from '@/core/compile/compile';
import { openSettings } from '@/core/compile/settings';
import { structureKey } from '@/core/compile/structure';
import { hasErrors } from '@/core/base/diagnostic';
import { addDial, addDrive, changeDial, drivenValue, passDialsOn } from '@/core/edit/dials';
import { changeLaw, lawsOfDrive } from '@/core/edit/dial-laws';
import { offerDial } from '@/core/edit/dial-offers';
import { driveSentence } from '@/core/edit/drive-sentence';
import { groupSelection } from '@/core/edit/group';
import { makeRamp } from '@/core/edit/network-sketch';
import { setOption, setValue } from '@/core/edit/nodes';
import { isFlowing } from '@/core/graph/document';
import type { InputValue, Law, NetworkDocument } from '@/core/graph/document';
import { bitsOf, evaluateWasm } from '../support/agreement';
import { documentOf, node, randomDocument, randomLanes } from '../support/networks';

const COUNT = 64;
const numbersOf = (document: NetworkDocument, tap: string): readonly number[] => {
  const compiled = compileNetwork(document, { surface: false, taps: [tap] });
  const { wasm } = evaluateWasm(compiled, document, randomLanes(COUNT, 5), COUNT);
  return wasm.flatMap((lane) => [...lane]);
};

const board = (): NetworkDocument =>
  documentOf(
    [
      node('noise', 'patterns.fractal-noise', { scale: 7 }),
      node('wave', 'math.math', { b: 0.25 }, { operation: 'multiply' }),
      node('shade', 'gradients.ramp'),
      node('shaped', 'gradients.curve'),
      node('sum', 'math.formula', { formula: { formula: 'a * 2.0 + b' } }),
      node('paint', 'surface.surface', { roughness: 0.3 }),
    ],
    [
      'noise:value > wave:a',
      'wave:value > shade:value',
      'shade:colour > shaped:value',
      'wave:value > sum:a',
      'shaped:result > paint:baseColour',
      'sum:value > paint:roughness',
      'paint:surface > @out:surface',
    ],
  );
const INNER = ['noise', 'wave', 'shade', 'shaped', 'sum'];
const packed = (document = board(), ids: readonly string[] = INNER) =>
  groupSelection(document, { board: null, ids, name: 'Paint', path: [] });

function expose(
  { document, groupId }: { document: NetworkDocument; groupId: string },
  inner: string,
  input: string,
  law: Law,
  ends?: { low: number; high: number },
): { document: NetworkDocument; dialId: string } {
  const made = addDial(document, groupId, inner, input, law, 'Dial', ends);
  if (!made) throw new Error(`${law} of ${input} is not offered`);
  expect(checkReferences(made.document).filter(({ severity }) => severity === 'error')).toEqual([]);
  return made;
}

describe('laws', () => {
  const group = packed();
  const designed = 0.25;
  const at = (law: Law, setting: number, ends?: { low: number; high: number }) => {
    const made = expose(group, 'wave', 'b', law, ends);
    return setValue(made.document, null, group.nodeId, made.dialId, setting);
  };
  const asTyped = (value: number) => setValue(group.document, group.groupId, 'wave', 'b', value);

  it.each([
    ['times', (d: number) => designed * d],
    ['lift', (d: number) => designed + (d - 1) * designed],
    ['power', (d: number) => designed ** d],
    ['as is', (d: number) => d],
  ] as const)('“%s” is its closed form', (law, closed) => {
    for (const setting of [0.2, 0.7, 1.6]) {
      const got = numbersOf(at(law, setting), `${group.nodeId}/sum:value`);
      const wanted = numbersOf(asTyped(closed(setting)), `${group.nodeId}/sum:value`);
      got.forEach((value, k) => {
        expect(value).toBeCloseTo(wanted[k] ?? NaN, 5);
      });
    }
  });
  it.each(['span', 'blend'] as const)('“%s” goes from one end to the other', (law) => {
    const ends = { low: -0.5, high: 1.5 };
    for (const [setting, value] of [
      [0, -0.5],
      [1, 1.5],
      [0.5, 0.5],
    ] as const) {
      const got = numbersOf(at(law, setting, ends), `${group.nodeId}/sum:value`);
      const wanted = numbersOf(asTyped(value), `${group.nodeId}/sum:value`);
      got.forEach((each, k) => {
        expect(each).toBeCloseTo(wanted[k] ?? NaN, 5);
      });
    }
  });
  it('act on what a strand brings: lift, times, blend and power', () => {
    const offer = offerDial(group.document, group.groupId, 'wave', 'a');
    expect(offer).toMatchObject({ isWired: true, laws: ['times', 'lift', 'blend', 'power'] });
    const key = `${group.nodeId}/wave:value`;
    const before = numbersOf(group.document, key);
    for (const [law, setting, closed] of [
      ['times', 0.5, (x: number) => x * 0.5],
      ['lift', 1.2, (x: number) => x + 0.2 * designed],
      ['blend', 0.5, (x: number) => x * 0.5 + 0.5 * designed],
      ['blend', 1, () => designed],
    ] as const) {
      const made = expose(group, 'wave', 'a', law);
      const got = numbersOf(setValue(made.document, null, group.nodeId, made.dialId, setting), key);
      got.forEach((value, k) => {
        expect(value).toBeCloseTo(closed(before[k] ?? NaN), 5);
      });
    }
  });
  it('are multiplied, then added, where several dials drive one value', () => {
    const first = expose(group, 'wave', 'b', 'times');
    const second = expose({ ...group, document: first.document }, 'wave', 'b', 'times');
    const third = expose({ ...group, document: second.document }, 'wave', 'b', 'lift');
    const set = [first, second, third].reduce(
      (document, { dialId }, k) =>
        setValue(document, null, group.nodeId, dialId, [0.8, 1.2, 1.5][k] ?? 1),
      third.document,
    );
    const got = numbersOf(set, `${group.nodeId}/sum:value`);
    const wanted = numbersOf(
      asTyped(0.8 * 1.2 * designed + 0.5 * designed),
      `${group.nodeId}/sum:value`,
    );
    got.forEach((value, k) => {
      expect(value).toBeCloseTo(wanted[k] ?? NaN, 5);
    });
    // Those that decide alone are offered no more.
    expect(offerDial(third.document, group.groupId, 'wave', 'b')?.laws).toEqual(['times', 'lift']);
  });
  it('are told as the sentence they are', () => {
    const times = { law: 'times', node: 'n', input: 'b' } as const;
    const lift = { law: 'lift', node: 'n', input: 'b', reach: 5 } as const;
    const dial = { home: 1 };
    expect(
      driveSentence(42, [
        { dial, drive: times, at: 0.8 },
        { dial, drive: times, at: 1.2 },
        { dial, drive: lift, at: 1.1 },
      ]),
    ).toBe('0.8 × 1.2 × 42 + (1.1 − 1) × 5');
    expect(driveSentence(null, [{ dial, drive: { ...times, law: 'power' }, at: 2 }])).toBe(
      'arriving ^ 2',
    );
  });
  it('say the same on the board as the program computes', () => {
    const drive = { node: 'wave', input: 'b' } as const;
    expect(drivenValue(0.25, { ...drive, law: 'power' }, 2, 1)).toBe(0.0625);
    expect(drivenValue(0.25, { ...drive, law: 'blend', low: 0, high: 1 }, 0.5, 0.25)).toBe(0.5);
    expect(drivenValue(0.25, { ...drive, law: 'blend', low: 0, high: 1 }, 0.25, 0.25)).toBe(0.25);
  });
});

describe('at home', () => {
  it('every dial of a random group leaves every output equal to the bit', () => {
    let dials = 0;
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1e6 }), (seed) => {
        const document = randomDocument(seed, 10);
        const inner = document.network.nodes.map(({ id }) => id).slice(0, 7);
        let group;
        try {
          group = groupSelection(document, { board: null, ids: inner, name: 'G', path: [] });
        } catch {
          return;
        }
        const { groupId } = group;
        let changed = group.document;
        for (const each of changed.groups[groupId]?.network.nodes ?? [])
          for (const input of Object.keys(each.values)) {
            const laws = offerDial(changed, groupId, each.id, input)?.laws ?? [];
            const law = laws[(seed + dials) % Math.max(1, laws.length)];
            const made = law && addDial(changed, groupId, each.id, input, law, 'D');
            if (!made) continue;
            changed = made.document;
            dials++;
          }
        expect(hasErrors(checkReferences(changed))).toBe(false);
        expect(bitsOf(changed)).toEqual(bitsOf(document));
      }),
      { numRuns: 40 },
    );
    expect(dials).toBeGreaterThan(100);
  });
});

describe('another law', () => {
  const LAWS: readonly Law[] = ['times', 'lift', 'span', 'blend', 'power', 'as is'];
  const group = packed();
  const { groupId, nodeId } = group;
  const place = { node: 'wave', input: 'b' };
  const dialOf = (document: NetworkDocument) => document.groups[groupId]?.dials[0];

  it('keeps the dial, its home and what every card sets', () => {
    let changes = 0;
    for (const from of LAWS)
      for (const to of LAWS) {
        const made = expose(group, 'wave', 'b', from);
        const named = changeDial(made.document, groupId, made.dialId, {
          name: 'Contrast',
          section: 'Look',
          ends: { low: 'soft', high: 'hard' },
        });
        const changed = changeLaw(named, groupId, made.dialId, place, to);
        expect(dialOf(changed)).toMatchObject({
          id: made.dialId,
          name: 'Contrast',
          section: 'Look',
          ends: { low: 'soft', high: 'hard' },
          drives: [{ ...place, law: to }],
        });
        expect(hasErrors(checkReferences(changed))).toBe(false);
        expect(bitsOf(changed)).toEqual(bitsOf(board()));
        const setting = from === 'as is' ? 0.3 : 0.8;
        const set = setValue(named, null, nodeId, made.dialId, setting);
        const after = changeLaw(set, groupId, made.dialId, place, to);
        expect(lawsOfDrive(set, groupId, made.dialId, place).includes(to)).toBe(
          after !== set || from === to,
        );
        const wanted = numbersOf(set, `${nodeId}/sum:value`);
        numbersOf(after, `${nodeId}/sum:value`).forEach((value, k) => {
          expect(value).toBeCloseTo(wanted[k] ?? NaN, 4);
        });
        changes += after === set ? 0 : 1;
      }
    expect(changes).toBe(30);
  });
  it('is not offered where a card would look otherwise', () => {
    const zero = setValue(group.document, groupId, 'wave', 'b', 0);
    const made = expose({ ...group, document: zero }, 'wave', 'b', 'lift');
    expect(lawsOfDrive(made.document, groupId, made.dialId, place)).toContain('times');
    const set = setValue(made.document, null, nodeId, made.dialId, 1.4);
    expect(lawsOfDrive(set, groupId, made.dialId, place)).not.toContain('times');
    expect(changeLaw(set, groupId, made.dialId, place, 'times')).toBe(set);
  });
  it('of a dial of several values is one with the same home and slider', () => {
    const made = expose(group, 'wave', 'b', 'times');
    const both = addDrive(made.document, groupId, made.dialId, 'noise', 'scale');
    expect(lawsOfDrive(both, groupId, made.dialId, place)).toEqual(['times', 'lift']);
    const changed = changeLaw(both, groupId, made.dialId, place, 'lift');
    expect(dialOf(changed)?.drives.map(({ law }) => law)).toEqual(['lift', 'times']);
    expect(bitsOf(changed)).toEqual(bitsOf(board()));
  });
  it('with another home is not offered where a group around passes the dial on', () => {
    const made = expose(group, 'wave', 'b', 'times');
    const outer = packed(made.document, [nodeId]);
    const passed = passDialsOn(outer.document, outer.groupId, nodeId);
    expect(lawsOfDrive(passed, groupId, made.dialId, place)).not.toContain('as is');
    for (const law of lawsOfDrive(passed, groupId, made.dialId, place))
      expect(bitsOf(changeLaw(passed, groupId, made.dialId, place, law))).toEqual(bitsOf(board()));
  });
});

describe('settings', () => {
  const group = packed();
  const { groupId, nodeId } = group;
  const RAMP = makeRamp([0, '#102030'], [0.4, '#a04020'], [1, '#f0e0c0']);
  const CURVE: InputValue = {
    points: [
      [0, 0.2],
      [0.5, 0.9],
      [1, 0.4],
    ],
  };
  const cases: readonly (readonly [string, string, InputValue])[] = [
    ['noise', 'fold', { choice: 'ridged' }],
    ['shade', 'stops', RAMP],
    ['shaped', 'all', CURVE],
    ['sum', 'formula', { formula: 'a * 0.5' }],
  ];
  const within = (inner: string, input: string, value: InputValue): NetworkDocument =>
    typeof value === 'object' && 'choice' in value
      ? setOption(group.document, groupId, inner, input, value.choice)
      : setValue(group.document, groupId, inner, input, value);

  it.each(cases)('of %s %s are those of the value inside', (inner, input, value) => {
    const made = expose(group, inner, input, 'as is');
    expect(bitsOf(made.document)).toEqual(bitsOf(board()));
    const set = setValue(made.document, null, nodeId, made.dialId, value);
    expect(hasErrors(checkReferences(set))).toBe(false);
    expect(bitsOf(set)).toEqual(bitsOf(within(inner, input, value)));
    expect(bitsOf(set)).not.toEqual(bitsOf(board()));
  });
  it('are told apart between two cards of one group', () => {
    const made = expose(group, 'noise', 'fold', 'as is');
    const twin = {
      ...made.document,
      network: {
        ...made.document.network,
        nodes: made.document.network.nodes.flatMap((each) =>
          each.id === nodeId
            ? [each, { ...each, id: 'other', values: { [made.dialId]: { choice: 'ridged' } } }]
            : [each],
        ),
      },
    };
    const plain = numbersOf(twin, `${nodeId}/noise:value`);
    const ridged = numbersOf(twin, 'other/noise:value');
    expect(plain).toEqual(numbersOf(board(), 'noise:value'));
    expect(ridged).not.toEqual(plain);
  });
  it('recompile nothing for a ramp that is dragged, and compile anew for a choice', () => {
    const ramp = expose(group, 'shade', 'stops', 'as is');
    const dragged = setValue(ramp.document, null, nodeId, ramp.dialId, RAMP);
    expect(structureKey(dragged)).toBe(structureKey(ramp.document));
    const choice = expose(group, 'noise', 'fold', 'as is');
    const chosen = setValue(choice.document, null, nodeId, choice.dialId, { choice: 'ridged' });
    expect(structureKey(chosen)).not.toBe(structureKey(choice.document));
  });
  it('leave a document without them the same object', () => {
    expect(openSettings(group.document)).toBe(group.document);
  });
});

describe('dials of a group inside', () => {
  const inner = packed(board(), ['noise', 'wave']);
  const sized = expose(inner, 'noise', 'scale', 'times');
  const folded = expose({ ...inner, document: sized.document }, 'noise', 'fold', 'as is');
  const outer = packed(folded.document, [inner.nodeId, 'shade', 'shaped', 'sum']);
  const passed = passDialsOn(outer.document, outer.groupId, inner.nodeId);

  it('are passed on in one act, with the same look at home', () => {
    const dials = passed.groups[outer.groupId]?.dials ?? [];
    expect(dials).toHaveLength(2);
    expect(dials.map(({ drives }) => drives[0]?.law)).toEqual(['as is', 'as is']);
    expect(hasErrors(checkReferences(passed))).toBe(false);
    expect(bitsOf(passed)).toEqual(bitsOf(board()));
    expect(passDialsOn(passed, outer.groupId, inner.nodeId)).toBe(passed);
  });
  it('do outside what they do inside', () => {
    const [size, fold] = passed.groups[outer.groupId]?.dials ?? [];
    if (!size || !fold) throw new Error('no dials');
    expect([isFlowing(size), isFlowing(fold)]).toEqual([true, false]);
    const set = setValue(
      setValue(passed, null, outer.nodeId, size.id, 2),
      null,
      outer.nodeId,
      fold.id,
      { choice: 'ridged' },
    );
    const flat = setOption(
      setValue(board(), null, 'noise', 'scale', 14),
      null,
      'noise',
      'fold',
      'ridged',
    );
    expect(bitsOf(set)).toEqual(bitsOf(flat));
  });
});

describe('a dial', () => {
  it('drives more values by the law that is asked, where that is offered', () => {
    const group = packed();
    const made = expose(group, 'noise', 'scale', 'times');
    const both = addDrive(made.document, group.groupId, made.dialId, 'wave', 'b', 'lift');
    const [dial] = both.groups[group.groupId]?.dials ?? [];
    expect(dial?.drives.map(({ law }) => law)).toEqual(['times', 'lift']);
    // A ramp is no number: nothing changes.
    expect(addDrive(both, group.groupId, made.dialId, 'shade', 'stops')).toBe(both);
    expect(bitsOf(both)).toEqual(bitsOf(board()));
  });
  it('keeps its strands and settings when it is renamed or its ranges change', () => {
    const group = packed();
    const made = expose(group, 'noise', 'scale', 'times');
    const set = setValue(made.document, null, group.nodeId, made.dialId, 1.4);
    const renamed = changeDial(set, group.groupId, made.dialId, {
      name: 'Size',
      section: 'Look',
      soft: [0, 4],
      ends: { low: 'fine', high: 'coarse' },
    });
    expect(bitsOf(renamed)).toEqual(bitsOf(set));
  });
});
