import { addDial, changeDial } from '@/core/edit/dials';
import { groupSelection } from '@/core/edit/group';
import { changePort } from '@/core/edit/group-ports';
import { cureNote } from '@/core/edit/note-cures';
import { changeNode, withGroup } from '@/core/edit/board';
import { addNode, setOption, setValue } from '@/core/edit/nodes';
import { influenceNotes, measureDial, rankInfluence } from '@/core/evaluate/dial-measures';
import { listNotes } from '@/core/evaluate/group-notes';
import type { NoteCode } from '@/core/evaluate/group-notes';
import type { Dial, Law, NetworkDocument } from '@/core/graph/document';
import { MeshAnalysis } from '@/core/mesh/analysis';
import { ShapeSketch } from '@/core/mesh/shape-sketch';
import { meshOfSketch } from '../support/meshes';
import { documentOf, node } from '../support/networks';

const analysis = new MeshAnalysis(
  meshOfSketch(new ShapeSketch().nextPart('ball').sphere([0, 0, 0], 1, 24).finish(3)),
);
const models = [{ name: 'Ball', analysis, maps: () => undefined }];

const GROUP = 'g1';
/** A good group: salt by a noise and a threshold, its one dial named and explained. */
function good(): NetworkDocument {
  const document = documentOf(
    [
      node('grain', 'patterns.noise', { scale: 6 }),
      node('level', 'ranges.threshold', { level: 0.5, width: 0.4 }),
      node('end', 'surface.surface'),
    ],
    ['grain:value > level:value', 'level:mask > end:roughness', 'end:surface > @out:surface'],
  );
  const group = groupSelection(document, {
    board: null,
    ids: ['grain', 'level'],
    name: 'Salt grains',
    path: [],
  });
  const described = withGroup(group.document, GROUP, (each) => ({
    ...each,
    description: 'Grains of salt as a mask.',
  }));
  return withDial(described, 'level', 'level', 'lift', 'Amount');
}
function withDial(
  document: NetworkDocument,
  inner: string,
  input: string,
  law: Law,
  name: string,
  change: Partial<Dial> = {},
): NetworkDocument {
  const made = addDial(document, GROUP, inner, input, law, name);
  if (!made) throw new Error(`${law} is not offered`);
  return changeDial(made.document, GROUP, made.dialId, {
    help: 'More or fewer.',
    ends: { low: 'fewer', high: 'more' },
    soft: [0.5, 1.5],
    ...change,
  });
}
const cardOf = (document: NetworkDocument): string =>
  document.network.nodes.find(({ group }) => group === GROUP)?.id ?? '';
const tried = (document: NetworkDocument) => ({ document, path: [cardOf(document)], models });
/** All notes but those on influence. */
function codes(document: NetworkDocument): NoteCode[] {
  const dials = document.groups[GROUP]?.dials ?? [];
  return [
    ...listNotes(document, GROUP),
    ...dials.flatMap(({ id }) => measureDial(tried(document), id)),
  ].map(({ code }) => code);
}

