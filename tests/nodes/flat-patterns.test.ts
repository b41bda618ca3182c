import { seededRandom } from '@/core/base/random';
import type { InputValue } from '@/core/graph/document';
import { outputAt } from '../support/evaluate';
import { documentOf, node } from '../support/networks';

const COUNT = 6000;
const random = seededRandom(31);
const lanes = Object.fromEntries(
  ['x', 'y', 'z'].map((axis) => [
    `position.${axis}`,
    Array.from({ length: COUNT }, () => Math.fround(random() * 12 - 6)),
  ]),
);
type Values = Record<string, InputValue>;
const read = (
  type: string,
  output: string,
  values: Values = {},
  options: Record<string, string> = {},
  at: Record<string, readonly number[]> = lanes,
): number[] =>
  outputAt(
    documentOf([
      node('n', `patterns.${type}`, { scale: 1, ...values }, { per: 'unit', ...options }),
    ]),
    `n:${output}`,
    at,
    at['position.x']?.length ?? 0,
  )[0] ?? [];
const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;
const axis = (k: number, name: 'x' | 'y' | 'z'): number => lanes[`position.${name}`]?.[k] as number;
const fraction = (x: number): number => x - Math.floor(x);
/**
 * Compares with an independent formula at every point; points within rounding of a jump are passed
 * over, few as they are.
 */
function follows(
  values: readonly number[],
  formula: (x: number, y: number, z: number) => number,
  tolerance = 1e-4,
  jumps = 0.004,
): void {
  const off = values.filter(
    (value, k) => Math.abs(value - formula(axis(k, 'x'), axis(k, 'y'), axis(k, 'z'))) > tolerance,
  );
  expect(off.length / values.length).toBeLessThanOrEqual(jumps);
}

describe('stripes', () => {
  it('follow their four profiles', () => {
    follows(
      read('stripes', 'value', {}, { shape: 'sine' }),
      (_, y) => 0.5 + 0.5 * Math.sin(2 * Math.PI * y),
    );
    follows(read('stripes', 'value', { phase: 0.25 }, { shape: 'saw' }), (_, y) =>
      fraction(y + 0.25),
    );
    follows(
      read('stripes', 'value', { direction: [3, 0, 4] }, { shape: 'triangle' }),
      (x, _, z) => 1 - Math.abs(2 * fraction(0.6 * x + 0.8 * z) - 1),
    );
    follows(read('stripes', 'value', { whiteShare: 0.3 }, { shape: 'square' }), (_, y) =>
      fraction(y) < 0.3 ? 1 : 0,
    );
    follows(read('stripes', 'number', {}), (_, y) => Math.floor(y));
  });
  it('square form: white share as asked, 0 and 1 too, soft or hard', () => {
    for (const whiteShare of [0, 0.2, 0.75, 1])
      expect(
        mean(read('stripes', 'value', { whiteShare, softness: 0.1 }, { shape: 'square' })),
      ).toBeCloseTo(whiteShare, 1);
  });
});

describe('checks', () => {
  it('alternate in three or two axes, through zero without a double cell', () => {
    follows(
      read('checks', 'mask'),
      (x, y, z) => Math.abs(Math.floor(x) + Math.floor(y) + Math.floor(z)) % 2,
    );
    follows(
      read('checks', 'mask', {}, { axes: 'two' }),
      (x, y) => Math.abs(Math.floor(x) + Math.floor(y)) % 2,
    );
  });
});

