import { copyNodes } from '@/core/edit/clip';
import { addNode, setValue } from '@/core/edit/nodes';
import { groupSelection } from '@/core/edit/group';
import { tidyNodes } from '@/core/edit/tidy';
import { LIMITS } from '@/core/graph/document';
import type { NetworkDocument } from '@/core/graph/document';
import { readClip } from '@/state/clipboard';
import { boardAt } from '@/core/edit/board';
import {
  commit,
  currentBoard,
  endGesture,
  enterGroup,
  frameAll,
  frameSelection,
  goBack,
  goForward,
  goTo,
  keyOnBoard,
  leaveTo,
  openDocument,
  redo,
  select,
  togglePanel,
  togglePin,
  toggleStageAlone,
  undo,
} from '@/state/editing';
import { stores } from '@/state/stores';
import { documentOf, node, randomDocument } from '../support/networks';

const start = documentOf(
  [node('n', 'patterns.noise', { scale: 5 }), node('s', 'ranges.smoothstep')],
  ['n:value > s:value'],
);
const scale = (document: NetworkDocument = stores.document.getState().document): unknown =>
  document.network.nodes.find((each) => each.id === 'n')?.values['scale'];
const put = (value: number, gesture: string | null = null): void => {
  commit('Set scale', (document, board) => setValue(document, board, 'n', 'scale', value), gesture);
};
beforeEach(() => {
  openDocument({ document: start, materialId: 'm', modelId: 'x', revision: 1 });
});

describe('history', () => {
  it(
    'goes back and forth by named steps, and forgets what was undone once something new is ' +
      'done',
    () => {
      put(6);
      put(7);
      expect([undo(), scale(), undo(), scale(), undo()]).toEqual([
        'Set scale',
        6,
        'Set scale',
        5,
        null,
      ]);
      expect([redo(), scale()]).toEqual(['Set scale', 6]);
      put(9);
      expect(redo()).toBeNull();
      expect([undo(), scale()]).toEqual(['Set scale', 6]);
    },
  );
  it('makes one step of a gesture, however many changes it has, and a new one of the next', () => {
    for (const value of [6, 7, 8]) put(value, 'drag');
    endGesture();
    put(9, 'drag');
    expect([undo(), scale(), undo(), scale()]).toEqual(['Set scale', 8, 'Set scale', 5]);
  });
  it('keeps no step where nothing changed', () => {
    commit('Nothing', (document) => document);
    const { past, edits } = stores.document.getState();
    expect([past.length, edits, undo()]).toEqual([0, 0, null]);
  });
  it('keeps the last 300 steps', () => {
    for (let k = 0; k < 320; k++) put(k + 10);
    let steps = 0;
    while (undo() !== null) steps++;
    expect(steps).toBe(300);
    expect(scale()).toBe(29);
  });
  it('counts whatever is to be saved, undoing too, and begins anew with another material', () => {
    put(6);
    undo();
    expect(stores.document.getState().edits).toBe(2);
    openDocument({ document: start, materialId: 'other', modelId: 'x', revision: 3 });
    expect(stores.document.getState()).toMatchObject({ edits: 0, past: [], future: [] });
  });
});

