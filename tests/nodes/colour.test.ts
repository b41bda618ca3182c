import fc from 'fast-check';
import { decodeSrgb, encodeSrgb } from '@/core/surface/colour-science';
import type { InputValue, Triple } from '@/core/graph/document';
import { curveOf, valueAt } from '../support/evaluate';

const close = (actual: readonly number[], expected: readonly number[], digits = 4): void => {
  expect(actual).toHaveLength(expected.length);
  actual.forEach((value, k) => {
    expect(value).toBeCloseTo(expected[k] as number, digits);
  });
};
const channel = fc.float({ min: Math.fround(0.02), max: Math.fround(0.98), noNaN: true });
const colour = fc.tuple(channel, channel, channel);
const read = (
  type: string,
  output: string,
  values: Record<string, InputValue>,
  options: Record<string, string> = {},
): number[] => valueAt(`colour.${type}`, output, values, options);
const luminance = ([r, g, b]: readonly number[]): number =>
  0.2126 * (r ?? 0) + 0.7152 * (g ?? 0) + 0.0722 * (b ?? 0);
const span = (c: readonly number[]): number => Math.max(...c) - Math.min(...c);

describe('blend', () => {
  const blend = (
    mode: string,
    under: Triple,
    over: Triple,
    extra: Record<string, InputValue> = {},
    order = 'given',
  ): number[] => read('blend', 'colour', { under, over, ...extra }, { mode, order });
  const soft = (u: number, o: number): number =>
    o <= 0.5
      ? u - (1 - 2 * o) * u * (1 - u)
      : u + (2 * o - 1) * ((u <= 0.25 ? ((16 * u - 12) * u + 4) * u : Math.sqrt(u)) - u);
  const hard = (u: number, o: number): number => (o <= 0.5 ? 2 * u * o : 1 - 2 * (1 - u) * (1 - o));
  it.each<[string, (u: number, o: number) => number]>([
    ['softLight', soft],
    ['hardLight', hard],
    ['overlay', (u, o) => hard(o, u)],
    ['subtract', (u, o) => Math.max(0, u - o)],
    ['difference', (u, o) => Math.abs(u - o)],
    ['darken', Math.min],
    ['lighten', Math.max],
    ['dodge', (u, o) => Math.min(1, u / (1 - o))],
    ['burn', (u, o) => 1 - Math.min(1, (1 - u) / o)],
  ])('%s is the standard’s, channel by channel, and swaps', (mode, formula) => {
    fc.assert(
      fc.property(colour, colour, (under, over) => {
        close(
          blend(mode, under, over),
          under.map((u, k) => formula(u, over[k] as number)),
        );
        close(
          blend(mode, under, over, {}, 'swapped'),
          under.map((u, k) => formula(over[k] as number, u)),
        );
      }),
      { numRuns: 12, seed: 3 },
    );
  });
  it('dodge and burn have their ends', () => {
    close(blend('dodge', [0, 0.5, 1], [1, 1, 0]), [0, 1, 1]);
    close(blend('burn', [1, 0.5, 0.5], [0, 0, 1]), [1, 0, 0.5]);
    close(blend('dodge', [3, 0.9, 0], [0.5, 0.5, 0.5]), [3, 1, 0]);
  });
  it(
    'whole-colour modes keep the luminance and the saturation they name, where nothing is ' + 'cut',
    () => {
      fc.assert(
        fc.property(colour, colour, (under, over) => {
          for (const mode of ['hue', 'saturation', 'colour'])
            expect(luminance(blend(mode, under, over))).toBeCloseTo(luminance(under), 4);
          expect(luminance(blend('value', under, over))).toBeCloseTo(luminance(over), 4);
          for (const mode of ['hue', 'saturation', 'colour', 'value'])
            for (const lane of blend(mode, under, over)) {
              expect(lane).toBeGreaterThan(-1e-4);
              expect(lane).toBeLessThan(1.0001);
            }
        }),
        { numRuns: 12, seed: 4 },
      );
      const [mid, pale]: [Triple, Triple] = [
        [0.5, 0.45, 0.4],
        [0.4, 0.45, 0.48],
      ];
      expect(span(blend('hue', mid, pale))).toBeCloseTo(span(mid), 4);
      expect(span(blend('saturation', mid, pale))).toBeCloseTo(span(pale), 4);
      close(blend('colour', [0.5, 0.5, 0.5], [0.5, 0.5, 0.5]), [0.5, 0.5, 0.5]);
      close(blend('hue', mid, [0.3, 0.3, 0.3]), [luminance(mid), luminance(mid), luminance(mid)]);
    },
  );
});

