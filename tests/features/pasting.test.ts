import { describe, expect, it } from '@jest/globals';
import { groupSelection } from '@/core/edit/group';
import { copyNodes, pasteClip } from '@/core/edit/clip';
import { resetInputs, resetNode } from '@/core/edit/reset';
import { hasErrors } from '@/core/base/diagnostic';
import { checkReferences } from '@/core/compile/check/check';
import type { NetworkDocument } from '@/core/graph/document';
import { missingNames, readClip } from '@/state/clipboard';
import { isPinThere, pinName } from '@/state/pin-name';
import { documentOf, node } from '../support/networks';

/** A document with one node of a type, packaged as a group. */
function packaged(type: string, name: string): NetworkDocument {
  const document = documentOf([node('a', type)]);
  return groupSelection(document, { board: null, ids: ['a'], name, path: [] }).document;
}
const only = ({ network }: NetworkDocument) => {
  const [first] = network.nodes;
  if (!first) throw new Error('there is no node');
  return first;
};
const innerTypes = (document: NetworkDocument): readonly (string | undefined)[] =>
  document.network.nodes.map(({ group = '' }) =>
    document.groups[group]?.network.nodes.map(({ type }) => type).join(),
  );

describe('pasting between materials', () => {
  it('keeps each group what it is, where the other material has one of that id', () => {
    const [from, into] = [
      packaged('patterns.noise', 'Noise'),
      packaged('patterns.checks', 'Checks'),
    ];
    expect(Object.keys(from.groups)).toEqual(Object.keys(into.groups));
    const clip = copyNodes(from, null, [only(from).id]);
    const { document } = pasteClip(into, null, clip, [0, 0], false);
    expect(innerTypes(document)).toEqual(['patterns.checks', 'patterns.noise']);
    expect(Object.keys(document.groups)).toHaveLength(2);
    expect(hasErrors(checkReferences(document))).toBe(false);
  });

  it('gives one group, not two, where both have the same', () => {
    const from = packaged('patterns.noise', 'Noise');
    const clip = copyNodes(from, null, [only(from).id]);
    const { document } = pasteClip(from, null, clip, [0, 0], false);
    expect(Object.keys(document.groups)).toHaveLength(1);
    expect(innerTypes(document)).toEqual(['patterns.noise', 'patterns.noise']);
  });

  it('looks into groups: the same outside with another inside is another', () => {
    const outer = (type: string): NetworkDocument => {
      const inner = packaged(type, 'Inner');
      return groupSelection(inner, {
        board: null,
        ids: [only(inner).id],
        name: 'Outer',
        path: [],
      }).document;
    };
    const [from, into] = [outer('patterns.noise'), outer('patterns.checks')];
    const clip = copyNodes(from, null, [only(from).id]);
    const { document } = pasteClip(into, null, clip, [0, 0], false);
    expect(Object.keys(document.groups)).toHaveLength(4);
    const pasted = document.network.nodes[1]?.group ?? '';
    const inside = document.groups[pasted]?.network.nodes[0]?.group ?? '';
    expect(document.groups[inside]?.network.nodes[0]?.type).toBe('patterns.noise');
  });

  it('says why a clip cannot be read', () => {
    const from = packaged('patterns.noise', 'Noise');
    const clip = copyNodes(from, null, [only(from).id]);
    expect(readClip(JSON.stringify(clip))).toMatchObject({ clip: { nodes: clip.nodes } });
    const read = (text: string) => readClip(text);
    expect(read('good morning')).toEqual({ reason: 'There are no nodes on the clipboard.' });
    const unknown = { ...clip, groups: {}, nodes: [node('x', 'patterns.unheard-of')] };
    expect(read(JSON.stringify(unknown))).toMatchObject({
      reason: expect.stringMatching(/cannot be read here/),
    });
    const lost = { ...clip, groups: {} };
    expect(read(JSON.stringify(lost))).toMatchObject({
      reason: expect.stringMatching(/cannot be read here/),
    });
    expect(read(`"${'x'.repeat(9 * 2 ** 20)}"`)).toMatchObject({
      reason: expect.stringMatching(/too much to paste/),
    });
  });
});