describe('blocks', () => {
  const values = { length: 2, offset: 0.5, gap: 0.1, bevel: 0 };
  const place = (x: number, y: number): [number, number] => [
    fraction(x / 2 + 0.5 * (Math.abs(Math.floor(y)) % 2)),
    fraction(y),
  ];
  it('lie in shifted courses with joints between them', () => {
    follows(read('blocks', 'u', values), (x, y) => place(x, y)[0]);
    follows(read('blocks', 'v', values), (x, y) => place(x, y)[1]);
    follows(read('blocks', 'mask', values), (x, y) => {
      const [u, v] = place(x, y);
      return Math.min(Math.min(u, 1 - u) * 2, Math.min(v, 1 - v)) >= 0.05 ? 1 : 0;
    });
    // (2 − 0.1)/2 · (1 − 0.1): the share of a block without its half joints.
    expect(mean(read('blocks', 'mask', values))).toBeCloseTo(0.95 * 0.9, 1);
  });
  it('bevels rise from the joint to the face', () => {
    follows(read('blocks', 'height', { ...values, bevel: 0.2 }), (x, y) => {
      const [u, v] = place(x, y);
      return Math.min(
        1,
        Math.max(0, (Math.min(Math.min(u, 1 - u) * 2, Math.min(v, 1 - v)) - 0.05) / 0.2),
      );
    });
  });
  it('have one random number each, which the seed changes', () => {
    const [one, two] = [
      read('blocks', 'random', values),
      read('blocks', 'random', { ...values, seed: 4 }),
    ];
    const owners = new Map<string, number>();
    one.forEach((value, k) => {
      const [x, y] = [axis(k, 'x'), axis(k, 'y')];
      const key =
        `${String(Math.floor(x / 2 + 0.5 * (Math.abs(Math.floor(y)) % 2)))} ` +
        String(Math.floor(y));
      expect(owners.get(key) ?? value).toBe(value);
      owners.set(key, value);
    });
    expect(new Set(owners.values()).size).toBe(owners.size);
    expect(mean([...owners.values()])).toBeCloseTo(0.5, 0);
    expect(one.filter((value, k) => value === two[k])).toHaveLength(0);
  });
});

describe('hexagons', () => {
  it('border is the distance to the nearest side of the nearest centre', () => {
    const centres: [number, number][] = [];
    for (let j = -9; j <= 9; j++)
      for (let i = -9; i <= 9; i++)
        centres.push([i + (Math.abs(j) % 2) / 2, (j * Math.sqrt(3)) / 2]);
    follows(
      read('hexagons', 'border'),
      (x, y) => {
        // Half the gap between the two nearest centres’ projections is the distance to the side
        // between them.
        const distances = centres
          .map(([cx, cy]) => Math.hypot(x - cx, y - cy))
          .sort((a, b) => a - b);
        const [first = 0, second = 0] = distances;
        return (second * second - first * first) / 2;
      },
      1e-3,
    );
  });
  it('have joints of the width asked and a number each', () => {
    const border = read('hexagons', 'border');
    read('hexagons', 'mask', { gap: 0.2 }).forEach((value, k) => {
      expect(value).toBe((border[k] as number) >= Math.fround(0.1) ? 1 : 0);
    });
    expect(mean(read('hexagons', 'mask', { gap: 0.2 }))).toBeCloseTo(0.8 * 0.8, 1);
    const numbers = read('hexagons', 'random');
    expect(new Set(numbers).size).toBeLessThan(260);
    expect(mean(numbers)).toBeCloseTo(0.5, 1);
  });
});

describe('weave', () => {
  it(
    'plain: upright threads are on top on alternate crossings, and at a crossing’s middle ' +
      'highest',
    () => {
      const middle = {
        'position.x': [0.5, 1.5, 0.5, 1.5],
        'position.y': [0.5, 0.5, 1.5, 1.5],
        'position.z': [0, 0, 0, 0],
      };
      expect(read('weave', 'upright', {}, {}, middle)).toEqual([1, 0, 0, 1]);
      expect(read('weave', 'height', {}, {}, middle)).toEqual([1, 1, 1, 1]);
    },
  );
  it('twill goes over two and under two, a step further in each row', () => {
    const row = (y: number): string =>
      read(
        'weave',
        'upright',
        {},
        { binding: 'twill' },
        {
          'position.x': [0.5, 1.5, 2.5, 3.5, 4.5],
          'position.y': [y, y, y, y, y],
          'position.z': [0, 0, 0, 0, 0],
        },
      ).join('');
    expect([row(0.5), row(1.5)]).toEqual(['11001', '01100']);
  });
  it('holes are the share left open by both threads', () => {
    expect(mean(read('weave', 'mask', { width: 0.5 }))).toBeCloseTo(1 - 0.5 * 0.5, 1);
    expect(mean(read('weave', 'mask', { width: 1 }))).toBe(1);
  });
});

