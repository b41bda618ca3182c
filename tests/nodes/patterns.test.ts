import { seededRandom } from '@/core/base/random';
import { documentOf, node } from '../support/networks';
import { outputAt } from '../support/evaluate';

const COUNT = 20000;
const random = seededRandom(12);
const lanes = Object.fromEntries(
  ['x', 'y', 'z'].map((axis) => [
    `position.${axis}`,
    Float32Array.from({ length: COUNT }, () => random() * 40 - 20),
  ]),
);
const pattern = (
  type: string,
  output: string,
  values: Record<string, number> = {},
  options: Record<string, string> = {},
): Float32Array =>
  Float32Array.from(
    outputAt(
      documentOf([node('n', type, { scale: 1, ...values }, { per: 'unit', ...options })]),
      `n:${output}`,
      lanes,
      COUNT,
    )[0] ?? [],
  );
const mean = (values: Float32Array): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;
const spread = (values: Float32Array): number => {
  const middle = mean(values);
  return Math.sqrt(mean(values.map((value) => (value - middle) ** 2)));
};
const least = (values: Float32Array): number =>
  values.reduce((low, value) => Math.min(low, value), Infinity);
const most = (values: Float32Array): number =>
  values.reduce((high, value) => Math.max(high, value), -Infinity);

describe('noise', () => {
  it.each([
    ['gradient', 0.13],
    ['value', 0.2002],
  ] as const)('%s stays within 0–1 with mean ½ and its spread', (basis, deviation) => {
    const values = pattern('patterns.noise', 'value', {}, { basis });
    expect(least(values)).toBeGreaterThanOrEqual(0);
    expect(most(values)).toBeLessThanOrEqual(1);
    expect(mean(values)).toBeCloseTo(0.5, 2);
    // Value noise: ½·√((∫ f² + (1 − f)²)³/3) with the quintic blend f; gradient noise as
    // measured.
    expect(Math.abs(spread(values) - deviation)).toBeLessThan(0.012);
  });

  it('is 0 at lattice points, and continuous across the borders of cells', () => {
    const at = (x: number): number =>
      outputAt(
        documentOf([node('n', 'patterns.noise', { scale: 1 }, { per: 'unit' })]),
        'n:signed',
        { 'position.x': [x], 'position.y': [0.37], 'position.z': [0.81] },
        1,
      )[0]?.[0] ?? NaN;
    const lattice = outputAt(
      documentOf([node('n', 'patterns.noise', { scale: 1 }, { per: 'unit' })]),
      'n:signed',
      { 'position.x': [3], 'position.y': [-7], 'position.z': [11] },
      1,
    )[0]?.[0];
    expect(Math.abs(lattice ?? 1)).toBe(0);
    for (const border of [-2, 0, 1, 5])
      expect(Math.abs(at(border - 1e-4) - at(border + 1e-4))).toBeLessThan(1e-3);
  });

  it('changes wholly with the seed, and not from run to run', () => {
    const [a, b, again] = [
      pattern('patterns.noise', 'value'),
      pattern('patterns.noise', 'value', { seed: 1 }),
      pattern('patterns.noise', 'value'),
    ];
    expect(again).toEqual(a);
    const correlation =
      mean(a.map((value, k) => (value - 0.5) * ((b[k] as number) - 0.5))) / (spread(a) * spread(b));
    expect(Math.abs(correlation)).toBeLessThan(0.03);
  });

  it.each(['gradient', 'value'] as const)(
    '%s: opposite points share nothing, in the coordinate planes neither',
    (basis) => {
      const flat = (sign: number): number[] =>
        outputAt(
          documentOf([node('n', 'patterns.noise', { scale: 1 }, { per: 'unit', basis })]),
          'n:value',
          {
            'position.x': lanes['position.x']?.map((value) => value * sign) ?? [],
            'position.y': lanes['position.y']?.map((value) => value * sign) ?? [],
          },
          COUNT,
        )[0] ?? [];
      const [here, there] = [flat(1), flat(-1)].map((values) => Float32Array.from(values)) as [
        Float32Array,
        Float32Array,
      ];
      const correlation =
        mean(here.map((value, k) => (value - 0.5) * ((there[k] as number) - 0.5))) /
        (spread(here) * spread(there));
      expect(Math.abs(correlation)).toBeLessThan(0.06);
    },
  );

  it('favours no axis', () => {
    const step = 0.3;
    const shifted = (axis: string): number => {
      const moved = {
        ...lanes,
        [`position.${axis}`]:
          lanes[`position.${axis}`]?.map((value) => value + step) ?? new Float32Array(),
      };
      const there =
        outputAt(
          documentOf([node('n', 'patterns.noise', { scale: 1 }, { per: 'unit' })]),
          'n:value',
          moved,
          COUNT,
        )[0] ?? [];
      const here = pattern('patterns.noise', 'value');
      return mean(here.map((value, k) => (value - (there[k] as number)) ** 2));
    };
    const [x, y, z] = ['x', 'y', 'z'].map(shifted) as [number, number, number];
    for (const other of [y, z]) expect(Math.abs(other / x - 1)).toBeLessThan(0.03);
  });
});

