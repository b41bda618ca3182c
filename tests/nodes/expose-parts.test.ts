import { addDial } from '@/core/edit/dials';
import { listParts, openPart } from '@/core/edit/expose-parts';
import { groupSelection } from '@/core/edit/group';
import { makeRamp } from '@/core/edit/network-sketch';
import { setValue } from '@/core/edit/nodes';
import type { NetworkDocument } from '@/core/graph/document';
import { bitsOf } from '../support/agreement';
import { documentOf, node } from '../support/networks';

const board = (formula: string): NetworkDocument =>
  documentOf(
    [
      node('grain', 'patterns.noise'),
      node('sum', 'math.formula', { formula: { formula } }),
      node('shade', 'gradients.ramp', {
        stops: makeRamp([0, '#203040'], [0.6, '#a08040'], [1, '#fff0d0']),
      }),
      node('end', 'surface.surface'),
    ],
    [
      'grain:value > sum:a',
      'sum:value > shade:value',
      'shade:colour > end:baseColour',
      'end:surface > @out:surface',
    ],
  );
const numbers = (bits: readonly number[]): Float32Array =>
  new Float32Array(Uint32Array.from(bits).buffer);
/** The largest difference between two rows of numbers. */
function furthest(a: readonly number[], b: readonly number[]): number {
  const other = numbers(b);
  return Math.max(...[...numbers(a)].map((value, k) => Math.abs(value - (other[k] ?? NaN))));
}
const partsOf = (document: NetworkDocument, id: string, group: string | null = null) => {
  const { nodes } = group ? (document.groups[group]?.network ?? { nodes: [] }) : document.network;
  const found = nodes.find((each) => each.id === id);
  return found ? listParts(document, group, found) : [];
};

describe('parts of values as inputs', () => {
  it('are the stops of a ramp and the numbers in a formula, and open without a change', () => {
    const document = board('a * 2.0 + 0.25f - 1e-1');
    expect(partsOf(document, 'sum').map(({ title }) => title)).toEqual([
      'Number 2.0 (1.)',
      'Number 0.25 (2.)',
      'Number 1e-1 (3.)',
    ]);
    expect(partsOf(document, 'shade')).toHaveLength(9);
    const designed = bitsOf(document);
    for (const part of partsOf(document, 'sum'))
      expect(bitsOf(openPart(document, null, part))).toEqual(designed);
    // An opened ramp is computed where a closed one is looked up: the same but for rounding.
    for (const part of partsOf(document, 'shade'))
      expect(furthest(bitsOf(openPart(document, null, part)), designed)).toBeLessThan(1e-6);
  });

  it('leave alone what is called already: names, wired inputs, set ones', () => {
    expect(partsOf(board('float b = 1.0; b * a + c + d + e'), 'sum')[0]?.input).toBe('f');
    expect(partsOf(board('a + b + c + d + e + f * 2.0'), 'sum')).toEqual([]);
    expect(partsOf(board('a $ 2.0'), 'sum')).toEqual([]);
  });

  it('become dials of a group, whose setting takes their place', () => {
    const { document, groupId } = groupSelection(board('a * 2.0 - 0.5'), {
      board: null,
      ids: ['sum', 'shade'],
      name: 'Shades',
      path: [],
    });
    const [gain] = partsOf(document, 'sum', groupId);
    if (!gain) throw new Error('no part');
    const made = addDial(
      openPart(document, groupId, gain),
      groupId,
      'sum',
      gain.input,
      'times',
      'Gain',
    );
    if (!made) throw new Error('no dial');
    expect(bitsOf(made.document)).toEqual(bitsOf(document));
    const card = document.network.nodes.find(({ group }) => group === groupId)?.id ?? '';
    const doubled = setValue(made.document, null, card, made.dialId, 2);
    expect(bitsOf(doubled)).toEqual(bitsOf(board('a * 4.0 - 0.5')));
    const stop = partsOf(document, 'shade', groupId).find(({ title }) => title === 'Stop 2 colour');
    const coloured =
      stop &&
      addDial(openPart(document, groupId, stop), groupId, 'shade', stop.input, 'as is', 'Tone');
    if (!coloured) throw new Error('no dial');
    expect(furthest(bitsOf(coloured.document), bitsOf(document))).toBeLessThan(1e-6);
  });
});
