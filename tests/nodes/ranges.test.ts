import fc from 'fast-check';
import { curveOf, outputAt, valueAt } from '../support/evaluate';
import { documentOf, node } from '../support/networks';

const close = (actual: readonly number[], expected: readonly number[], digits = 5): void => {
  expect(actual).toHaveLength(expected.length);
  actual.forEach((value, k) => {
    expect(value).toBeCloseTo(expected[k] as number, digits);
  });
};
const ease = (t: number): number => {
  const u = Math.min(1, Math.max(0, t));
  return u * u * (3 - 2 * u);
};
const limit = (x: number): number => Math.min(1, Math.max(0, x));
const within = fc.float({ min: -2, max: 3, noNaN: true });

describe('compare', () => {
  it('is strict for greater and less, and equal within the tolerance', () => {
    const at = [0.4, 0.5, 0.6];
    close(curveOf('ranges.compare', 'a', 'mask', at, { b: 0.5 }), [0, 0, 1]);
    close(curveOf('ranges.compare', 'a', 'mask', at, { b: 0.5 }, { operation: 'less' }), [1, 0, 0]);
    close(
      curveOf('ranges.compare', 'a', 'mask', at, { b: 0.5 }, { operation: 'equal' }),
      [0, 1, 0],
    );
    close(
      curveOf(
        'ranges.compare',
        'a',
        'mask',
        [0.2, ...at],
        { b: 0.5, tolerance: 0.125 },
        { operation: 'equal' },
      ),
      [0, 1, 1, 1],
    );
    close(
      curveOf('ranges.compare', 'a', 'mask', at, { b: 0.5, tolerance: -1 }, { operation: 'equal' }),
      [0, 1, 0],
    );
  });
});

describe('contrast, lift, squeeze and slide', () => {
  it('follow their formulas and keep what they promise to keep', () => {
    fc.assert(
      fc.property(
        fc.array(within, { minLength: 4, maxLength: 4 }),
        within,
        within,
        (at, first, second) => {
          close(
            curveOf('ranges.contrast', 'value', 'value', [...at, second], {
              contrast: 2.5,
              pivot: second,
            }),
            [...at.map((x) => second + (x - second) * 2.5), second],
            4,
          );
          close(
            curveOf('ranges.lift', 'value', 'value', at, { lift: first }),
            at.map((x) => x + first - 1),
            4,
          );
          close(
            curveOf('ranges.squeeze', 'value', 'value', at, { width: first, place: second }),
            at.map((x) => x * first + second * (1 - first)),
            4,
          );
          close(
            curveOf('ranges.slide', 'value', 'value', at, { shift: first }),
            at.map((x) => limit(x + first)),
            4,
          );
        },
      ),
      { numRuns: 20, seed: 5 },
    );
  });
  it('slide wraps round', () => {
    close(
      curveOf(
        'ranges.slide',
        'value',
        'value',
        [0.25, 0.75, -0.5],
        { shift: 0.5 },
        { edge: 'wrap' },
      ),
      [0.75, 0.25, 0],
    );
  });
  it('home values change nothing', () => {
    const at = [-0.5, 0, 0.3, 1, 2].map(Math.fround);
    expect(curveOf('ranges.contrast', 'value', 'value', at, { contrast: 1, pivot: 0 })).toEqual(at);
    expect(curveOf('ranges.lift', 'value', 'value', at, { lift: 1 })).toEqual(at);
    expect(curveOf('ranges.squeeze', 'value', 'value', at, { width: 1 })).toEqual(at);
  });
});

describe('band', () => {
  it('keeps its width whole and eases outwards on both sides alike', () => {
    const settings = { centre: 0.5, width: 0.2, softness: 0.1 };
    const at = [0.25, 0.325, 0.35, 0.4, 0.5, 0.6, 0.65, 0.675, 0.75];
    close(
      curveOf('ranges.band', 'value', 'mask', at, settings),
      at.map((x) => 1 - ease((Math.abs(x - 0.5) - 0.1) / 0.1)),
      4,
    );
  });
  it('at softness 0 is hard, and at width 0 a line', () => {
    close(
      curveOf('ranges.band', 'value', 'mask', [0.3, 0.45, 0.7], {
        centre: 0.5,
        width: 0.25,
        softness: 0,
      }),
      [0, 1, 0],
    );
    close(
      curveOf('ranges.band', 'value', 'mask', [0.499, 0.501], {
        centre: 0.5,
        width: 0,
        softness: 0,
      }),
      [0, 0],
    );
    close(
      curveOf('ranges.band', 'value', 'mask', [0.4, 0.6], { centre: 0.5, width: -3, softness: -1 }),
      [0, 0],
    );
  });
});

describe('stretch to range', () => {
  it('carries the measured ends onto 0 and 1, reversed ends too; equal ends step', () => {
    close(
      curveOf('ranges.stretch-to-range', 'value', 'value', [2, 3, 4, 5], { least: 2, most: 4 }),
      [0, 0.5, 1, 1.5],
    );
    close(
      curveOf('ranges.stretch-to-range', 'value', 'value', [2, 4], { least: 4, most: 2 }),
      [1, 0],
    );
    close(
      curveOf('ranges.stretch-to-range', 'value', 'value', [0.49, 0.5], { least: 0.5, most: 0.5 }),
      [0, 1],
    );
  });
});

describe('posterise', () => {
  it('gives n even bands by min(⌊tn⌋, n − 1)/max(n − 1, 1)', () => {
    fc.assert(
      fc.property(
        fc.array(within, { minLength: 6, maxLength: 6 }),
        fc.integer({ min: 1, max: 9 }),
        (at, bands) => {
          // Values on a border may fall either way in single precision.
          const clear = at.filter(
            (x) =>
              Math.abs(limit(x) * bands - Math.round(limit(x) * bands)) > 1e-4 || x <= 0 || x >= 1,
          );
          const expected = clear.map(
            (x) => Math.min(Math.floor(limit(x) * bands), bands - 1) / Math.max(bands - 1, 1),
          );
          close(curveOf('ranges.posterise', 'value', 'value', clear, { bands }), expected);
        },
      ),
      { numRuns: 25, seed: 9 },
    );
  });
  it('softness makes it a continuous passage that never falls', () => {
    const at = Array.from({ length: 201 }, (_, k) => k / 200);
    const values = curveOf('ranges.posterise', 'value', 'value', at, { bands: 4, softness: 1 });
    values.forEach((value, k) => {
      if (k > 0) {
        expect(value - (values[k - 1] ?? 0)).toBeGreaterThanOrEqual(-1e-6);
        expect(value - (values[k - 1] ?? 0)).toBeLessThan(0.03);
      }
    });
    expect([values[0], values[200]]).toEqual([0, 1]);
  });
  it('takes absurd band counts', () => {
    expect(valueAt('ranges.posterise', 'value', { value: 0.7, bands: 0 })).toEqual([0]);
    expect(valueAt('ranges.posterise', 'value', { value: 0.7, bands: -5 })).toEqual([0]);
  });
});

describe('nodes for any kind of value', () => {
  it('work lane by lane', () => {
    const network = documentOf(
      [
        node('v', 'constants.vector', { vector: [0.1, 0.5, 2] }),
        node('n', 'ranges.slide', { shift: 0.25 }),
      ],
      ['v:vector > n:value'],
    );
    const lanes = outputAt(network, 'n:value', {}, 1).map((lane) => lane[0] as number);
    close(lanes, [0.35, 0.75, 1]);
  });
});
