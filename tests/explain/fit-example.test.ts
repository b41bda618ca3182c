/** Masks fitted to examples: they separate the strokes by the least change, or say they cannot. */
import { normalise } from '@/core/base/vector';
import type { Vec3 } from '@/core/base/vector';
import { seededRandom } from '@/core/base/random';
import { findNodeDefinition } from '@/core/compile/catalogue';
import type { Example, ExampleNumbers, FittedValues } from '@/core/explain/example';
import { hueDegrees } from '@/core/explain/fit-bands';
import { fitExample } from '@/core/explain/fit-example';
import { isRamp } from '@/core/graph/document';
import type { ExampleFit } from '@/core/nodes/define';
import { curveOf, outputAt, valueAt } from '../support/evaluate';
import { documentOf, node } from '../support/networks';

/** How a node of the catalogue is fitted, under a choice of its options. */
function fitOf(type: string, choice?: string): ExampleFit {
  const fits = findNodeDefinition(node('n', type))?.fits ?? [];
  const fit = fits.find(({ when }) => choice === undefined || when?.[1] === choice);
  if (!fit) throw new Error(`${type} is not fitted`);
  return fit;
}
const EDGE = fitOf('ranges.smoothstep', 'centred');
const BAND = fitOf('ranges.band');
const numbers = ({ inside, outside }: ExampleNumbers): Example => ({
  inside: inside.map((value) => [value]),
  outside: outside.map((value) => [value]),
});
function fitted(example: Example, now: FittedValues, fit: ExampleFit) {
  const found = fitExample(example, now, fit);
  if (found?.kind !== 'fits') throw new Error(found?.because ?? 'nothing to fit');
  return { ...found, values: { ...now, ...found.values } };
}
/** Two sorts of values with a gap between them, either of them below. */
function pairs(random: () => number): { example: ExampleNumbers; isBelow: boolean } {
  const gap = 0.05 + 0.3 * random();
  const low = random() * (1 - gap);
  const some = (from: number, to: number): number[] =>
    Array.from({ length: 5 }, () => from + (to - from) * random());
  const [dark, bright] = [some(0, low), some(low + gap, 1)];
  const isBelow = random() < 0.5;
  return {
    isBelow,
    example: isBelow ? { inside: dark, outside: bright } : { inside: bright, outside: dark },
  };
}
function expectApart(inside: readonly number[], outside: readonly number[]): void {
  expect(Math.min(...inside)).toBeGreaterThan(0.999);
  expect(Math.max(...outside)).toBeLessThan(0.001);
}

it.each(['centred', 'from'])('separates random strokes by an edge that is %s', (form) => {
  const random = seededRandom(7);
  for (let trial = 0; trial < 200; trial++) {
    const { example, isBelow } = pairs(random);
    const now = { edge: random(), width: 0.4 * random() };
    const found = fitted(numbers(example), now, fitOf('ranges.smoothstep', form));
    expect(found.isTurned).toBe(isBelow);
    const masked = (values: readonly number[]): number[] =>
      curveOf(
        'ranges.smoothstep',
        'value',
        'mask',
        values.map((value) => (isBelow ? 1 - value : value)),
        found.values,
        { form },
      );
    expectApart(masked(example.inside), masked(example.outside));
  }
});

it('separates random strokes by two edges, whose order says which is kept', () => {
  const random = seededRandom(8);
  for (let trial = 0; trial < 200; trial++) {
    const { example } = pairs(random);
    const now = { edge: random(), upper: random() };
    const fit = fitOf('ranges.smoothstep', 'edges');
    const { values, isTurned } = fitted(numbers(example), now, fit);
    expect(isTurned).toBe(false);
    const masked = (at: readonly number[]): number[] =>
      curveOf('ranges.smoothstep', 'value', 'mask', at, values, { form: 'edges' });
    expectApart(masked(example.inside), masked(example.outside));
  }
});

it('changes nothing that separates already, and little else', () => {
  const example = numbers({ inside: [0.8, 0.9], outside: [0.1, 0.2] });
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
  const overlapping = numbers({ inside: [0.2, 0.5, 0.8], outside: [0.1, 0.6] });
  const found = fitExample(overlapping, { edge: 0.5, width: 0 }, EDGE);
  expect(found?.kind).toBe('nothing separates');
  expect(found?.because).toContain('1 of 5');
  expect(fitExample({ inside: [[0.3]], outside: [] }, {}, EDGE)).toBeNull();
  expect(fitExample({ inside: [[NaN]], outside: [[0.2]] }, {}, EDGE)).toBeNull();
});

