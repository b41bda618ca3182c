import type { FillResult } from '@/core/evaluate/fill';
import { AppError } from '@/core/base/diagnostic';
import { buffersOfFill, joinFill } from '@/state/fill-parts';
import { reconcileTaps } from '@/state/reconcile-taps';
import { WorkerProblem, attempt, isLost, lostWorker, unwrap } from '@/workers/answer';
import type { TapResult } from '@/core/evaluate/tap-results';

const tap = (key: string, shade: number, maximum = 1): TapResult => ({
  key,
  kind: 'scalar',
  isKnown: true,
  histogram: Uint32Array.of(1, 2),
  picture: { width: 1, height: 1, pixels: Uint8ClampedArray.of(shade, shade, shade, 255) },
  statistics: {
    minimum: 0,
    maximum,
    mean: 0.5,
    below: 0,
    above: 0,
    notANumber: 0,
    lanes: [],
    constant: false,
  },
});

describe('results of all nodes', () => {
  const all = new Set(['a:x', 'b:x', 'c:x']);
  const first = reconcileTaps(new Map(), [tap('a:x', 10), tap('b:x', 20)], all);
  it('stay the objects they were where nothing is new, in all or in part', () => {
    expect(reconcileTaps(first, [tap('a:x', 10), tap('b:x', 20)], all)).toBe(first);
    const after = reconcileTaps(first, [tap('a:x', 10), tap('b:x', 21)], all);
    expect(after).not.toBe(first);
    expect(after.get('a:x')).toBe(first.get('a:x'));
    expect(after.get('b:x')?.picture.pixels[0]).toBe(21);
  });
  it('are new when only a number is; those not asked for stay, those gone go', () => {
    expect(reconcileTaps(first, [tap('a:x', 10, 2)], all).get('a:x')?.statistics?.maximum).toBe(2);
    expect([...reconcileTaps(first, [tap('c:x', 1)], all).keys()]).toEqual(['a:x', 'b:x', 'c:x']);
    expect([...reconcileTaps(first, [], new Set(['a:x'])).keys()]).toEqual(['a:x']);
    expect([...reconcileTaps(first, [tap('c:x', 1)], new Set(['a:x'])).keys()]).toEqual(['a:x']);
  });
});

describe('values shared out over workers', () => {
  const part = (...lanes: number[][]): FillResult => ({
    kind: 'colour',
    isKnown: true,
    lanes: lanes.map((lane) => Float32Array.from(lane)),
  });
  it('are put together in the order of their points; a lane that none gave stays empty', () => {
    const given = {
      kind: 'colour' as const,
      count: 5,
      share: 4,
      parts: [part([1, 2, 3, 4], [], [9, 9, 9, 9]), part([5], [], [])],
    };
    expect(joinFill(given).lanes.map((lane) => [...lane])).toEqual([
      [1, 2, 3, 4, 5],
      [],
      [9, 9, 9, 9, 0],
    ]);
    expect(buffersOfFill(given)).toHaveLength(6);
  });
  it('need no putting together where one worker gave all', () => {
    const alone = part([1, 2]);
    expect(joinFill({ kind: 'colour', count: 2, share: 4, parts: [alone] }).lanes).toBe(
      alone.lanes,
    );
  });
});

describe('what goes wrong in a worker', () => {
  it('crosses threads as data and is thrown again with what a person can do', async () => {
    const answer = await attempt(() => {
      throw new AppError('model.broken', 'It is broken.', 'Export it again.');
    });
    expect(answer).toMatchObject({ failed: true, code: 'model.broken' });
    await expect(unwrap(Promise.resolve(answer))).rejects.toMatchObject({
      message: 'It is broken.',
      action: 'Export it again.',
    });
    expect(await unwrap(attempt(() => 7))).toBe(7);
  });
  it('keeps its kind when it passes a second worker', async () => {
    const once = unwrap(
      attempt(() => {
        throw new WorkerProblem({
          code: 'compile.failed',
          message: 'No.',
          kept: '',
          action: 'Undo.',
        });
      }),
    );
    await expect(unwrap(attempt(() => once))).rejects.toMatchObject({
      code: 'compile.failed',
      action: 'Undo.',
    });
    expect(isLost(lostWorker())).toBe(true);
    expect(isLost(new Error('x'))).toBe(false);
  });
});