describe('what is shown on the stage', () => {
  const document = packaged('patterns.noise', 'Soot');
  const { id, group = '' } = only(document);
  it('is called by names', () => {
    const output = document.groups[group]?.outputs[0]?.id ?? '';
    if (output) expect(pinName(document, `${id}:${output}`)).toMatch(/^Soot, /);
    expect(pinName(document, `${id}/a:value`)).toBe('Soot › Noise, Value');
  });
  it('is gone with its node', () => {
    expect(isPinThere(document, `${id}/a:value`)).toBe(true);
    expect(isPinThere(document, `${id}/b:value`)).toBe(false);
    expect(isPinThere(document, 'nobody:value')).toBe(false);
  });
});

describe('home', () => {
  const document = documentOf(
    [
      node('p', 'model.position'),
      node('n', 'patterns.noise', { scale: 9, seed: 4 }, { basis: 'value' }),
    ],
    ['p:position > n:at'],
  );
  const noise = (changed: NetworkDocument) => changed.network.nodes.find(({ id }) => id === 'n');
  it('takes all values and modes of a node back, and leaves its strands', () => {
    const reset = resetNode(document, null, 'n');
    expect(noise(reset)).toMatchObject({ values: {}, options: {} });
    expect(reset.network.strands).toEqual(document.network.strands);
    expect(resetNode(reset, null, 'n')).toBe(reset);
  });
  it('takes only what is named', () => {
    expect(noise(resetInputs(document, null, 'n', ['seed', 'nothing']))?.values).toEqual({
      scale: 9,
    });
  });
});

describe('what comes along with pasted nodes', () => {
  const lit = {
    ...documentOf(
      [node('n1', 'model.light-response'), node('n2', 'surface.surface')],
      ['n1:facing > n2:roughness', 'n2:surface > @out:surface'],
    ),
    lights: [
      {
        id: 'lamp',
        name: 'Lamp',
        kind: 'near' as const,
        at: [0, 1, 0] as const,
        colour: [1, 1, 1] as const,
        intensity: 3,
      },
    ],
  };
  const noted = {
    ...lit,
    network: { ...lit.network, notes: [{ id: 'note1', text: 'Wet', at: [0, 0] as const }] },
  };
  const copied = readClip(JSON.stringify(copyNodes(noted, null, ['n1', 'n2', 'note~note1']))) as {
    readonly clip: ReturnType<typeof copyNodes>;
  };

  it('are the notes, the strand to the end and the lights, where their places are free', () => {
    const empty = documentOf([]);
    const { document, left } = pasteClip(empty, null, copied.clip, [10, 0], false);
    expect(left).toEqual([]);
    expect(document.lights).toEqual(lit.lights);
    expect(document.network.notes).toMatchObject([{ text: 'Wet', at: [10, 0] }]);
    expect(document.network.strands.some(({ to }) => to.node === '@out')).toBe(true);
    expect(hasErrors(checkReferences(document))).toBe(false);
  });
  it('what has no place is named, and nothing there is overwritten', () => {
    const taken = {
      ...documentOf([node('s', 'surface.surface')], ['s:surface > @out:surface']),
      lights: [{ ...lit.lights[0], id: 'sun', name: 'Sun' } as (typeof lit.lights)[number]],
    };
    const { document, left } = pasteClip(taken, null, copied.clip, [0, 0], false);
    expect(left.join(' ')).toMatch(/The end of this board has a surface already/);
    expect(left.join(' ')).toMatch(/This material has lights of its own/);
    expect(document.lights).toEqual(taken.lights);
    expect(document.network.strands.filter(({ to }) => to.node === '@out')).toHaveLength(1);
  });
  it.each([
    ['end', { end: {} }],
    ['end', { end: [{ from: 'n1' }] }],
    ['notes', { notes: 'wet' }],
    ['lights', { lights: [{ id: 3 }] }],
  ])('a clip whose %s is none of ours is refused with a reason', (_, wrong) => {
    const text = JSON.stringify({ ...copied.clip, ...wrong });
    expect(readClip(text)).toHaveProperty('reason');
  });
  it('names of parts that the model at hand lacks are told', () => {
    const pasted = [node('p', 'model.proximity', {}, { to: 'part', part: 'Mast' })];
    const model = { scale: {} as never, parts: ['Hull'], attributes: [], sets: [] };
    expect(missingNames(pasted, model)).toEqual([
      'This model has no part “Mast”: choose another on the pasted card.',
    ]);
    expect(missingNames(pasted, { ...model, parts: ['Mast'] })).toEqual([]);
    expect(missingNames(pasted, null)).toEqual([]);
  });
});