it('puts a band around what it is to hold, its border too, or says what lies among it', () => {
  const random = seededRandom(9);
  for (let trial = 0; trial < 100; trial++) {
    const middle = 0.3 + 0.4 * random();
    const inside = [middle, middle + 0.05 * random()];
    const outside = [middle - 0.02 - 0.2 * random(), middle + 0.07 + 0.2 * random()];
    const now = { centre: random(), width: random(), softness: 0.3 * random() };
    const { values } = fitted(numbers({ inside, outside }), now, BAND);
    const masked = (at: readonly number[]): number[] =>
      curveOf('ranges.band', 'value', 'mask', at, values);
    expectApart(masked(inside), masked(outside));
  }
  const among = numbers({ inside: [0.2, 0.8], outside: [0.5] });
  expect(fitExample(among, { centre: 0.5, width: 0.2 }, BAND)?.kind).toBe('nothing separates');
});

it('holds some hues and not others, across red as well; a grey has none', () => {
  const fit = fitOf('colour.correct');
  const random = seededRandom(10);
  const channel = (hue: number, from: number): number => {
    const k = (from + hue / 60) % 6;
    return 0.8 - 0.6 * Math.max(0, Math.min(k, 4 - k, 1));
  };
  const colour = (hue: number): Vec3 => {
    const turned = ((hue % 360) + 360) % 360;
    return [channel(turned, 5), channel(turned, 3), channel(turned, 1)];
  };
  const home = { centre: 0, width: 360, softness: 30 };
  for (let trial = 0; trial < 60; trial++) {
    const start = random() * 360;
    const inside = [0, 10, 25].map((past) => colour(start + past));
    const outside = [start - 12, start + 40, start + 180].map(colour);
    const { values } = fitted({ inside, outside }, home, fit);
    const selected = ([r, g, b]: Vec3): number =>
      valueAt('colour.correct', 'selection', { ...values, colour: [r, g, b] })[0] ?? NaN;
    expectApart(inside.map(selected), outside.map(selected));
  }
  expect(hueDegrees(colour(47))).toBeCloseTo(47, 5);
  const grey = { inside: [[0.5, 0.5, 0.5]], outside: [[1, 0, 0]] };
  expect(fitExample(grey, home, fit)).toMatchObject({ kind: 'nothing separates' });
  const among = { inside: [colour(0), colour(180)], outside: [colour(90), colour(270)] };
  expect(fitExample(among, home, fit)).toMatchObject({ kind: 'nothing separates' });
});

it('turns to what is to be held where the present direction cannot separate it', () => {
  const fit = fitOf('model.facing-direction');
  const now: FittedValues = { direction: [0, 0, 1], centre: 1, width: 0.5, softness: 0.3 };
  const inside = [normalise([1, 0.1, 0]), normalise([1, -0.1, 0.1])];
  const outside = [normalise([-1, 0, 0]), normalise([0, 1, 0])];
  const { values } = fitted({ inside, outside }, now, fit);
  const document = documentOf([node('n', 'model.facing-direction', values)]);
  const masked = (normals: readonly Vec3[]): number[] =>
    outputAt(
      document,
      'n:mask',
      {
        'normal.x': normals.map(([x]) => x),
        'normal.y': normals.map(([, y]) => y),
        'normal.z': normals.map(([, , z]) => z),
      },
      normals.length,
    )[0] ?? [];
  expectApart(masked(inside), masked(outside));
  const upward = { inside: [[0, 0, 1] as const], outside: [[0, 0, -1] as const] };
  expect(fitted(upward, now, fit).values['direction']).toEqual([0, 0, 1]);
  const alike = { inside: [[0, 0, 1] as const], outside: [[0, 0, 1] as const] };
  expect(fitExample(alike, now, fit)).toMatchObject({ kind: 'nothing separates' });
});

it('moves the stops of a ramp that need it between the two, in their order', () => {
  const fit = fitOf('gradients.ramp');
  const stop = (id: string, position: number) => ({
    id,
    position,
    colour: [position, 0, 0] as const,
    alpha: 1,
    segment: 'linear' as const,
  });
  const stops = { stops: [stop('a', 0.1), stop('b', 0.4), stop('c', 0.9)] };
  const now: FittedValues = { stops, from: 0, to: 2 };
  const example = numbers({ inside: [0.2, 0.4], outside: [1, 1.1] });
  const { values } = fitted(example, now, fit);
  const moved = values['stops'];
  if (moved === undefined || !isRamp(moved)) throw new Error('no ramp');
  // The gap is 0.2 to 0.5 of the ramp: the first pair need move least.
  expect(moved.stops.map(({ position }) => position)).toEqual([0.2, 0.4, 0.9]);
  expect(fitExample(example, { ...now, to: 0 }, fit)).toMatchObject({ kind: 'nothing separates' });
  const beyond = numbers({ inside: [3], outside: [4] });
  expect(fitExample(beyond, now, fit)).toMatchObject({ kind: 'nothing separates' });
});