describe('correct', () => {
  it('changes nothing at home, and nothing when bypassed', () => {
    fc.assert(
      fc.property(colour, (given) => {
        close(read('correct', 'colour', { colour: given }), given, 5);
        expect(
          read(
            'correct',
            'colour',
            { colour: given, brightness: 0.4, gamma: 2 },
            { bypass: 'off' },
          ),
        ).toEqual(given.map(Math.fround));
      }),
      { numRuns: 10, seed: 5 },
    );
  });
  it('does one thing at a time by its formula', () => {
    const given: Triple = [0.6, 0.3, 0.2];
    const of = (
      values: Record<string, InputValue>,
      options: Record<string, string> = {},
    ): number[] => read('correct', 'colour', { colour: given, ...values }, options);
    close(of({ gain: [2, 1, 0.5] }), [1.2, 0.3, 0.1]);
    close(of({ brightness: 0.1 }), [0.7, 0.4, 0.3]);
    close(of({ contrast: 2 }), [0.7, 0.1, -0.1]);
    close(of({ gamma: 2 }), given.map(Math.sqrt));
    close(
      of({ gamma: 2 }, { power: 'inverse' }),
      given.map((x) => x * x),
    );
    close(of({ hue: 120 }), [0.2, 0.6, 0.3]);
    close(
      of({ saturation: 0 }),
      given.map(() => luminance(given)),
    );
    close(
      of({ tint: [1, 0.5, 0.25], strength: 1 }),
      [1, 0.5, 0.25].map((t) => t * luminance(given)),
    );
    close(of({ brightness: 0.1, amount: 0.5 }), [0.65, 0.35, 0.25]);
  });
  it('tones: darks act on black, lights on white, middles at the mid point alone', () => {
    const grey = (tone: number, values: Record<string, number>): number =>
      read('correct', 'colour', { colour: [tone, tone, tone], ...values })[0] as number;
    expect(grey(0.001, { darks: 0.5 })).toBeCloseTo(0.0005, 5);
    expect(grey(1, { lights: 0.5 })).toBeCloseTo(0.5, 5);
    expect(grey(1, { darks: 0.5, middles: 0.2 })).toBeCloseTo(1, 5);
    expect(grey(0.4, { middles: 0.5, middle: 0.4 })).toBeCloseTo(0.2, 5);
    expect(grey(0.4, { darks: 9, lights: 9, middle: 0.4 })).toBeCloseTo(0.4, 5);
  });
  it('acts on a band of hues only, across red too, and leaves greys out of a narrow one', () => {
    const selected = (given: Triple, values: Record<string, number>): number =>
      read('correct', 'selection', { colour: given, softness: 20, ...values })[0] as number;
    expect(selected([1, 0, 0], { centre: 350, width: 40 })).toBe(1);
    expect(selected([1, 0, 0], { centre: 10, width: 40 })).toBe(1);
    expect(selected([0, 1, 0], { centre: 350, width: 40 })).toBe(0);
    // 120° from 90°: 30 out of the centre, 10 beyond the half width, half of a softness of 20.
    expect(selected([0, 1, 0], { centre: 90, width: 40 })).toBeCloseTo(0.5, 4);
    expect(selected([0.5, 0.5, 0.5], { centre: 0, width: 300 })).toBe(0);
    expect(selected([0.5, 0.5, 0.5], { centre: 0, width: 360 })).toBe(1);
  });
});

