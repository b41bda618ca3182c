/** Values at the very ends of what nodes take, where formulas meet their limits. */
import { checkReferences } from '@/core/compile/check/check';
import { setValue } from '@/core/edit/nodes';
import type { NetworkDocument, RampValue } from '@/core/graph/document';
import { outputAt, valueAt } from '../support/evaluate';
import { documentOf, node } from '../support/networks';

const ramp = (
  ...stops: readonly (readonly [
    number,
    readonly [number, number, number],
    number,
    'linear' | 'spline',
  ])[]
): RampValue => ({
  stops: stops.map(([position, colour, alpha, segment], k) => ({
    id: `s${String(k)}`,
    position,
    colour,
    alpha,
    segment,
  })),
});
const ramped = (stops: RampValue, output: 'colour' | 'alpha', at: readonly number[]): number[][] =>
  outputAt(
    documentOf(
      [node('p', 'model.position'), node('r', 'gradients.ramp', { stops })],
      ['p:x > r:value'],
    ),
    `r:${output}`,
    { 'position.x': at },
    at.length,
  );

describe('height blend', () => {
  it('gives none at amount 0 and all at amount 1, whatever the heights and the width', () => {
    for (const width of [0, 0.1, 1])
      for (const under of [0, 0.5, 1])
        for (const over of [0, 0.5, 1]) {
          expect(valueAt('masks.height-blend', 'mask', { under, over, amount: 0, width })[0]).toBe(
            0,
          );
          expect(valueAt('masks.height-blend', 'mask', { under, over, amount: 1, width })[0]).toBe(
            1,
          );
        }
  });
});

describe('optics', () => {
  it('an index of 1 reflects nothing, not even at the rim', () => {
    expect(valueAt('optics.fresnel', 'reflectance', { index: 1, cosine: 0 })[0]).toBe(0);
    for (const cosine of [1e-20, 0.5, 1])
      expect(valueAt('optics.fresnel', 'reflectance', { index: 1, cosine })[0]).toBeLessThan(1e-9);
    expect(valueAt('optics.fresnel', 'reflectance', { index: 1.5, cosine: 0 })[0]).toBe(1);
  });
  it('the index of a specular level is right to 5e-7 up to a reflectance of 0.9', () => {
    for (let share = 0.86; share < 0.9; share += 0.0007) {
      const exact = (1 + Math.sqrt(share)) / (1 - Math.sqrt(share));
      const level = Math.fround(share / 0.08);
      const root = Math.sqrt(level * 0.08);
      const found = valueAt(
        'optics.reflectance',
        'index',
        { level },
        { from: 'level' },
      )[0] as number;
      expect(Math.abs(found / ((1 + root) / (1 - root)) - 1)).toBeLessThan(5e-7);
      expect(found).toBeCloseTo(exact, 3);
    }
  });
});

describe('turning about an axis', () => {
  it('of no length turns nothing', () => {
    expect(
      valueAt(
        'math.vector',
        'vector',
        { a: [1, 2, 3], b: [0, 0, 0], degrees: 90 },
        { operation: 'rotate' },
      ),
    ).toEqual([1, 2, 3]);
  });
});

describe('ramps', () => {
  it('with spline stops that almost lie on each other give numbers', () => {
    const values = ramped(
      ramp(
        [0, [0, 0, 0], 1, 'spline'],
        [1e-45, [1, 1, 1], 1, 'spline'],
        [1, [0, 1, 0], 1, 'spline'],
      ),
      'colour',
      [0, 1e-45, 1e-30, 0.2, 1],
    );
    expect(values.flat().every(Number.isFinite)).toBe(true);
  });
  it('keep the colour of a stop that is wholly clear', () => {
    const stops = ramp([0, [0.8, 0.2, 0.1], 0, 'linear'], [1, [0.8, 0.2, 0.1], 1, 'linear']);
    const [red = [], green = [], blue = []] = ramped(stops, 'colour', [-1, 0, 1e-6, 0.3, 1]);
    red.forEach((value) => {
      expect(value).toBeCloseTo(0.8, 6);
    });
    green.forEach((value) => {
      expect(value).toBeCloseTo(0.2, 6);
    });
    blue.forEach((value) => {
      expect(value).toBeCloseTo(0.1, 6);
    });
    expect(ramped(stops, 'alpha', [0, 1])[0]).toEqual([0, 1]);
  });
});

describe('typed values beyond a port’s range', () => {
  const findings = (document: NetworkDocument): string[] =>
    checkReferences(document)
      .filter(({ code }) => code === 'value.out-of-range')
      .map(({ message }) => message);
  it('are found in numbers and in each of three, and limited', () => {
    expect(findings(documentOf([node('n', 'patterns.noise', { scale: 1e12 })]))).toHaveLength(1);
    const document = documentOf([node('c', 'constants.vector', { vector: [0, 3e30, 0] })]);
    expect(findings(document)[0]).toContain('3e+30');
    expect(outputAt(document, 'c:vector', {}, 1).flat()[1]).toBe(1e6);
    expect(findings(setValue(document, null, 'c', 'vector', [0, 3, 0]))).toEqual([]);
  });
});
