import { moveNodes, removeNodes, setValue } from '@/core/edit/nodes';
import type { NetworkDocument } from '@/core/graph/document';
import { SteadyCards, boardNodes } from '@/features/board/board-elements';
import { SteadyElements } from '@/features/board/steady';
import { documentOf, node } from '../support/networks';

interface Item {
  readonly id: string;
  readonly n: number;
}
const round = (elements: SteadyElements<Item>, parts: Readonly<Record<string, number>>) =>
  elements.round((element) => {
    for (const [id, n] of Object.entries(parts)) element(id, [n], () => ({ id, n }));
  });

const NOTHING_MEASURED = new Map();

describe('steady elements', () => {
  it('are the same objects while they are made of the same parts', () => {
    const elements = new SteadyElements<Item>();
    const first = round(elements, { a: 1, b: 2 });
    const second = round(elements, { a: 1, b: 3 });
    expect(second[0]).toBe(first[0]);
    expect(second[1]).toEqual({ id: 'b', n: 3 });
  });
  it('give the same list where none differs, another where one comes, goes or moves', () => {
    const elements = new SteadyElements<Item>();
    const first = round(elements, { a: 1, b: 2 });
    expect(round(elements, { a: 1, b: 2 })).toBe(first);
    expect(round(elements, { b: 2, a: 1 }).map(({ id }) => id)).toEqual(['b', 'a']);
    expect(round(elements, { a: 1 })).toHaveLength(1);
    expect(round(elements, { a: 1, b: 2 })[1]).not.toBe(first[1]);
  });
});

describe('the cards of a board', () => {
  const facts = (document: NetworkDocument, chosen: readonly string[] = []) => ({
    document,
    board: null,
    selection: new Set(chosen),
    measured: NOTHING_MEASURED,
    detail: 'near' as const,
  });
  const ids = ['a', 'b', 'c', 'd'];
  const start = documentOf(ids.map((id) => node(id, 'patterns.noise', { scale: 5 })));
  const edits: readonly ((document: NetworkDocument) => NetworkDocument)[] = [
    (document) => setValue(document, null, 'b', 'scale', 7),
    (document) => setValue(document, null, 'b', 'seed', 3),
    (document) => moveNodes(document, null, new Map([['c', [40, 60] as const]])),
    (document) => setValue(document, null, 'b', 'seed', undefined),
    (document) => removeNodes(document, null, ['a']),
    (document) => setValue(document, null, 'd', 'scale', 9),
  ];

  it('are those made anew, whichever way they came', () => {
    const cards = new SteadyCards();
    let document = start;
    for (const edit of [(same: NetworkDocument) => same, ...edits]) {
      document = edit(document);
      const anew = boardNodes(new SteadyElements(), facts(document));
      expect(cards.of(facts(document))).toEqual(anew);
    }
  });
  it('stay the same list while a value moves, and change for what is chosen', () => {
    const cards = new SteadyCards();
    const selection = new Set<string>();
    const before = cards.of({ ...facts(start), selection });
    const dragged = setValue(start, null, 'b', 'scale', 6);
    expect(cards.of({ ...facts(dragged), selection })).toBe(before);
    expect(cards.of(facts(dragged, ['b'])).map(({ selected }) => selected)).toContain(true);
  });
});