describe('the inspector’s notes', () => {
  it('say nothing of a good group', () => {
    expect(codes(good())).toEqual([]);
  });

  const fresh = addNode(good(), GROUP, 'patterns.checks', [0, 0]);
  const inWords = (change: object): NetworkDocument =>
    withGroup(good(), GROUP, (each) => ({ ...each, ...change }));
  const dialWith = (change: Partial<Dial>): NetworkDocument =>
    changeDial(good(), GROUP, 'd1', change);
  const FAULTS: readonly (readonly [NoteCode, string, () => NetworkDocument])[] = [
    ['no-name', 'a name like every new group', () => inWords({ name: 'New group' })],
    ['no-description', 'no description', () => inWords({ description: ' ' })],
    ['no-dials', 'no dial', () => inWords({ dials: [] })],
    ['dial-help', 'a dial without help', () => dialWith({ help: '' })],
    ['dial-ends', 'a dial without ends', () => dialWith({ ends: { low: '', high: 'more' } })],
    [
      'dial-zero',
      'times on a designed 0',
      () => {
        const zero = setValue(good(), GROUP, 'grain', 'seed', 3);
        const typed = setValue(zero, GROUP, 'level', 'width', 0);
        return withDial(typed, 'level', 'width', 'times', 'Softness');
      },
    ],
    ['leftover', 'a node that leads nowhere', () => fresh.document],
    [
      'off',
      'a node that is off',
      () => changeNode(good(), GROUP, 'grain', (each) => ({ ...each, off: true as const })),
    ],
    ['units', 'a scale per metre', () => setOption(good(), GROUP, 'grain', 'per', 'unit')],
    [
      'dial-flat',
      'a slider that goes on where nothing changes',
      () => dialWith({ soft: [0.5, 9] }),
    ],
    [
      'dial-beyond',
      'values that leave 0–1',
      () => {
        const summed = addNode(good(), GROUP, 'math.math', [0, 0]);
        const wired = withGroup(summed.document, GROUP, (each) => ({
          ...each,
          network: {
            ...each.network,
            strands: each.network.strands
              .map((strand) =>
                strand.to.node === '@out'
                  ? { ...strand, from: { node: summed.id, output: 'value' } }
                  : strand,
              )
              .concat({
                id: 'extra',
                from: { node: 'level', output: 'mask' },
                to: { node: summed.id, input: 'a' },
                order: 0,
              }),
          },
        }));
        const typed = setValue(wired, GROUP, summed.id, 'b', 1);
        const times = setOption(typed, GROUP, summed.id, 'operation', 'multiply');
        return withDial(times, summed.id, 'b', 'times', 'Gain', { soft: [0, 2] });
      },
    ],
  ];
  it.each(FAULTS)('find %s: %s, and claim nothing else', (code, _what, make) => {
    expect(new Set(codes(make()))).toEqual(
      // What multiplies 0, or acts on what is off, changes nothing, too.
      new Set(code === 'dial-zero' || code === 'off' ? [code, 'dial-dead'] : [code]),
    );
  });

  it('find a dial that changes nothing on any model', () => {
    const idle = withGroup(good(), GROUP, (each) => ({
      ...each,
      dials: each.dials.map((dial) => ({ ...dial, drives: [] })),
    }));
    expect(codes(idle)).toEqual(['dial-dead']);
  });
  it('find an input that counts as coordinates in silence, and a missing image', () => {
    const led = withGroup(good(), GROUP, (each) => ({
      ...each,
      inputs: [{ id: 'in1', name: 'Where', kind: 'vector' as const }],
      network: {
        ...each.network,
        strands: [
          ...each.network.strands,
          {
            id: 'led',
            from: { node: '@in', output: 'in1' },
            to: { node: 'grain', input: 'at' },
            order: 0,
          },
        ],
      },
    }));
    expect(listNotes(led, GROUP).map(({ code }) => code)).toEqual(['unwired']);
    const [note] = listNotes(led, GROUP);
    if (!note?.cure) throw new Error('no cure');
    expect(listNotes(cureNote(led, GROUP, note.cure), GROUP)).toEqual([]);
    expect(
      listNotes(changePort(led, GROUP, 'inputs', 'in1', { unwired: 'normal' }), GROUP),
    ).toEqual([]);
  });
  it('cure what they name', () => {
    for (const [code, , make] of FAULTS) {
      const document = make();
      const dials = document.groups[GROUP]?.dials ?? [];
      const cured = [
        ...listNotes(document, GROUP),
        ...dials.flatMap(({ id }) => measureDial(tried(document), id)),
      ].find((note) => note.code === code)?.cure;
      if (cured) expect(codes(cureNote(document, GROUP, cured))).not.toContain(code);
    }
  });
  it('rank inner values by what they change, as brute force does', () => {
    const document = good();
    const ranked = rankInfluence(tried(document));
    expect(ranked.map(({ node: id, input }) => `${id}.${input}`)).not.toContain('level.level');
    const [first] = influenceNotes(ranked);
    expect(first).toMatchObject({ code: 'influence', tone: 'fact' });
    expect(influenceNotes(ranked).length).toBeLessThanOrEqual(3);
    ranked.slice(1).forEach(({ influence }, k) => {
      expect(influence).toBeLessThanOrEqual(ranked[k]?.influence ?? 0);
    });
  });
});