describe('boards', () => {
  const grouped = (): string => {
    let id = '';
    commit('Packaged', (document, board) => {
      const made = groupSelection(document, { board, ids: ['n'], name: 'Grain', path: [] });
      id = made.nodeId;
      return made.document;
    });
    return id;
  };
  it('opens a group, and comes out again when undo takes the group away', () => {
    const id = grouped();
    enterGroup(id);
    expect(currentBoard()).not.toBeNull();
    put(11);
    expect(scale(start)).toBe(5);
    undo();
    undo();
    expect(stores.view.getState().path).toEqual([]);
    expect(currentBoard()).toBeNull();
    expect(scale()).toBe(5);
  });
  it('goes no deeper than there are groups', () => {
    const id = grouped();
    const { document } = stores.document.getState();
    expect(boardAt(document, [id, 'nowhere', 'at all'])).toBe(boardAt(document, [id]));
    expect(boardAt(document, ['nowhere'])).toBeNull();
    enterGroup(id);
    leaveTo(0);
    expect(currentBoard()).toBeNull();
  });
  it('shows a board with a card or strand of it chosen, and asks for all cards', () => {
    const id = grouped();
    goTo([id], { node: 'n' });
    expect(stores.view.getState()).toMatchObject({
      path: [id],
      selection: ['n'],
      asked: { show: 'near', ids: ['n'] },
    });
    goTo([], { node: id, strand: 'w1' });
    expect(stores.view.getState()).toMatchObject({ selection: [], chosenStrand: 'w1' });
    frameAll();
    expect(stores.view.getState().asked).toEqual({ show: 'all' });
    select([]);
    frameSelection();
    expect(stores.view.getState().asked).toEqual({ show: 'all' });
    select(['n', 'note~1']);
    frameSelection();
    expect(stores.view.getState().asked).toEqual({ show: 'cards', ids: ['n'] });
  });
  it('goes back to the places that were left, and forward again', () => {
    const id = grouped();
    const [first, second] = [
      { x: 1, y: 2, zoom: 0.5 },
      { x: 3, y: 4, zoom: 1 },
    ];
    stores.view.setState({ boardView: first });
    enterGroup(id);
    stores.view.setState({ boardView: second });
    goTo([], { node: id });
    expect(goBack()).toBe(true);
    expect(stores.view.getState()).toMatchObject({
      path: [id],
      asked: { show: 'view', view: second },
    });
    expect(goBack()).toBe(true);
    expect(stores.view.getState()).toMatchObject({ path: [], asked: { view: first } });
    expect(goBack()).toBe(false);
    expect(goForward()).toBe(true);
    expect(stores.view.getState().path).toEqual([id]);
    leaveTo(0);
    expect(goForward()).toBe(false);
  });
  it('makes no edit that would pass a limit, and says which', () => {
    const nodes = Array.from({ length: LIMITS.nodes }, (_, k) =>
      node(`n${String(k)}`, 'patterns.noise'),
    );
    const full = documentOf(nodes);
    openDocument({ document: full, materialId: 'm', modelId: 'demo-tile', revision: 1 });
    commit(
      'Added Noise',
      (document, board) => addNode(document, board, 'patterns.noise', [0, 0]).document,
    );
    expect(stores.document.getState().document).toBe(full);
    expect(stores.results.getState().problem).toMatchObject({
      code: 'document.limit',
      message: 'A board holds at most 5,000 nodes.',
      kept: 'Nothing was changed.',
    });
    commit('Set scale', (document, board) => setValue(document, board, 'n7', 'scale', 3));
    expect(stores.document.getState().document).not.toBe(full);
  });
  it('hides parts of the window, but never all of them', () => {
    togglePanel('bench');
    expect([...stores.view.getState().hidden]).toEqual(['bench']);
    togglePanel('board');
    togglePanel('stage');
    expect(stores.view.getState().hidden.has('stage')).toBe(false);
    toggleStageAlone();
    expect(stores.view.getState().hidden.size).toBe(0);
    toggleStageAlone();
    expect([...stores.view.getState().hidden].sort()).toEqual(['bench', 'board', 'front']);
    toggleStageAlone();
  });
  it('pins one output at a time, and unpins by the same press', () => {
    const [a, b] = [keyOnBoard([], 'n', 'value'), keyOnBoard(['g1', 'g2'], 'n', 'value')];
    expect([a, b]).toEqual(['n:value', 'g1/g2/n:value']);
    togglePin(a);
    togglePin(b);
    expect(stores.view.getState().pin).toBe(b);
    togglePin(b);
    expect(stores.view.getState().pin).toBeNull();
    select(['n'], 'w1');
    const { selection, chosenStrand } = stores.view.getState();
    expect([selection, chosenStrand]).toEqual([['n'], 'w1']);
  });
});

describe('the clipboard', () => {
  it('reads what was copied, and nothing else', () => {
    const clip = copyNodes(start, null, ['n', 's']);
    expect(readClip(JSON.stringify(clip))).toEqual({ clip });
    for (const text of [
      '',
      'some prose',
      '{}',
      'null',
      JSON.stringify({ ...clip, format: 'other' }),
      JSON.stringify({ ...clip, nodes: [{ ...clip.nodes[0], type: 'no.such' }] }),
    ])
      expect(readClip(text)).not.toHaveProperty('clip');
  });
});

describe('tidying', () => {
  it('puts every node left of what it feeds, and no two in one place', () => {
    for (let seed = 1; seed <= 12; seed++) {
      const { network } = randomDocument(seed, 14);
      const places = new Map(tidyNodes(network).map((each) => [each.id, each.at]));
      for (const { from, to } of network.strands)
        if (places.has(to.node))
          expect(places.get(from.node)?.[0] ?? NaN).toBeLessThan(places.get(to.node)?.[0] ?? NaN);
      expect(new Set([...places.values()].map((at) => at.join())).size).toBe(network.nodes.length);
    }
  });
  it('keeps new ids apart', () => {
    let document = start;
    const ids = Array.from({ length: 30 }, () => {
      const added = addNode(document, null, 'patterns.noise', [0, 0]);
      document = added.document;
      return added.id;
    });
    expect(new Set([...ids, 'n', 's']).size).toBe(32);
  });
});