describe('replace colour', () => {
  it(
    'finds a colour, replaces it whole within the fine tolerance and not beyond the coarse ' +
      'one',
    () => {
      const from: Triple = [0.5, 0.2, 0.1];
      close(read('replace', 'colour', { colour: from, from, to: [0, 1, 0] }), [0, 1, 0]);
      close(
        read('replace', 'colour', { colour: [0.1, 0.2, 0.6], from, to: [0, 1, 0] }),
        [0.1, 0.2, 0.6],
      );
      // Black and white lie 1 apart in Oklab: half-way between 0.5 and 1.5.
      expect(
        read('replace', 'selection', {
          colour: [1, 1, 1],
          from: [0, 0, 0],
          fine: 0.5,
          coarse: 1.5,
        })[0],
      ).toBeCloseTo(0.5, 3);
      expect(
        read('replace', 'selection', { colour: [1, 1, 1], from: [0, 0, 0], fine: 1.01, coarse: 0 }),
      ).toEqual([1]);
      expect(
        read('replace', 'selection', { colour: [1, 1, 1], from: [0, 0, 0], fine: 0.99, coarse: 0 }),
      ).toEqual([0]);
    },
  );
});

describe('channels and greys', () => {
  const given: Triple = [0.6, 0.3, 0.15];
  it('route, pack and split know their channels', () => {
    close(read('route', 'colour', { colour: given, alpha: 0.9 }), [...given]);
    close(
      read(
        'route',
        'colour',
        { colour: given, alpha: 0.9 },
        { red: 'blueInverted', green: 'alpha', blue: 'one' },
      ),
      [0.85, 0.9, 1],
    );
    close(read('route', 'alpha', { colour: given }, { alpha: 'luminanceInverted' }), [
      1 - luminance(given),
    ]);
    close(read('route', 'alpha', { colour: given }, { alpha: 'zero' }), [0]);
    close(read('pack', 'colour', { red: 0.1, green: 0.2, blue: 0.3, alpha: 0.4 }), [0.1, 0.2, 0.3]);
    close(read('pack', 'alpha', { alpha: 0.4 }), [0.4]);
    close(
      ['red', 'green', 'blue', 'hue', 'saturation', 'value', 'luminance'].map(
        (output) => read('split', output, { colour: given })[0] as number,
      ),
      [...given, (0.3 - 0.15) / 0.45 / 6, 0.75, 0.6, luminance(given)],
    );
    close(
      ['hue', 'saturation'].map(
        (output) => read('split', output, { colour: [0.4, 0.4, 0.4] })[0] as number,
      ),
      [0, 0],
    );
    close(
      ['hue', 'saturation'].map(
        (output) => read('split', output, { colour: [0, 0, 0] })[0] as number,
      ),
      [0, 0],
    );
  });
  it('to grey by each method', () => {
    const grey = (method: string): number =>
      read('to-grey', 'grey', { colour: given }, { method })[0] as number;
    close(
      ['luminance', 'average', 'largest', 'smallest', 'middle', 'red', 'green', 'blue'].map(grey),
      [luminance(given), 0.35, 0.6, 0.15, 0.375, ...given],
    );
  });
  it('full value brings the largest channel to 1, and black to white', () => {
    close(read('full-value', 'colour', { colour: given }), [1, 0.5, 0.25]);
    close(read('full-value', 'colour', { colour: given }, { mode: 'lifted' }), [1, 0.7, 0.55]);
    for (const mode of ['scaled', 'lifted'])
      close(read('full-value', 'colour', { colour: [0, 0, 0] }, { mode }), [1, 1, 1]);
  });
});

