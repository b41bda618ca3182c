import { describe, expect, it } from '@jest/globals';
import { NetworkSketch } from './network-sketch';
import { groupSelection } from './group';
import { findNodes } from './find-nodes';
import { dropView, keepView, keptViews } from './views';

const document = new NetworkSketch()
  .node('wear', 'patterns.noise', { values: { scale: 7 } })
  .node('edge', 'ranges.smoothstep')
  .node('ramp', 'gradients.ramp')
  .node('surface', 'surface.surface')
  .wire('wear.value > edge.value', 'edge.mask > ramp.value', 'ramp.colour > surface.baseColour')
  .finish('Sample', 'surface.surface');
const ids = (text: string, only?: Parameters<typeof findNodes>[3]): readonly string[] =>
  findNodes(document, null, text, only).map(({ id }) => id);

describe('finding on a board', () => {
  it('finds by name, by type, by what a node feeds, by values and by findings', () => {
    expect(ids('NOISE')).toEqual(['wear']);
    expect(findNodes(document, null, 'ramp')).toMatchObject([
      { id: 'ramp', by: 'name' },
      { id: 'edge', by: 'feeds' },
    ]);
    expect(ids('scale')).toEqual(['wear']);
    const findings = [{ node: 'edge', message: 'The strand leads nowhere.' }];
    expect(ids('leads nowhere', { findings })).toEqual(['edge']);
    expect(ids('ramp', { only: 'feeds' })).toEqual(['edge']);
    expect(ids('nothing of that kind')).toEqual([]);
    expect(ids('')).toHaveLength(4);
  });
  it('finds by the dial that drives a node inside a group', () => {
    const grouped = groupSelection(document, {
      board: null,
      ids: ['wear'],
      name: 'Worn',
      path: [],
    });
    const [group] = Object.values(grouped.document.groups);
    if (!group) throw new Error('no group');
    const dialled = {
      ...grouped.document,
      groups: {
        [group.id]: {
          ...group,
          dials: [
            {
              id: 'd',
              name: 'Age',
              help: '',
              unit: '',
              section: '',
              kind: 'scalar' as const,
              home: 1,
              soft: [0, 2] as const,
              hard: [0, 9] as const,
              step: 0.01,
              drives: [{ node: 'wear', input: 'scale', law: 'times' as const }],
            },
          ],
        },
      },
    };
    expect(findNodes(dialled, group.id, 'age')).toMatchObject([{ id: 'wear', by: 'dial' }]);
    expect(findNodes(dialled, null, 'worn')).toMatchObject([{ by: 'name', type: 'Group Worn' }]);
  });
});

describe('kept views', () => {
  const view = { name: 'Rim', path: [], origin: [10, 20] as const, zoom: 0.5 };
  it('are replaced by name, and leave no trace when the last is dropped', () => {
    const one = keepView(document, view);
    const again = keepView(keepView(one, { ...view, name: 'Base' }), { ...view, zoom: 1 });
    expect(keptViews(again).map(({ name, zoom }) => [name, zoom])).toEqual([
      ['Rim', 1],
      ['Base', 0.5],
    ]);
    expect(new Set(keptViews(again).map(({ id }) => id)).size).toBe(2);
    const [kept] = keptViews(one);
    expect(dropView(one, kept?.id ?? '')).toEqual(document);
  });
});
