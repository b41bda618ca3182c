import { SteadyElements } from '@/features/board/steady';

interface Item {
  readonly id: string;
  readonly n: number;
}
const round = (elements: SteadyElements<Item>, parts: Readonly<Record<string, number>>) =>
  elements.round((element) => {
    for (const [id, n] of Object.entries(parts)) element(id, [n], () => ({ id, n }));
  });

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