describe('fractal noise', () => {
  it(
    'stays within 0–1 for every fold, gains detail with octaves, and moves smoothly ' +
      'between whole numbers of them',
    () => {
      for (const fold of ['none', 'ridged', 'billow']) {
        const values = pattern(
          'patterns.fractal-noise',
          'value',
          { octaves: 7, stretch: 3 },
          { fold },
        );
        expect(least(values)).toBeGreaterThanOrEqual(0);
        expect(most(values)).toBeLessThanOrEqual(1);
      }
      const [four, between, five] = [4, 4.0001, 5].map((octaves) =>
        pattern('patterns.fractal-noise', 'value', { octaves }),
      ) as [Float32Array, Float32Array, Float32Array];
      expect(most(four.map((value, k) => Math.abs(value - (between[k] as number))))).toBeLessThan(
        1e-3,
      );
      expect(most(four.map((value, k) => Math.abs(value - (five[k] as number))))).toBeGreaterThan(
        0.01,
      );
    },
  );
});

/** The same points, by searching 343 cells without any of the shortcuts. */
function bruteCells(px: number, py: number, pz: number, jitter: number): number[] {
  const mix = (word: number): number => {
    let h = word ^ (word >>> 15);
    h = Math.imul(h, 0x2c1b3c6d);
    h ^= h >>> 12;
    h = Math.imul(h, 0x297a2d39);
    return h ^ (h >>> 15);
  };
  const seed = mix(Math.imul(1, 0x9e3779b9));
  const [cx, cy, cz] = [px, py, pz].map(Math.floor) as [number, number, number];
  const distances: number[] = [];
  for (let k = -3; k <= 3; k++)
    for (let j = -3; j <= 3; j++)
      for (let i = -3; i <= 3; i++) {
        const h = mix(
          (Math.imul(cx + i, 0x8da6b343) +
            Math.imul(cy + j, 0xd8163841) +
            (Math.imul(cz + k, 0xcb1ab31f) ^ seed)) |
            0,
        );
        const at = (cell: number, shift: number): number =>
          cell + 0.5 + (((h >>> shift) & 1023) / 1024 - 0.5) * jitter;
        distances.push(Math.hypot(at(cx + i, 0) - px, at(cy + j, 10) - py, at(cz + k, 20) - pz));
      }
  return distances.sort((a, b) => a - b).slice(0, 2);
}

describe('cell noise', () => {
  it.each([1, 0.4, 0])(
    'finds the exact nearest and second nearest point at jitter %d',
    (jitter) => {
      const nearest = pattern('patterns.cell-noise', 'nearest', { jitter });
      const second = pattern('patterns.cell-noise', 'second', { jitter });
      for (let k = 0; k < 3000; k++) {
        const [first, next] = bruteCells(
          lanes['position.x']?.[k] as number,
          lanes['position.y']?.[k] as number,
          lanes['position.z']?.[k] as number,
          jitter,
        ) as [number, number];
        expect(Math.abs((nearest[k] as number) - first)).toBeLessThan(2e-5);
        expect(Math.abs((second[k] as number) - next)).toBeLessThan(2e-5);
      }
    },
  );
  it('gives each cell one value, spread evenly', () => {
    const values = pattern('patterns.cell-noise', 'cell');
    expect(mean(values)).toBeCloseTo(0.5, 1);
    expect(new Set(values).size).toBeLessThan(COUNT);
  });
});

describe('bump', () => {
  it(
    'takes the slope of the height network itself: it matches differences of double-sized ' +
      'steps',
    () => {
      for (const [type, output] of [
        ['patterns.fractal-noise', 'value'],
        ['patterns.noise', 'signed'],
        ['gradients.gradient', 'value'],
        ['patterns.cell-noise', 'nearest'],
      ] as const) {
        const height = node(
          'h',
          type,
          type === 'gradients.gradient'
            ? {}
            : {
                scale: 3,
                ...(type === 'patterns.fractal-noise'
                  ? { octaves: 2, stretch: 0.6, distortion: 0.3 }
                  : {}),
              },
        );
        const document = documentOf(
          [height, node('b', 'surface.bump', { relief: 0.05, strength: 1 })],
          [`h:${output} > b:height`],
        );
        const count = 400;
        const some = Object.fromEntries(
          Object.entries(lanes).map(([name, values]) => [
            name,
            values.slice(0, count).map((value) => value / 20),
          ]),
        );
        const given = {
          ...some,
          'normal.x': new Array<number>(count).fill(0),
          'normal.y': new Array<number>(count).fill(1),
          'normal.z': new Array<number>(count).fill(0),
        };
        const normals = outputAt(document, 'b:normal', given, count);
        const step = 2e-3;
        const slope = (axis: 'x' | 'z'): number[] => {
          const shift = (by: number): number[] =>
            outputAt(
              document,
              `h:${output}`,
              {
                ...given,
                [`position.${axis}`]: some[`position.${axis}`]?.map((value) => value + by) ?? [],
              },
              count,
            )[0] ?? [];
          const [ahead, behind] = [shift(step), shift(-step)];
          return ahead.map((value, k) => (value - (behind[k] as number)) / (2 * step));
        };
        const [gx, gz] = [slope('x'), slope('z')];
        // n′ = (−s·∂x, 1, −s·∂z), made unit, with s = strength · relief · size.
        const scale = 0.05 * 2;
        const off = gx
          .map((g, k) => {
            const length = Math.hypot(g * scale, 1, (gz[k] as number) * scale);
            return Math.hypot(
              (normals[0]?.[k] as number) + (g * scale) / length,
              (normals[2]?.[k] as number) + ((gz[k] as number) * scale) / length,
            );
          })
          .sort((a, b) => a - b);
        expect(off[Math.floor(count * 0.95)]).toBeLessThan(0.01);
      }
    },
  );
});
