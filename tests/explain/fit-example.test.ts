/** Masks fitted to examples: they separate the strokes by the least change, or say they cannot. */
import { seededRandom } from '@/core/base/random';
import { fitExample } from '@/core/explain/fit-example';
import type { Example, FittedValues } from '@/core/explain/fit-example';
import type { ExampleFit } from '@/core/nodes/define';
import { curveOf } from '../support/evaluate';

const EDGE: ExampleFit = { kind: 'edge', of: 'value', edge: 'edge', width: 'width' };
const BAND: ExampleFit = { kind: 'band', of: 'value', centre: 'centre', width: 'width' };
const masked = (type: string, at: readonly number[], values: FittedValues): number[] =>
  curveOf(type, 'value', 'mask', at, values);

function fitted(example: Example, now: FittedValues, fit: ExampleFit) {
  const found = fitExample(example, now, fit);
  if (found?.kind !== 'fits') throw new Error(found?.because ?? 'nothing to fit');
  return { ...found, values: { ...now, ...found.values } };
}

it('separates random strokes that can be separated, by an edge', () => {
  const random = seededRandom(7);
  for (let trial = 0; trial < 200; trial++) {
    const [gap, width] = [0.05 + 0.3 * random(), 0.4 * random()];
    const low = random() * (1 - gap);
    const some = (from: number, to: number): number[] =>
      Array.from({ length: 5 }, () => from + (to - from) * random());
    const isTurned = random() < 0.5;
    const [dark, bright] = [some(0, low), some(low + gap, 1)];
    const example = isTurned
      ? { inside: dark, outside: bright }
      : { inside: bright, outside: dark };
    const found = fitted(example, { edge: random(), width }, EDGE);
    expect(found.isTurned).toBe(isTurned);
    const arriving = (values: readonly number[]): number[] =>
      isTurned ? values.map((value) => 1 - value) : [...values];
    for (const value of masked('ranges.smoothstep', arriving(example.inside), found.values))
      expect(value).toBeGreaterThan(0.999);
    for (const value of masked('ranges.smoothstep', arriving(example.outside), found.values))
      expect(value).toBeLessThan(0.001);
  }
});

it('changes nothing that separates already, and little else', () => {
  const example = { inside: [0.8, 0.9], outside: [0.1, 0.2] };
  const now = { edge: 0.5, width: 0.2 };
  expect(fitExample(example, now, EDGE)).toMatchObject({ kind: 'fits', values: {} });
  expect(fitExample(example, { edge: 0.1, width: 0.2 }, EDGE)).toMatchObject({
    values: { edge: 0.3 },
  });
  expect(fitExample(example, { edge: 0.95, width: 0.2 }, EDGE)).toMatchObject({
    values: { edge: 0.7 },
  });
});

it('says that nothing separates strokes that overlap, and how many are wrong at best', () => {
  const found = fitExample(
    { inside: [0.2, 0.5, 0.8], outside: [0.1, 0.6] },
    { edge: 0.5, width: 0 },
    EDGE,
  );
  expect(found?.kind).toBe('nothing separates');
  expect(found?.because).toContain('1 of 5');
  expect(fitExample({ inside: [0.3], outside: [] }, {}, EDGE)).toBeNull();
  expect(fitExample({ inside: [NaN], outside: [0.2] }, {}, EDGE)).toBeNull();
});

it('puts a band around what it is to hold, or says what lies among it', () => {
  const example = { inside: [0.4, 0.5], outside: [0.1, 0.9] };
  const found = fitted(example, { centre: 0.2, width: 0.1 }, BAND);
  const values = { ...found.values, softness: 0 };
  expect(masked('ranges.band', example.inside, values)).toEqual([1, 1]);
  expect(masked('ranges.band', example.outside, values)).toEqual([0, 0]);
  expect(
    fitExample({ inside: [0.2, 0.8], outside: [0.5] }, { centre: 0.5, width: 0.2 }, BAND)?.kind,
  ).toBe('nothing separates');
});
