import fc from 'fast-check';
import type { InputValue, Triple } from '@/core/graph/document';
import { curveOf, outputAt, valueAt } from '../support/evaluate';
import { documentOf, node } from '../support/networks';

const close = (actual: readonly number[], expected: readonly number[], digits = 4): void => {
  expect(actual).toHaveLength(expected.length);
  actual.forEach((value, k) => {
    expect(value).toBeCloseTo(expected[k] as number, digits);
  });
};
const part = fc.float({ min: -3, max: 3, noNaN: true });
const vector = fc.tuple(part, part, part);
const dot = (a: Triple, b: Triple): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

describe('vector math', () => {
  const of = (operation: string, a: Triple, b: Triple, degrees = 0): Triple =>
    valueAt('math.vector', 'vector', { a, b, degrees }, { operation }) as unknown as Triple;
  it('cross is square to both and has the area as length', () => {
    fc.assert(
      fc.property(vector, vector, (a, b) => {
        const across = of('cross', a, b);
        expect(Math.abs(dot(across, a)) + Math.abs(dot(across, b))).toBeLessThan(2e-4);
        expect(
          Math.abs(dot(across, across) - (dot(a, a) * dot(b, b) - dot(a, b) ** 2)),
        ).toBeLessThan(1e-2);
      }),
      { numRuns: 20, seed: 1 },
    );
    close(of('cross', [1, 0, 0], [0, 1, 0]), [0, 0, 1]);
  });
  it('normalise gives length 1, and 0 for 0', () => {
    close(of('normalise', [3, 0, 4], [0, 1, 0]), [0.6, 0, 0.8]);
    expect(of('normalise', [0, 0, 0], [0, 1, 0])).toEqual([0, 0, 0]);
  });
  it('reflecting twice changes nothing; project and flatten add up', () => {
    fc.assert(
      fc.property(vector, vector, (a, b) => {
        fc.pre(dot(b, b) > 0.01);
        close(of('reflect', of('reflect', a, b), b), [...a], 3);
        const [along, across] = [of('project', a, b), of('flatten', a, b)];
        close(
          along.map((x, k) => x + across[k as 0]),
          [...a],
          3,
        );
        expect(Math.abs(dot(across, b))).toBeLessThan(1e-3);
      }),
      { numRuns: 15, seed: 2 },
    );
  });
  it('rotates right-handed about its axis, and keeps lengths', () => {
    close(of('rotate', [1, 0, 0], [0, 0, 5], 90), [0, 1, 0]);
    close(of('rotate', [0, 0, 1], [0, 1, 0], 90), [1, 0, 0]);
    close(of('rotate', [1, 2, 3], [1, 1, 1], 120), [3, 1, 2]);
    close(of('rotate', [1, 0, 0], [0, 0, 0], 180), [1, 0, 0]);
  });
});

describe('measure', () => {
  const of = (operation: string, a: Triple, b: Triple): number =>
    valueAt('math.measure', 'value', { a, b }, { operation })[0] as number;
  it('measures by the textbook', () => {
    expect(of('dot', [1, 2, 3], [4, 5, 6])).toBe(32);
    expect(of('length', [2, 3, 6], [0, 0, 0])).toBe(7);
    expect(of('distance', [1, 1, 1], [3, 4, 7])).toBe(7);
    expect(of('angle', [1, 0, 0], [1, 1, 0])).toBeCloseTo(45, 3);
    expect(of('angle', [1, 0, 0], [-2, 0, 0])).toBeCloseTo(180, 3);
    expect(of('angle', [0, 0, 0], [1, 0, 0])).toBe(0);
  });
});

describe('switch', () => {
  it('chooses by whole numbers, going to the nearest end, or by a condition', () => {
    const values = { first: 10, second: 20, third: 30, fourth: 40, fifth: 50, sixth: 60 };
    expect(
      curveOf('math.switch', 'which', 'value', [-4, 0, 0.9, 1, 2, 4.99, 5, 77], values, {
        by: 'six',
      }),
    ).toEqual([10, 10, 10, 20, 30, 50, 60, 60]);
    expect(
      curveOf('math.switch', 'which', 'value', [-4, 1.5, 2, 77], values, { by: 'three' }),
    ).toEqual([10, 20, 30, 30]);
    expect(
      curveOf('math.switch', 'which', 'value', [0, 0.49, 0.5, 1], values, { by: 'two' }),
    ).toEqual([10, 10, 20, 20]);
  });
});

