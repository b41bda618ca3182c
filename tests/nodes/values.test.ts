import fc from 'fast-check';
import type { RampStop, Segment, Triple } from '@/core/graph/document';
import { curveOf, valueAt } from '../support/evaluate';

const close = (actual: readonly number[], expected: readonly number[], digits = 5): void => {
  expect(actual).toHaveLength(expected.length);
  actual.forEach((value, k) => {
    expect(value).toBeCloseTo(expected[k] as number, digits);
  });
};
const unit = fc.float({ min: 0, max: 1, noNaN: true });
const wide = fc.float({ min: -4, max: 4, noNaN: true });

describe('smoothstep', () => {
  it('is t²(3 − 2t) over its width, centred or from the edge', () => {
    close(
      curveOf('ranges.smoothstep', 'value', 'mask', [0.3, 0.4, 0.45, 0.5, 0.6, 0.7], {
        edge: 0.5,
        width: 0.2,
      }),
      [0, 0, 0.15625, 0.5, 1, 1],
    );
    close(
      curveOf(
        'ranges.smoothstep',
        'value',
        'mask',
        [0.5, 0.6, 0.7],
        { edge: 0.5, width: 0.2 },
        { form: 'from' },
      ),
      [0, 0.5, 1],
    );
  });
  it('is the step x ≥ edge at width 0, and cannot turn over below it', () => {
    close(
      curveOf('ranges.smoothstep', 'value', 'mask', [0.4999, 0.5, 0.5001], { edge: 0.5, width: 0 }),
      [0, 1, 1],
    );
    close(
      curveOf('ranges.smoothstep', 'value', 'mask', [0.4, 0.6], { edge: 0.5, width: -3 }),
      [0, 1],
    );
    close(
      curveOf(
        'ranges.smoothstep',
        'value',
        'mask',
        [0.2, 0.8],
        { edge: 0.7, upper: 0.3 },
        { form: 'edges' },
      ),
      [1, 0],
    );
  });
  it('never falls and stays within 0–1', () => {
    fc.assert(
      fc.property(
        wide,
        wide,
        fc.array(wide, { minLength: 8, maxLength: 8 }),
        (edge, width, values) => {
          const rising = [...values].sort((a, b) => a - b);
          const masks = curveOf('ranges.smoothstep', 'value', 'mask', rising, { edge, width });
          masks.forEach((mask, k) => {
            expect(mask).toBeGreaterThanOrEqual(Math.max(0, (masks[k - 1] ?? 0) - 1e-6));
            expect(mask).toBeLessThanOrEqual(1);
          });
        },
      ),
      { numRuns: 25, seed: 4 },
    );
  });
});

describe('ranges', () => {
  it('remap carries ends onto ends, reversed too, and steps where they are equal', () => {
    close(
      curveOf('ranges.remap', 'value', 'value', [-1, 0, 0.5, 1, 2], { outLow: 2, outHigh: 6 }),
      [2, 2, 4, 6, 6],
    );
    close(
      curveOf(
        'ranges.remap',
        'value',
        'value',
        [-1, 0, 1, 2],
        { inLow: 1, inHigh: 0 },
        { limit: 'no' },
      ),
      [2, 1, 0, -1],
    );
    close(
      curveOf('ranges.remap', 'value', 'value', [0.49, 0.5], { inLow: 0.5, inHigh: 0.5 }),
      [0, 1],
    );
    close(
      curveOf(
        'ranges.remap',
        'value',
        'value',
        [0, 0.2, 0.4, 0.6, 0.8, 1],
        { steps: 3 },
        { shape: 'steps' },
      ),
      [0, 0, 0.5, 0.5, 1, 1],
    );
  });
  it('threshold is hard at transition 0 and symmetric with one', () => {
    close(
      curveOf('ranges.threshold', 'value', 'mask', [0.49, 0.5, 0.51], { level: 0.5 }),
      [0, 1, 1],
    );
    for (const shape of ['linear', 'smooth', 'gaussian']) {
      const [low, middle, high] = curveOf(
        'ranges.threshold',
        'value',
        'mask',
        [0.45, 0.5, 0.55],
        { level: 0.5, width: 0.4 },
        { shape },
      );
      expect(middle).toBeCloseTo(0.5, 5);
      expect((low ?? 0) + (high ?? 0)).toBeCloseTo(1, 5);
    }
    // ½ + ½·erf(2√2·¼) = ½ + ½·erf(0.70711) = 0.841345
    close(
      curveOf(
        'ranges.threshold',
        'value',
        'mask',
        [0.6],
        { level: 0.5, width: 0.4 },
        { shape: 'gaussian' },
      ),
      [0.841345],
      5,
    );
  });
  it('levels undo themselves with ends and gamma turned round', () => {
    const at = [0, 0.1, 0.5, 0.9, 1];
    close(curveOf('ranges.levels', 'value', 'value', at, { gamma: 2 }), at.map(Math.sqrt));
    close(
      curveOf('ranges.levels', 'value', 'value', [0.2, 0.3, 0.4], {
        inBlack: 0.2,
        inWhite: 0.4,
        outBlack: 1,
        outWhite: 0,
      }),
      [1, 0.5, 0],
    );
  });
  it('clamp keeps within its ends', () => {
    close(
      curveOf('ranges.clamp', 'value', 'value', [-1, 0.5, 2], { lowest: 0.2, highest: 0.8 }),
      [0.2, 0.5, 0.8],
    );
  });
});