describe('encode and temperature', () => {
  it('sRGB as the standard has it, and its inverse', () => {
    const at = [0, 0.001, 0.02, 0.04045, 0.2, 0.5, 1];
    close(curveOf('colour.encode', 'value', 'value', at), at.map(decodeSrgb), 5);
    close(
      curveOf('colour.encode', 'value', 'value', at, {}, { direction: 'encode' }),
      at.map(encodeSrgb),
      5,
    );
    close(
      curveOf('colour.encode', 'value', 'value', [-1, 0.25, 1], { gamma: 2 }, { curve: 'power' }),
      [0, 0.0625, 1],
      5,
    );
  });
  it('glows as black bodies do: chromaticity of published illuminants', () => {
    const xyz = (kelvin: number): [number, number] => {
      const [r = 0, g = 0, b = 0] = read(
        'temperature',
        'colour',
        { kelvin },
        { hold: 'luminance' },
      );
      const [x, y, z] = [
        0.4124 * r + 0.3576 * g + 0.1805 * b,
        0.2126 * r + 0.7152 * g + 0.0722 * b,
        0.0193 * r + 0.1192 * g + 0.9505 * b,
      ];
      return [x / (x + y + z), y / (x + y + z)];
    };
    // CIE illuminant A at 2856 K: (0.44757, 0.40745); the Planckian locus at 4000 K: (0.3805,
    // 0.3768), at 6500 K: (0.3135, 0.3237), at 10,000 K: (0.2807, 0.2884).
    for (const [kelvin, x, y] of [
      [2856, 0.44757, 0.40745],
      [4000, 0.3805, 0.3768],
      [6500, 0.3135, 0.3237],
      [10000, 0.2807, 0.2884],
    ] as const) {
      const [ax, ay] = xyz(kelvin);
      expect(Math.hypot(ax - x, ay - y)).toBeLessThan(2e-3);
    }
    expect(Math.max(...read('temperature', 'colour', { kelvin: 1 }))).toBeCloseTo(1, 5);
    expect(Math.max(...read('temperature', 'colour', { kelvin: 99999 }))).toBeCloseTo(1, 5);
  });
});

describe('palette', () => {
  const colours = (values: Record<string, InputValue>, harmony: string): number[][] =>
    ['first', 'second', 'third', 'fourth', 'fifth', 'sixth'].map((output) =>
      valueAt('gradients.palette', output, values, { harmony }),
    );
  it('with spread 0 is one colour, and its first is the base', () => {
    for (const harmony of ['similar', 'opposite', 'split', 'three', 'four', 'tones']) {
      const [first, ...others] = colours({ base: [0.3, 0.2, 0.25], spread: 0 }, harmony);
      expect(first).toEqual([0.3, 0.2, 0.25].map(Math.fround));
      for (const other of others) close(other, [0.3, 0.2, 0.25], 3);
    }
  });
  it('a grey stays grey under every turn, and tones are darker and lighter', () => {
    for (const colour of colours({ base: [0.3, 0.3, 0.3] }, 'three'))
      close(colour, [0.3, 0.3, 0.3], 3);
    const [first, darker, lighter] = colours({ base: [0.3, 0.2, 0.1] }, 'tones').map(luminance) as [
      number,
      number,
      number,
    ];
    expect(darker).toBeLessThan(first);
    expect(lighter).toBeGreaterThan(first);
  });
  it('picks round and round among as many as count says: no other colour ever shows', () => {
    const base: Triple = [0.3, 0.2, 0.25];
    const all = colours({ base }, 'four').map((each) => each.map((lane) => lane.toFixed(5)).join());
    const picked = (number: number, count: number): number =>
      all.indexOf(
        valueAt('gradients.palette', 'colour', { base, number, count }, { harmony: 'four' })
          .map((lane) => lane.toFixed(5))
          .join(),
      );
    expect([0, 1, 2.9, 3, -1, 301].map((number) => picked(number, 3))).toEqual([0, 1, 2, 0, 2, 1]);
    expect([5, 6].map((number) => picked(number, 6))).toEqual([5, 0]);
  });
});
