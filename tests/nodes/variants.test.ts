import { addDial, removeDial } from '@/core/edit/dials';
import { groupSelection } from '@/core/edit/group';
import {
  blendValues,
  keepVariant,
  moveVariant,
  movedDials,
  removeVariant,
  renameVariant,
  setDials,
  shownVariant,
} from '@/core/edit/variants';
import { findNode } from '@/core/compile/uniforms';
import { setValue } from '@/core/edit/nodes';
import type { GroupDefinition, NetworkDocument, NodeInstance } from '@/core/graph/document';
import { parseDocument } from '@/core/graph/schema';
import { bitsOf } from '../support/agreement';
import { documentOf, node } from '../support/networks';

const GROUP = 'g1';
/** Speckle whose scale, seed, colour and curve are dials. */
function speckle(): NetworkDocument {
  const document = documentOf(
    [
      node('grain', 'patterns.noise', { scale: 6 }),
      node('paint', 'colour.blend', { over: [0.4, 0.2, 0.1] }),
      node('end', 'surface.surface'),
    ],
    ['grain:value > paint:amount', 'paint:colour > end:baseColour', 'end:surface > @out:surface'],
  );
  const { document: packed } = groupSelection(document, {
    board: null,
    ids: ['grain', 'paint'],
    name: 'Speckle',
    path: [],
  });
  return (
    [
      ['grain', 'scale', 'times', 'Fineness'],
      ['grain', 'seed', 'as is', 'Seed'],
      ['paint', 'over', 'as is', 'Tint'],
      ['grain', 'basis', 'as is', 'Basis'],
    ] as const
  ).reduce(
    (made, [inner, input, law, name]) =>
      addDial(made, GROUP, inner, input, law, name)?.document ?? made,
    packed,
  );
}
const groupOf = (document: NetworkDocument): GroupDefinition => {
  const group = document.groups[GROUP];
  if (!group) throw new Error('the group is gone');
  return group;
};
const cardIn = (document: NetworkDocument): NodeInstance => {
  const id = document.network.nodes.find(({ group }) => group === GROUP)?.id ?? '';
  const card = findNode(document, [id]);
  if (!card) throw new Error('the card is gone');
  return card;
};
const dialNamed = (document: NetworkDocument, name: string): string =>
  groupOf(document).dials.find((dial) => dial.name === name)?.id ?? name;
const set = (document: NetworkDocument, name: string, value: number): NetworkDocument =>
  setValue(document, null, cardIn(document).id, dialNamed(document, name), value);
const keep = (document: NetworkDocument, name: string): NetworkDocument =>
  keepVariant(document, GROUP, cardIn(document), name);

describe('variants', () => {
  it('are kept, replaced by name, ordered, named and forgotten; the document stays valid', () => {
    const first = keep(speckle(), 'As designed');
    const second = keep(set(first, 'Fineness', 1.5), 'Fine');
    const third = keep(set(second, 'Fineness', 0.5), 'Coarse');
    const names = (document: NetworkDocument) =>
      groupOf(document).variants?.map(({ name }) => name) ?? [];
    expect(names(third)).toEqual(['As designed', 'Fine', 'Coarse']);
    const again = keep(set(third, 'Fineness', 1.8), 'Fine');
    expect(names(again)).toHaveLength(3);
    const fine = groupOf(again).variants?.[1];
    expect(fine?.values).toEqual({ [dialNamed(again, 'Fineness')]: 1.8 });
    expect(names(moveVariant(again, GROUP, fine?.id ?? '', 0))[0]).toBe('Fine');
    expect(names(renameVariant(again, GROUP, fine?.id ?? '', 'Sand'))).toContain('Sand');
    expect(names(removeVariant(again, GROUP, fine?.id ?? ''))).toEqual(['As designed', 'Coarse']);
    expect(parseDocument(again).diagnostics).toEqual([]);
    const one = keep(speckle(), 'Alone');
    const [alone] = groupOf(one).variants ?? [];
    expect(groupOf(removeVariant(one, GROUP, alone?.id ?? '')).variants).toBeUndefined();
  });

  it('give a card, in one step, exactly the values that were kept, and no others', () => {
    const kept = keep(set(set(speckle(), 'Fineness', 1.37), 'Seed', 4), 'Fine');
    const values = groupOf(kept).variants?.[0]?.values ?? {};
    const moved = set(set(kept, 'Fineness', 0.2), 'Seed', 9);
    const applied = setDials(moved, null, cardIn(moved).id, values);
    expect(movedDials(groupOf(applied), cardIn(applied))).toEqual(values);
    expect(shownVariant(groupOf(applied), cardIn(applied))?.name).toBe('Fine');
    expect(shownVariant(groupOf(moved), cardIn(moved))).toBeUndefined();
    expect(bitsOf(applied)).toEqual(bitsOf(kept));
    const home = setDials(applied, null, cardIn(applied).id, {});
    expect(bitsOf(home)).toEqual(bitsOf(speckle()));
  });

  it('lose a dial that is removed', () => {
    const kept = keep(set(set(speckle(), 'Fineness', 1.37), 'Seed', 4), 'Fine');
    const seed = dialNamed(kept, 'Seed');
    const without = removeDial(kept, GROUP, seed);
    expect(Object.keys(groupOf(without).variants?.[0]?.values ?? {})).not.toContain(seed);
  });

  it('blend: numbers and colours straight, whole numbers whole, choices half-way', () => {
    const document = speckle();
    const group = groupOf(document);
    const ids = ['Fineness', 'Seed', 'Tint'].map((name) => dialNamed(document, name));
    const [fineness = '', seed = '', tint = ''] = ids;
    const a = { [fineness]: 0.5, [seed]: 1, [tint]: [0, 0, 0] as const };
    const b = { [fineness]: 1.5, [seed]: 4, [tint]: [1, 0.5, 0] as const };
    const quarter = blendValues(group, a, b, 0.25);
    expect(quarter[fineness]).toBeCloseTo(0.75, 12);
    expect(quarter[seed]).toBe(2);
    expect(quarter[tint]).toEqual([0.25, 0.125, 0]);
    for (const [share, end] of [
      [0, a],
      [1, b],
    ] as const)
      expect(blendValues(group, a, b, share)).toMatchObject(end);
  });
});