describe('math', () => {
  const binary = (operation: string, a: number, b: number, c = 0): number =>
    valueAt('math.math', 'value', { a, b, c }, { operation })[0] as number;
  it.each<[string, number, number, number]>([
    ['add', 2, 3, 5],
    ['subtract', 2, 3, -1],
    ['multiply', 2, 3, 6],
    ['divide', 3, 2, 1.5],
    ['divide', 3, 0, 0],
    ['power', 2, 10, 1024],
    ['power', -2, 2, 0],
    ['power', 0, 0, 1],
    ['minimum', 2, 3, 2],
    ['maximum', 2, 3, 3],
    ['modulo', -1, 3, 2],
    ['modulo', 5, 0, 0],
    ['average', 2, 3, 2.5],
    ['squareRoot', 9, 0, 3],
    ['squareRoot', -9, 0, 0],
    ['exponent', 1, 0, Math.E],
    ['logarithm', Math.E, 0, 1],
    ['absolute', -2, 0, 2],
    ['sign', -7, 0, -1],
    ['sign', 0, 0, 0],
    ['fraction', -0.25, 0, 0.75],
    ['floor', -0.5, 0, -1],
    ['ceiling', 0.2, 0, 1],
    ['round', 2.5, 0, 2],
    ['sine', 1, 0, Math.sin(1)],
    ['cosine', 2, 0, Math.cos(2)],
    ['tangent', 1, 0, Math.tan(1)],
    ['arcTangent', 3, 0, Math.atan(3)],
    ['invert', 0.3, 0, 0.7],
    ['negate', 4, 0, -4],
  ])('%s of %d and %d is %d', (operation, a, b, expected) => {
    expect(Math.abs(binary(operation, a, b) - expected)).toBeLessThan(
      2e-5 * Math.max(1, Math.abs(expected)),
    );
  });
  it(
    'smooth minimum is the minimum apart, and lower in between by at most a quarter of the ' +
      'width',
    () => {
      expect(binary('smoothMinimum', 0, 1, 0.5)).toBe(0);
      expect(binary('smoothMinimum', 1, 1, 0.4)).toBeCloseTo(0.9, 6);
      expect(binary('smoothMaximum', 1, 1, 0.4)).toBeCloseTo(1.1, 6);
      expect(binary('multiplyAdd', 2, 3, 4)).toBe(10);
    },
  );
  it('elementary functions keep their stated errors', () => {
    fc.assert(
      fc.property(fc.float({ min: -8000, max: 8000, noNaN: true }), (x) => {
        expect(Math.abs(binary('sine', x, 0) - Math.sin(x))).toBeLessThan(2e-6);
        expect(Math.abs(binary('cosine', x, 0) - Math.cos(x))).toBeLessThan(2e-6);
        expect(Math.abs(binary('arcTangent', x, 0) - Math.atan(x))).toBeLessThan(3e-7 + 1.3e-7);
      }),
      { numRuns: 60, seed: 1 },
    );
    fc.assert(
      fc.property(fc.float({ min: Math.fround(1e-6), max: 1e6, noNaN: true }), (x) => {
        expect(Math.abs(binary('logarithm', x, 0) - Math.log(x))).toBeLessThan(
          2e-7 * Math.max(1, Math.abs(Math.log(x))),
        );
      }),
      { numRuns: 40, seed: 2 },
    );
    fc.assert(
      fc.property(fc.float({ min: -80, max: 80, noNaN: true }), (x) => {
        expect(Math.abs(binary('exponent', x, 0) / Math.exp(x) - 1)).toBeLessThan(2e-5);
      }),
      { numRuns: 40, seed: 3 },
    );
  });
});

const stop = (
  position: number,
  grey: number,
  segment: Segment = 'linear',
  alpha = 1,
): RampStop => ({
  id: `s${String(position)}-${String(grey)}`,
  position,
  colour: [grey, grey, grey],
  alpha,
  segment,
});
const ramp = (at: readonly number[], ...stops: RampStop[]): number[] =>
  curveOf('gradients.ramp', 'value', 'scalar', at, { stops: { stops } });

