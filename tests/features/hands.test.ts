import { describe, expect, it } from '@jest/globals';
import type { BoardNode } from '@/features/board/board-elements';
import { atHand, cardAt, cardsWithin } from '@/features/board/use-crowd';
import { onBall } from '@/ui/DirectionBall';
import { roundTo, settle, slideByKey, speedOf, stepFor } from '@/ui/slide';

const PLAIN = { shiftKey: false, ctrlKey: false };
const SHIFT = { shiftKey: true, ctrlKey: false };
const CTRL = { shiftKey: false, ctrlKey: true };

describe('a slider', () => {
  const range = { low: 0, high: 2, step: 0.05 };
  it('is finer with Shift, coarser with Ctrl, and keeps whole numbers whole', () => {
    expect([PLAIN, SHIFT, CTRL].map((keys) => stepFor(range, keys))).toEqual([0.05, 0.005, 0.5]);
    expect([PLAIN, SHIFT].map((keys) => stepFor({ step: 1 }, keys))).toEqual([1, 1]);
    expect([speedOf(PLAIN), speedOf(SHIFT)]).toEqual([1, 0.1]);
  });
  it('settles on whole steps within its range, without digits of a division', () => {
    expect([0.31, 1.999, -1, 7].map((value) => settle(value, range))).toEqual([0.3, 2, 0, 2]);
    expect(settle(0.4, { low: 0.1, high: 1, step: 0.2 })).toBe(0.5);
    expect([roundTo(0.1 + 0.2, 0.1), roundTo(-0.34, 0.1)]).toEqual([0.3, -0.3]);
  });
  it('goes by keys', () => {
    const by = (key: string, keys = PLAIN): number | null => slideByKey(key, 1, range, keys);
    expect(by('ArrowRight')).toBe(1.05);
    expect(by('ArrowDown', SHIFT)).toBe(0.995);
    expect([by('PageUp'), by('Home'), by('End'), by('a')]).toEqual([1.5, 0, 2, null]);
  });
});

describe('a ball of directions', () => {
  it('is a unit sphere: its near half, its far half, and its rim beyond', () => {
    for (const isFront of [true, false])
      for (const [x, y] of [
        [0, 0],
        [0.5, -0.25],
        [3, 4],
      ] as const) {
        const at = onBall(x, y, isFront);
        expect(Math.hypot(...at)).toBeCloseTo(1, 12);
        expect(at[2] === 0 || at[2] > 0 === isFront).toBe(true);
      }
    expect(onBall(3, 4, true)).toEqual([0.6, 0.8, 0]);
  });
});

describe('a board of very many cards', () => {
  const card = (id: string, x: number, y: number, selected = false): BoardNode => ({
    id,
    type: 'card',
    position: { x, y },
    data: { nodeId: id, isDistant: true, output: null },
    measured: { width: 132, height: 170 },
    selected,
  });
  const cards = [card('a', 0, 0), card('b', 200, 0, true), card('c', 210, 10)];
  it('finds the card under the pointer, the last drawn of several', () => {
    expect(cardAt(cards, { x: 20, y: 160 })).toBe('a');
    expect(cardAt(cards, { x: 250, y: 50 })).toBe('c');
    expect(cardAt(cards, { x: 140, y: 50 })).toBeNull();
  });
  it('chooses what lies within a box, from any corner', () => {
    const box = { from: { x: 345, y: 190 }, to: { x: -5, y: -5 } };
    expect(cardsWithin(cards, box)).toEqual(['a', 'b', 'c']);
    expect(cardsWithin(cards, { from: { x: 150, y: -5 }, to: { x: 335, y: 172 } })).toEqual(['b']);
  });
  it('needs elements for those chosen and the one at hand, not for all', () => {
    expect(atHand(cards, 'c').map(({ id }) => id)).toEqual(['b', 'c']);
    const many = Array.from({ length: 5000 }, (_, k) => card(`n${String(k)}`, k, 0, true));
    expect(atHand(many, null)).toHaveLength(200);
  });
});
