import fc from 'fast-check';
import type { InputValue, Triple } from '@/core/graph/document';
import { curveOf, valueAt } from '../support/evaluate';

const close = (actual: number, expected: number, tolerance = 1e-6): void => {
  expect(Math.abs(actual - expected)).toBeLessThanOrEqual(
    tolerance * Math.max(1, Math.abs(expected)),
  );
};
const read = (
  type: string,
  output: string,
  values: Record<string, InputValue>,
  options: Record<string, string> = {},
): number => valueAt(`optics.${type}`, output, values, options)[0] as number;

describe('index, reflectance and specular level', () => {
  const of = (from: string, value: number, output: string): number =>
    read('reflectance', output, { [from]: value }, { from });
  it('convert six ways, to 1e-6 of the closed forms', () => {
    fc.assert(
      fc.property(fc.float({ min: 1, max: 6, noNaN: true }), (n) => {
        const share = ((n - 1) / (n + 1)) ** 2;
        close(of('index', n, 'reflectance'), share);
        close(of('index', n, 'level'), share / 0.08);
        close(of('index', n, 'index'), n, 2e-6);
      }),
      { numRuns: 20, seed: 1 },
    );
    fc.assert(
      fc.property(
        fc.float({ min: Math.fround(0.001), max: Math.fround(0.5), noNaN: true }),
        (share) => {
          const n = (1 + Math.sqrt(share)) / (1 - Math.sqrt(share));
          close(of('reflectance', share, 'index'), n);
          close(of('reflectance', share, 'level'), share / 0.08);
          close(of('level', share / 0.08, 'index'), n, 2e-6);
          close(of('level', share / 0.08, 'reflectance'), share);
        },
      ),
      { numRuns: 20, seed: 2 },
    );
  });
  it('give the published values', () => {
    close(of('index', 1.5, 'reflectance'), 0.04);
    close(of('level', 0.5, 'index'), 1.5, 2e-6);
    close(of('index', 1.333, 'reflectance'), 0.0203732);
  });
  it('limit what is impossible, and say so', () => {
    expect([of('index', 0.5, 'index'), of('index', 0.5, 'outside')]).toEqual([1, 1]);
    expect([of('reflectance', -1, 'reflectance'), of('reflectance', -1, 'outside')]).toEqual([
      0, 1,
    ]);
    close(of('reflectance', 5, 'reflectance'), 0.9);
    expect(of('level', 100, 'outside')).toBe(1);
    expect(of('index', 1.5, 'outside')).toBe(0);
  });
});

describe('gloss', () => {
  it('is one less roughness, both ways', () => {
    expect(curveOf('optics.gloss', 'value', 'value', [0, 0.25, 1, 3])).toEqual([1, 0.75, 0, 0]);
    expect(curveOf('optics.gloss', 'value', 'value', [0, 0.25], {}, { from: 'roughness' })).toEqual(
      [1, 0.75],
    );
  });
  it('takes exponents by α² = 2/(exponent + 2)', () => {
    for (const exponent of [0, 2, 30, 998])
      close(read('gloss', 'value', { exponent }, { from: 'exponent' }) ** 4, 2 / (exponent + 2));
  });
});

describe('metal and Fresnel', () => {
  it('a metal without extinction is a clear body, with much of it a mirror', () => {
    const [red, green, blue] = valueAt('optics.metal', 'colour', {
      index: [1.5, 0.2, 1],
      extinction: [0, 3.4, 0],
    });
    close(red as number, 0.04);
    close(green as number, (0.8 ** 2 + 3.4 ** 2) / (1.2 ** 2 + 3.4 ** 2));
    close(blue as number, 0);
  });
  /** Both polarisations by Snell’s law and Fresnel’s equations. */
  const exact = (n: number, cosine: number): number => {
    const sine = Math.sqrt(1 - cosine * cosine) / n;
    if (sine >= 1) return 1;
    const inside = Math.sqrt(1 - sine * sine);
    return (
      (((cosine - n * inside) / (cosine + n * inside)) ** 2 +
        ((n * cosine - inside) / (n * cosine + inside)) ** 2) /
      2
    );
  };
  it('is the mean of both polarisations at every angle, from inside too', () => {
    fc.assert(
      fc.property(
        fc.float({ min: Math.fround(0.5), max: 3, noNaN: true }),
        fc.float({ min: Math.fround(0.05), max: 1, noNaN: true }),
        (index, cosine) => {
          const edge = Math.abs(index * index - 1 + cosine * cosine);
          fc.pre(edge > 1e-3 && Math.abs(index - 1) > 1e-3);
          close(read('fresnel', 'reflectance', { index, cosine }), exact(index, cosine), 2e-4);
        },
      ),
      { numRuns: 60, seed: 3 },
    );
  });
  it(
    'at Brewster’s angle half of the rest of one polarisation; at the rim all; straight on ' +
      '((n − 1)/(n + 1))²',
    () => {
      const n = 1.5;
      const cosine = 1 / Math.sqrt(1 + n * n);
      close(
        read('fresnel', 'reflectance', { index: n, cosine }),
        ((n * n - 1) / (n * n + 1)) ** 2 / 2,
        1e-5,
      );
      close(read('fresnel', 'reflectance', { index: n, cosine: 0 }), 1);
      close(read('fresnel', 'reflectance', { index: n, cosine: -1 }), 0.04);
      close(read('fresnel', 'reflectance', { index: 1 / 1.5, cosine: 0.5 }), 1);
      close(read('fresnel', 'reflectance', { index: 1, cosine: 0.7 }), 0);
    },
  );
});

describe('measured', () => {
  it('gives indices, and metals the colour everyone knows', () => {
    close(read('measured', 'index', {}, { material: 'diamond' }), 2.417);
    close(read('measured', 'colour', {}, { material: 'diamond' }), (1.417 / 3.417) ** 2);
    const gold = valueAt(
      'optics.measured',
      'colour',
      {},
      { material: 'gold' },
    ) as unknown as Triple;
    expect(gold[0]).toBeGreaterThan(0.9);
    expect(gold[0]).toBeGreaterThan(gold[1]);
    expect(gold[1]).toBeGreaterThan(gold[2] * 1.5);
    expect(read('measured', 'metalness', {}, { material: 'gold' })).toBe(1);
    for (const lane of valueAt('optics.measured', 'colour', {}, { material: 'aluminium' }))
      expect(Math.abs(lane - 0.917)).toBeLessThan(0.012);
  });
});