describe('ramp', () => {
  it('goes straight, eased or not at all to the next stop, and holds its ends', () => {
    close(ramp([-1, 0, 0.25, 1, 2], stop(0, 0), stop(1, 1)), [0, 0, 0.25, 1, 1]);
    close(ramp([0.25], stop(0, 0, 'smooth'), stop(1, 1)), [0.15625]);
    close(ramp([0.99, 1], stop(0, 0.2, 'hold'), stop(1, 1)), [0.2, 1]);
  });
  it(
    'lets the right one of two stops at one place win from there on, whatever their order ' +
      'in the list',
    () => {
      close(
        ramp([0.4999, 0.5, 0.75], stop(0.5, 0.3), stop(0, 0), stop(0.5, 0.8), stop(1, 0.8)),
        [0.29994, 0.8, 0.8],
        4,
      );
    },
  );
  it('blends premultiplied: a transparent stop lends no colour', () => {
    const stops = [stop(0, 1, 'linear', 1), stop(1, 0, 'linear', 0)];
    close(ramp([0.5, 0.9], ...stops), [1, 1]);
    close(curveOf('gradients.ramp', 'value', 'alpha', [0.25, 1], { stops: { stops } }), [0.75, 0]);
  });
  it('stays within its stops’ values for up to 32 stops', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(unit, unit), { minLength: 2, maxLength: 32 }), (given) => {
        const stops = given.map(([position, grey], k) => ({
          ...stop(position, grey),
          id: `s${String(k)}`,
        }));
        const greys = given.map(([, grey]) => grey);
        for (const value of ramp([0, 0.2, 0.4, 0.6, 0.8, 1], ...stops)) {
          expect(value).toBeGreaterThanOrEqual(Math.min(...greys) - 1e-5);
          expect(value).toBeLessThanOrEqual(Math.max(...greys) + 1e-5);
        }
      }),
      { numRuns: 25, seed: 7 },
    );
  });
});

describe('colour and masks', () => {
  const blend = (mode: string, under: Triple, over: Triple, where = 1): number[] =>
    valueAt('colour.blend', 'colour', { under, over, where }, { mode });
  it('blends by the formulas of the standard', () => {
    const [u, o]: [Triple, Triple] = [
      [0.2, 0.5, 0.8],
      [0.6, 0.4, 0.1],
    ];
    close(
      blend('normal', u, o, 0.25),
      u.map((x, k) => x + ((o[k] ?? 0) - x) * 0.25),
    );
    close(blend('multiply', u, o), [0.12, 0.2, 0.08]);
    close(blend('screen', u, o), [0.68, 0.7, 0.82]);
    close(blend('overlay', u, o), [0.24, 0.4, 0.64]);
    close(blend('add', u, o), [0.8, 0.9, 0.9]);
    close(blend('linearLight', u, o), [0.4, 0.3, 0]);
    for (const mode of ['normal', 'multiply', 'overlay']) close(blend(mode, u, o, 0), [...u]);
  });
  it('turns hues round the wheel and leaves colours alone at home', () => {
    const hsv = (colour: Triple, values: Record<string, number>): number[] =>
      valueAt('colour.hue-saturation-value', 'colour', { colour, ...values });
    close(hsv([1, 0, 0], { hue: 120 }), [0, 1, 0]);
    close(hsv([0.8, 0.2, 0.2], { hue: 180 }), [0.2, 0.8, 0.8]);
    close(hsv([0.3, 0.6, 0.9], { hue: 360 }), [0.3, 0.6, 0.9]);
    close(hsv([0.3, 0.6, 0.9], { saturation: 0 }), [0.9, 0.9, 0.9]);
    expect(hsv([0.3, 0.6, 0.9], {})).toEqual([0.3, 0.6, 0.9].map(Math.fround));
  });
  it('mixes within 0–1 unless told to go on', () => {
    close(curveOf('math.mix', 'amount', 'value', [-1, 0.5, 2], { a: 10, b: 20 }), [10, 15, 20]);
    close(
      curveOf('math.mix', 'amount', 'value', [-1, 2], { a: 10, b: 20 }, { limit: 'no' }),
      [0, 30],
    );
  });
  it('unites nothing to nothing', () => {
    expect(valueAt('masks.union', 'mask')).toEqual([0]);
  });
});

describe('model', () => {
  it('slope is 1 on tops, ½ on walls, 0 on undersides, and knows the angle', () => {
    const at = (normal: Triple, output = 'slope'): number =>
      valueAt(
        'model.slope',
        output,
        {},
        {},
        { 'normal.x': [normal[0]], 'normal.y': [normal[1]], 'normal.z': [normal[2]] },
      )[0] as number;
    close([at([0, 1, 0]), at([1, 0, 0]), at([0, -1, 0])], [1, 0.5, 0]);
    close(
      [
        at([0, 1, 0], 'degrees'),
        at([0, Math.SQRT1_2, Math.SQRT1_2], 'degrees'),
        at([0, -1, 0], 'degrees'),
      ],
      [0, 45, 180],
      3,
    );
  });
  it('gradients measure from their centre, relative to the object', () => {
    const at = (shape: string, x: number, y: number): number =>
      valueAt(
        'gradients.gradient',
        'value',
        {},
        { shape, per: 'object' },
        { 'position.x': [x], 'position.y': [y] },
      )[0] as number;
    close(
      [
        at('linear', 0, 0),
        at('linear', 0, 1),
        at('spherical', 1, 0),
        at('box', 0.5, 0.25),
        at('mirrored', 0, 0.5),
      ],
      [0.5, 1, 1, 0.5, 0.5],
    );
  });
});