describe('scratches, speckle, ripples', () => {
  it('scratches: none at density 0, more with every layer, within 0–1', () => {
    expect(Math.max(...read('scratches', 'mask', { density: 0 }))).toBe(0);
    const few = mean(read('scratches', 'mask', { layers: 1, width: 0.3 }));
    const many = mean(read('scratches', 'mask', { layers: 6, width: 0.3 }));
    expect(many).toBeGreaterThan(few * 2);
    const all = read('scratches', 'mask', { layers: 12, density: 1, width: 0.3 });
    expect(Math.min(...all)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...all)).toBeLessThanOrEqual(1);
  });
  it('speckle covers the volume its spots have', () => {
    expect(Math.max(...read('speckle', 'mask', { density: 0 }))).toBe(0);
    // Two lattices of balls of diameter 1, half a cell apart; each ball shares a lens with eight of
    // the other lattice.
    const [ball, apart] = [Math.PI / 6, Math.sqrt(3) / 2];
    const lens = (Math.PI * (2 + apart) * (1 - apart) ** 2) / 12;
    for (const density of [0.5, 1]) {
      const share = 2 * density * ball - 8 * density * density * lens;
      expect(
        Math.abs(
          mean(read('speckle', 'mask', { density, size: 1, variation: 0, softness: 0 })) - share,
        ),
      ).toBeLessThan(density === 1 ? 0.01 : 0.03);
    }
  });
  it('ripples are rings about their centre, and never leave 0–1 with many sources', () => {
    follows(
      read('ripples', 'value', { centre: [1, 0, -1], phase: 0.2 }),
      (x, y, z) => 0.5 + 0.5 * Math.sin(2 * Math.PI * (Math.hypot(x - 1, y, z + 1) - 0.2)),
      1e-3,
    );
    const many = read('ripples', 'value', { sources: 16, spread: 2 });
    expect(Math.min(...many)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...many)).toBeLessThanOrEqual(1);
  });
});

describe('hatch', () => {
  it.each(['lines', 'dots', 'crossed'] as const)(
    '%s leave as much paper as the tone says',
    (mark) => {
      for (const tone of [0, 0.1, 0.35, 0.5, 0.65, 0.9, 1])
        expect(
          Math.abs(mean(read('hatch', 'paper', { tone, angle: 30 }, { mark })) - tone),
        ).toBeLessThan(0.025);
    },
  );
});

describe('distort', () => {
  it(
    'with amount 0 changes nothing; otherwise each axis moves by its own noise, at most by ' +
      'the amount',
    () => {
      const moved = (amount: number): number[][] =>
        outputAt(
          documentOf([
            node('n', 'patterns.distort', { scale: 1, amount, octaves: 1 }, { per: 'unit' }),
          ]),
          'n:coordinates',
          lanes,
          COUNT,
        );
      (['x', 'y', 'z'] as const).forEach((name, k) => {
        expect(moved(0)[k]).toEqual(lanes[`position.${name}`]);
      });
      const shifts = moved(0.3).map((lane, k) =>
        lane.map((value, at) => value - axis(at, (['x', 'y', 'z'] as const)[k as 0])),
      );
      for (const lane of shifts) {
        expect(Math.max(...lane.map(Math.abs))).toBeLessThanOrEqual(0.3001);
        expect(Math.max(...lane.map(Math.abs))).toBeGreaterThan(0.1);
      }
      const [sx, sy] = shifts as [number[], number[]];
      const product = mean(sx.map((value, k) => value * (sy[k] as number)));
      expect(Math.abs(product) / mean(sx.map((value) => value * value))).toBeLessThan(0.1);
    },
  );
});
