import fc from 'fast-check';
import type { InputValue } from '@/core/graph/document';
import { curveOf, outputAt, valueAt } from '../support/evaluate';
import { documentOf, node, strand } from '../support/networks';

const unit = fc.float({ min: 0, max: 1, noNaN: true });
const masks = fc.array(unit, { minLength: 0, maxLength: 5 });
/** A node fed with constants on its many-strand input, in the order given. */
function folded(
  type: string,
  port: string,
  output: string,
  given: readonly number[],
  values: Record<string, InputValue> = {},
  options: Record<string, string> = {},
): number {
  const network = documentOf(
    [
      node('n', type, values, options),
      ...given.map((value, k) => node(`c${String(k)}`, 'constants.number', { value })),
    ],
    given.map((_, k) => strand(`c${String(k)}:value > n:${port}`, k)),
  );
  return outputAt(network, `n:${output}`, {}, 1)[0]?.[0] as number;
}

describe('masks in any number', () => {
  it('intersect by least, limited sum or product; none give none', () => {
    fc.assert(
      fc.property(masks, (given) => {
        const none = given.length === 0;
        const all = (mode: string): number =>
          folded('masks.intersect', 'masks', 'mask', given, {}, { mode });
        expect(all('least')).toBeCloseTo(none ? 0 : Math.min(...given), 5);
        expect(all('product')).toBeCloseTo(none ? 0 : given.reduce((x, y) => x * y, 1), 5);
        expect(all('sum')).toBeCloseTo(
          none ? 0 : given.slice(1).reduce((x, y) => Math.max(0, x + y - 1), given[0] as number),
          5,
        );
      }),
      { numRuns: 25, seed: 1 },
    );
  });
  it('exclude folds a + b − 2ab, in any order', () => {
    fc.assert(
      fc.property(masks, (given) => {
        // 1 − 2x turns the fold into a product.
        const expected = (1 - given.reduce((product, mask) => product * (1 - 2 * mask), 1)) / 2;
        expect(folded('masks.exclude', 'masks', 'mask', given)).toBeCloseTo(expected, 5);
        expect(folded('masks.exclude', 'masks', 'mask', [...given].reverse())).toBeCloseTo(
          expected,
          5,
        );
      }),
      { numRuns: 25, seed: 2 },
    );
  });
  it('minus takes shares or plain amounts away, never below 0', () => {
    fc.assert(
      fc.property(unit, masks, (mask, cuts) => {
        expect(folded('masks.minus', 'cuts', 'mask', cuts, { mask })).toBeCloseTo(
          cuts.reduce((left, cut) => left * (1 - cut), mask),
          5,
        );
        expect(
          folded('masks.minus', 'cuts', 'mask', cuts, { mask }, { mode: 'difference' }),
        ).toBeCloseTo(Math.max(0, mask - cuts.reduce((x, y) => x + y, 0)), 5);
      }),
      { numRuns: 25, seed: 3 },
    );
  });
  it('limits what arrives to 0–1 first', () => {
    expect(folded('masks.intersect', 'masks', 'mask', [2, 0.5], {}, { mode: 'product' })).toBe(0.5);
    expect(folded('masks.exclude', 'masks', 'mask', [-3, 7])).toBe(1);
    expect(folded('masks.minus', 'cuts', 'mask', [-1], { mask: 4 })).toBe(1);
  });
  it(
    'nearest of distances is their minimum; smoothing only lowers it, at most by a quarter ' +
      'of its width',
    () => {
      expect(folded('masks.nearest-of', 'distances', 'distance', [])).toBe(1);
      fc.assert(
        fc.property(
          fc.array(fc.float({ min: -4, max: 4, noNaN: true }), { minLength: 1, maxLength: 4 }),
          (given) => {
            const least = Math.min(...given);
            expect(folded('masks.nearest-of', 'distances', 'distance', given)).toBeCloseTo(
              least,
              5,
            );
            const smoothed = folded('masks.nearest-of', 'distances', 'distance', given, {
              smoothing: 0.4,
            });
            expect(smoothed).toBeLessThanOrEqual(least + 1e-5);
            expect(smoothed).toBeGreaterThanOrEqual(least - 0.1 * (given.length - 1) - 1e-5);
          },
        ),
        { numRuns: 25, seed: 4 },
      );
      expect(
        folded('masks.nearest-of', 'distances', 'distance', [1, 1], { smoothing: 0.4 }),
      ).toBeCloseTo(0.9, 5);
    },
  );
});

describe('break edge', () => {
  const at = Array.from({ length: 101 }, (_, k) => k / 100);
  it('without an amount cuts the mask again, hard or soft', () => {
    const again = curveOf('masks.break-edge', 'mask', 'mask', at, {
      amount: 0,
      level: 0.5,
      width: 0,
    });
    again.forEach((value, k) => {
      expect(value).toBe((at[k] as number) >= 0.5 ? 1 : 0);
    });
    expect(
      curveOf('masks.break-edge', 'mask', 'mask', [0.5], { amount: 0, level: 0.5, width: 0.2 })[0],
    ).toBeCloseTo(0.5, 5);
  });
  it('leaves hard masks alone below an amount of one half, and moves soft ones', () => {
    const lanes = {
      'position.x': Array.from({ length: 400 }, (_, k) => k * 0.013),
      'position.y': Array.from({ length: 400 }, (_, k) => k * 0.007),
    };
    for (const mask of [0, 1])
      expect(
        new Set(
          outputAt(
            documentOf([node('n', 'masks.break-edge', { mask, amount: 0.39, width: 0.1 })]),
            'n:mask',
            lanes,
            400,
          )[0],
        ),
      ).toEqual(new Set([mask]));
    const middle =
      outputAt(
        documentOf([node('n', 'masks.break-edge', { mask: 0.5, amount: 0.39, width: 0 })]),
        'n:mask',
        lanes,
        400,
      )[0] ?? [];
    const share = middle.reduce((sum, value) => sum + value, 0) / middle.length;
    expect(share).toBeGreaterThan(0.2);
    expect(share).toBeLessThan(0.8);
  });
});

describe('height blend', () => {
  const blend = (under: number, over: number, amount: number, width = 0.1): number =>
    valueAt('masks.height-blend', 'mask', { under, over, amount, width })[0] as number;
  it('gives none at amount 0 and all at 1, whatever the heights', () => {
    fc.assert(
      fc.property(unit, unit, unit, (under, over, width) => {
        expect(blend(under, over, 0, width)).toBeLessThanOrEqual(
          width === 0 && over - under === 1 ? 1 : 1e-6,
        );
        expect(blend(under, over, 1, width)).toBeGreaterThanOrEqual(1 - 1e-6);
      }),
      { numRuns: 40, seed: 5 },
    );
  });
  it(
    'meets where the heights are equal at one half, and rises with the amount and with the ' +
      'upper height',
    () => {
      expect(blend(0.3, 0.3, 0.5)).toBeCloseTo(0.5, 5);
      expect(blend(0.8, 0.2, 0.5)).toBe(0);
      expect(blend(0.2, 0.8, 0.5)).toBe(1);
      fc.assert(
        fc.property(unit, unit, unit, unit, (under, over, low, high) => {
          const [less, more] = [Math.min(low, high), Math.max(low, high)];
          expect(blend(under, over, less)).toBeLessThanOrEqual(blend(under, over, more) + 1e-6);
          expect(blend(under, less, over)).toBeLessThanOrEqual(blend(under, more, over) + 1e-6);
        }),
        { numRuns: 25, seed: 6 },
      );
    },
  );
});
