import fc from 'fast-check';
import { layStrands } from '@/features/board/lay-strands';
import type { BoardPoint, LooseStrand, Obstacle } from '@/features/board/lay-strands';
import { sampleStrand } from '@/features/board/strand-path';

const box = (id: string, left: number, top: number): Obstacle => ({
  id,
  left,
  top,
  right: left + 132,
  bottom: top + 190,
});
const strand = (from: BoardPoint, to: BoardPoint): LooseStrand => ({
  id: 's',
  source: 'a',
  target: 'b',
  from,
  to,
});
/** The cards a path runs behind, by looking at every card for every place. */
const crossed = (cards: readonly Obstacle[], places: readonly BoardPoint[]): string[] =>
  cards
    .filter(({ id }) => id !== 'a' && id !== 'b')
    .filter(({ left, right, top, bottom }) =>
      sampleStrand(places).some(([x, y]) => x > left && x < right && y > top && y < bottom),
    )
    .map(({ id }) => id);

describe('strands around cards', () => {
  const ends = [box('a', 0, 0), box('b', 800, 0)];
  const loose = strand([132, 60], [800, 60]);

  it('leaves a strand alone that runs free', () => {
    expect(layStrands([...ends, box('c', 400, 400)], [loose]).size).toBe(0);
  });
  it('passes a card that stands in between on its nearer side', () => {
    const cards = [...ends, box('c', 400, -20)];
    const through = layStrands(cards, [loose]).get('s')?.through ?? [];
    expect(through.every(([, y]) => y < -20)).toBe(true);
    expect(crossed(cards, [loose.from, ...through, loose.to])).toEqual([]);
  });
  it('goes on around a second card that stands in the way of the detour', () => {
    const cards = [...ends, box('c', 400, -20), box('d', 400, -240)];
    const through = layStrands(cards, [loose]).get('s')?.through ?? [];
    expect(crossed(cards, [loose.from, ...through, loose.to])).toEqual([]);
  });
  it('leaves a strand that runs backwards', () => {
    const cards = [...ends, box('c', 400, -20)];
    expect(layStrands(cards, [strand([932, 60], [0, 60])]).size).toBe(0);
  });
  it('never crosses more cards than straight, on any board', () => {
    const card = fc.record({
      left: fc.integer({ min: 150, max: 700 }),
      top: fc.integer({ min: -400, max: 400 }),
    });
    fc.assert(
      fc.property(fc.array(card, { maxLength: 12 }), (places) => {
        const cards = [
          ...ends,
          ...places.map(({ left, top }, k) => box(`c${String(k)}`, left, top)),
        ];
        const straight = crossed(cards, [loose.from, loose.to]).length;
        const laid = layStrands(cards, [loose]).get('s');
        if (!laid) return;
        const around = crossed(cards, [loose.from, ...laid.through, loose.to]).length;
        expect(around).toBeLessThan(straight);
      }),
      { numRuns: 300 },
    );
  });
});
