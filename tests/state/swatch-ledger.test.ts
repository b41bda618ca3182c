import { describe, expect, it } from '@jest/globals';
import { groupSelection } from '@/core/edit/group';
import { moveNodes, removeNodes, setValue } from '@/core/edit/nodes';
import { connect } from '@/core/edit/strands';
import type { NetworkDocument } from '@/core/graph/document';
import { SwatchLedger, affectedNodes } from '@/state/swatch-ledger';
import { documentOf, node } from '../support/networks';

const start = documentOf(
  [
    node('n', 'patterns.noise'),
    node('m', 'patterns.noise'),
    node('a', 'ranges.smoothstep'),
    node('b', 'ranges.smoothstep'),
    node('c', 'ranges.smoothstep'),
  ],
  ['n:value > a:value', 'a:mask > b:value', 'm:value > c:value'],
);
const affected = (after: NetworkDocument): readonly string[] | null => {
  const found = affectedNodes(start, after, null);
  return found && [...found].sort();
};

describe('what an edit can have changed', () => {
  it('is what was edited, and all downstream of it', () => {
    expect(affected(setValue(start, null, 'n', 'scale', 4))).toEqual(['a', 'b', 'n']);
    expect(affected(setValue(start, null, 'c', 'edge', 0.1))).toEqual(['c']);
    expect(affected(start)).toEqual([]);
  });
  it('is nothing where cards only move or are named', () => {
    expect(affected(moveNodes(start, null, new Map([['n', [5, 5] as const]])))).toEqual([]);
    const nodes = start.network.nodes.map((each) => ({ ...each, name: 'Other' }));
    expect(affected({ ...start, network: { ...start.network, nodes } })).toEqual([]);
  });
  it('is where strands came, went or changed', () => {
    const to = { node: 'c', input: 'value' };
    expect(affected(connect(start, null, { node: 'n', output: 'value' }, to))).toEqual(['c']);
    expect(affected(removeNodes(start, null, ['m']))).toEqual(['c']);
  });
  it('is everything where the light changes, and inside a group what is outside', () => {
    expect(affected({ ...start, lights: [] })).toBeNull();
    const { document } = groupSelection(start, {
      board: null,
      ids: ['a', 'b'],
      name: 'G',
      path: [],
    });
    const [id = ''] = Object.keys(document.groups);
    expect(affectedNodes(document, setValue(document, null, 'n', 'scale', 4), id)).toBeNull();
    const inside = setValue(document, id, 'b', 'edge', 0.2);
    expect([...(affectedNodes(document, inside, id) ?? [])]).toEqual(['b']);
    const outside = affectedNodes(document, inside, null);
    expect([...(outside ?? [])]).toEqual(
      document.network.nodes.flatMap((each) => (each.group === id ? [each.id] : [])),
    );
  });
});

describe('the ledger of pictures', () => {
  it('knows which are old, and which are too small', () => {
    const ledger = new SwatchLedger();
    ledger.follow(start, null);
    const asked = { document: start, generation: ledger.generation };
    ledger.made(['n', 'a', 'b', 'c'], 64, asked);
    expect(ledger.isFresh('n', 64)).toBe(true);
    expect(ledger.isFresh('n', 128)).toBe(false);
    const edited = setValue(start, null, 'a', 'edge', 0.3);
    ledger.follow(edited, null);
    expect(['n', 'a', 'b', 'c'].map((id) => ledger.isFresh(id, 64))).toEqual([
      true,
      false,
      false,
      true,
    ]);
    // Pictures of a state that is not the newest leave their cards old.
    expect(ledger.made(['a', 'b'], 64, asked)).toBe(false);
    expect(ledger.isFresh('a', 64)).toBe(false);
    const before = { document: edited, generation: ledger.generation };
    ledger.renew();
    // The camera moved, or a map came, while these were made.
    expect(ledger.made(['n'], 64, before)).toBe(false);
    expect(ledger.isFresh('n', 32)).toBe(false);
  });
});