describe('transform', () => {
  const of = (
    at: Triple,
    values: Record<string, InputValue>,
    options: Record<string, string> = {},
  ): Triple =>
    valueAt(
      'coordinates.transform',
      'coordinates',
      { at, ...values },
      options,
    ) as unknown as Triple;
  it('scales, then turns about x, y, z, then moves', () => {
    close(of([1, 0, 0], { scale: [2, 1, 1], turn: [0, 0, 90], offset: [0, 0, 5] }), [0, 2, 5]);
    // About x first: y to z; then about y: z to x.
    close(of([0, 1, 0], { turn: [90, 90, 0] }), [1, 0, 0]);
    close(of([2, 1, 1], { scale: [3, 3, 3], pivot: [1, 1, 1] }), [4, 1, 1]);
    close(of([2, 1, 1], { offset: [9, 9, 9], pivot: [1, 1, 1] }, { kind: 'direction' }), [2, 1, 1]);
  });
  it('undo takes back what apply did', () => {
    fc.assert(
      fc.property(vector, vector, vector, (at, turn, offset) => {
        const values = {
          scale: [2, 0.5, -1.5] as Triple,
          turn: turn.map((x) => x * 60) as unknown as Triple,
          offset,
          pivot: [0.2, 0.4, -1] as Triple,
        };
        for (const kind of ['point', 'direction'])
          close(of(of(at, values, { kind }), values, { kind, direction: 'undo' }), [...at], 3);
      }),
      { numRuns: 20, seed: 3 },
    );
    expect(of([1, 1, 1], { scale: [0, 1, 1] }, { direction: 'undo' }).every(Number.isFinite)).toBe(
      true,
    );
  });
});

describe('facing direction and random', () => {
  it('facing is the cosine, and the mask keeps its band of it', () => {
    const of = (output: string, normal: Triple): number =>
      valueAt(
        'model.facing-direction',
        output,
        { direction: [0, 0, 2], centre: 1, width: 0.5, softness: 0.5 },
        {},
        { 'normal.x': [normal[0]], 'normal.y': [normal[1]], 'normal.z': [normal[2]] },
      )[0] as number;
    close([of('facing', [0, 0, 1]), of('facing', [0, 0.6, -0.8])], [1, -0.8]);
    close(
      [
        of('mask', [0, 0, 1]),
        of('mask', [0.6, 0, 0.8]),
        of('mask', [Math.sqrt(0.75), 0, 0.5]),
        of('mask', [1, 0, 0]),
      ],
      [1, 1, 0.5, 0],
    );
  });
  it('is even over whole numbers, the same each time, and another with another seed', () => {
    const numbers = Array.from({ length: 4000 }, (_, k) => k - 2000);
    const one = curveOf('model.random', 'number', 'value', numbers, { least: 2, most: 6 });
    expect(curveOf('model.random', 'number', 'value', numbers, { least: 2, most: 6 })).toEqual(one);
    const counts = new Array<number>(8).fill(0);
    for (const value of one) {
      const bin = Math.floor((value - 2) * 2);
      counts[bin] = (counts[bin] ?? 0) + 1;
    }
    // 500 expected in each of eight; five standard deviations are 105.
    for (const count of counts) expect(Math.abs(count - 500)).toBeLessThan(105);
    const other = curveOf('model.random', 'number', 'value', numbers, {
      least: 2,
      most: 6,
      seed: 1,
    });
    expect(
      other.filter((value, k) => Math.abs(value - (one[k] as number)) < 1e-3).length,
    ).toBeLessThan(20);
    expect(
      new Set(
        outputAt(documentOf([node('n', 'model.random', { number: 3 })]), 'n:colour', {}, 1).flat(),
      ).size,
    ).toBe(3);
  });
});
