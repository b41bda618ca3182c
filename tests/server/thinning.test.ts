/** Histories thinned out: what always stays, and that nothing depends on when it is done. */
import * as fc from 'fast-check';
import { ALL_KEPT_MS, HOURLY_KEPT_MS, revisionsToThin } from '@/server/thinning';
import type { HistoryMark } from '@/server/thinning';

const MINUTE_MS = 60_000,
  DAY_MS = 86_400_000;
const NOW = new Date('2026-11-28T12:00:00Z');

/** Up to a hundred days of work, in pauses of a minute to a day. */
const histories = fc
  .array(fc.record({ pause: fc.integer({ min: 1, max: 1440 }), isHeld: fc.boolean() }), {
    maxLength: 300,
  })
  .map((steps) => {
    let age = 0;
    const marks = steps.map(({ pause, isHeld }) => {
      age += pause * MINUTE_MS;
      return { savedAt: new Date(NOW.getTime() - age), isHeld: isHeld && age % 7 === 0 };
    });
    return marks.toReversed().map((mark, k): HistoryMark => ({ ...mark, number: k + 1 }));
  });
const left = (history: readonly HistoryMark[], at: Date): readonly HistoryMark[] => {
  const gone = new Set(revisionsToThin(history, at));
  return history.filter(({ number }) => !gone.has(number));
};
const numbers = (history: readonly HistoryMark[]): readonly number[] =>
  history.map(({ number }) => number);
const dayOf = ({ savedAt }: HistoryMark): string => savedAt.toISOString().slice(0, 10);

describe('thinning out a history', () => {
  it('keeps what is held, the first, the newest, the first of a day and what is young', () => {
    fc.assert(
      fc.property(histories, (history) => {
        const stays = new Set(numbers(left(history, NOW)));
        const days = new Set<string>();
        history.forEach((mark, k) => {
          const isFirstOfDay = !days.has(dayOf(mark));
          days.add(dayOf(mark));
          const isYoung = NOW.getTime() - mark.savedAt.getTime() < ALL_KEPT_MS;
          const isEnd = k === 0 || k === history.length - 1;
          if (mark.isHeld || isFirstOfDay || isYoung || isEnd)
            expect(stays.has(mark.number)).toBe(true);
        });
      }),
    );
  });
  it('comes to the same however often it is done on the way, in any order', () => {
    fc.assert(
      fc.property(
        histories,
        fc.array(fc.integer({ min: 0, max: 60 }), { maxLength: 8 }),
        (history, days) => {
          const later = days.toSorted((a, b) => a - b);
          const last = new Date(NOW.getTime() + 60 * DAY_MS);
          let stepwise: readonly HistoryMark[] = history;
          for (const day of later)
            stepwise = left(stepwise, new Date(NOW.getTime() + day * DAY_MS));
          expect(numbers(left(stepwise, last))).toEqual(numbers(left(history, last)));
          expect(revisionsToThin(history.toReversed(), NOW).toSorted((a, b) => a - b)).toEqual(
            revisionsToThin(history, NOW),
          );
        },
      ),
    );
  });
  it('leaves of a long day one revision an hour, and after thirty days one in all', () => {
    const start = new Date('2026-10-01T08:00:00Z');
    const day = Array.from({ length: 600 }, (_, k) => ({
      number: k + 1,
      savedAt: new Date(start.getTime() + k * MINUTE_MS),
      isHeld: k === 77,
    }));
    const history = [...day, { number: 601, savedAt: NOW, isHeld: false }];
    const after = (ms: number) => numbers(left(history, new Date(start.getTime() + ms)));
    expect(after(ALL_KEPT_MS)).toHaveLength(601);
    const hours = Array.from({ length: 10 }, (_, k) => 60 * (k + 1));
    expect(after(3 * DAY_MS)).toEqual([1, 60, 78, ...hours.slice(1), 601]);
    expect(after(HOURLY_KEPT_MS + DAY_MS)).toEqual([1, 78, 601]);
  });
});
