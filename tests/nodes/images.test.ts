import fc from 'fast-check';
import { seededRandom } from '@/core/base/random';
import { buildAtlas } from '@/core/base/image';
import type { ImageAtlas } from '@/core/base/image';
import { checkReferences } from '@/core/compile/check/check';
import { compileNetwork } from '@/core/compile/compile';
import type { CompileRequest } from '@/core/compile/compile';
import { imageDemands, imagesIn } from '@/core/compile/images';
import type { InputValue, NetworkDocument } from '@/core/graph/document';
import { describeValues } from '@/core/evaluate/statistics';
import { documentOf, node } from '../support/networks';
import { outputAt } from '../support/evaluate';
import type { Lanes } from '../support/evaluate';

const HASH = 'ab'.repeat(32);
const FILE = { image: HASH, name: 'test' };
const close = (actual: readonly number[], expected: readonly number[], tolerance = 1e-4): void => {
  actual.forEach((value, k) => {
    expect(Math.abs(value - (expected[k] ?? NaN))).toBeLessThanOrEqual(tolerance);
  });
};
const random = seededRandom(5);
const [W, H] = [6, 4];
const PIXELS = Float32Array.from({ length: W * H * 4 }, () => random() * 2);
const IMAGE = buildAtlas(W, H, PIXELS);
const texel = (x: number, y: number, c: number): number => PIXELS[(y * W + x) * 4 + c] as number;
type Ask = {
  readonly lanes: Lanes;
  readonly count?: number;
  readonly values?: Record<string, InputValue>;
  readonly options?: Record<string, string>;
  readonly request?: Partial<CompileRequest>;
  readonly image?: ImageAtlas;
};
function read(
  type: string,
  output: string,
  { lanes, count = 1, values = {}, options = {}, request = {}, image = IMAGE }: Ask,
): number[][] {
  return outputAt(
    documentOf([node('n', type, { image: FILE, ...values }, options)]),
    `n:${output}`,
    lanes,
    count,
    request,
    () => image,
  );
}

describe('image', () => {
  const at = (u: number, v: number, options: Record<string, string> = {}): number =>
    (
      read('patterns.image', 'green', {
        lanes: { 'uv.x': [u], 'uv.y': [v] },
        options,
      })[0] as number[]
    )[0] as number;
  it('gives texels at their middles, and mixes the four around elsewhere', () => {
    for (let y = 0; y < H; y++)
      for (let x = 0; x < W; x++) close([at((x + 0.5) / W, (y + 0.5) / H)], [texel(x, y, 1)]);
    const inside = fc.float({ min: Math.fround(0.15), max: Math.fround(0.85), noNaN: true });
    fc.assert(
      fc.property(inside, inside, (u, v) => {
        const [px, py] = [u * W - 0.5, v * H - 0.5],
          [x, y] = [Math.floor(px), Math.floor(py)],
          [s, t] = [px - x, py - y];
        const mixed =
          (texel(x, y, 1) * (1 - s) + texel(x + 1, y, 1) * s) * (1 - t) +
          (texel(x, y + 1, 1) * (1 - s) + texel(x + 1, y + 1, 1) * s) * t;
        close([at(u, v)], [mixed], 1e-4);
      }),
      { numRuns: 30, seed: 21 },
    );
  });
  it('repeats, mirrors, holds or ends at its edge', () => {
    const v = 0.5 / H;
    close([at(1 + 2.5 / W, v), at(-1 + 2.5 / W, v)], [texel(2, 0, 1), texel(2, 0, 1)]);
    close([at(0, v)], [(texel(0, 0, 1) + texel(W - 1, 0, 1)) / 2]);
    close(
      [at(-0.5 / W, v, { wrap: 'mirror' }), at(1 + 0.5 / W, v, { wrap: 'mirror' })],
      [texel(0, 0, 1), texel(W - 1, 0, 1)],
    );
    close(
      [at(-3, v, { wrap: 'hold' }), at(9, v, { wrap: 'hold' })],
      [texel(0, 0, 1), texel(W - 1, 0, 1)],
    );
    close([at(-0.01, v, { wrap: 'once' }), at(1.01, v, { wrap: 'once' })], [0, 0]);
    close([at(0.999, v, { filter: 'texel' })], [texel(W - 1, 0, 1)]);
  });
  it('keeps values above 1, takes any number as coordinates, and is grey without a file', () => {
    const bright = buildAtlas(1, 1, Float32Array.of(7, 8, 9, 0.5));
    expect(
      read('patterns.image', 'colour', { lanes: { 'uv.x': [0.3] }, image: bright }).flat(),
    ).toEqual([7, 8, 9]);
    for (const odd of [1e30, -1e30, Infinity, -Infinity, NaN])
      expect(Number.isFinite(at(odd, odd))).toBe(true);
    expect(
      outputAt(
        documentOf([node('n', 'patterns.image')]),
        'n:colour',
        {},
        1,
        {},
        () => undefined,
      ).flat(),
    ).toEqual([0.5, 0.5, 0.5]);
  });
  it('reads a reduced size where a sample is wide, and mixes between sizes', () => {
    const size = 64;
    const checks = buildAtlas(
      size,
      size,
      Float32Array.from({ length: size * size * 4 }, (_, k) =>
        (k & 3) === 3 ? 1 : (((k >> 2) % size) + Math.floor((k >> 2) / size)) % 2,
      ),
    );
    // One image over one metre: a footprint of f metres is 64·f texels.
    const lanes = (footprint: number): Lanes => ({
      'uv.x': [0.4 + 0.5 / size],
      'uv.y': [0.4],
      'uv.x.dx': [1],
      'uv.y.dz': [1],
      'normal.y': [1],
      footprint: [footprint],
    });
    const value = (footprint: number): number =>
      (
        read('patterns.image', 'red', {
          lanes: lanes(footprint),
          request: { antialias: ['images'] },
          image: checks,
        })[0] as number[]
      )[0] as number;
    const sharp = value(0);
    expect(Math.abs(sharp - 0.5)).toBeGreaterThan(0.05);
    close([value(2 / size), value(8 / size), value(1e6)], [0.5, 0.5, 0.5]);
    close([value(2 ** 0.5 / size)], [(sharp + 0.5) / 2], 2e-3);
  });
  it('is differentiated by the rules of its interpolation', () => {
    const document = documentOf(
      [
        node('i', 'patterns.image', { image: FILE }),
        node('b', 'surface.bump', { relief: 1, strength: 1 }),
      ],
      ['i:red > b:height'],
    );
    const [u, v] = [0.4, 0.45];
    const normal = outputAt(
      document,
      'b:normal',
      { 'uv.x': [u], 'uv.y': [v], 'uv.x.dx': [1], 'uv.y.dz': [1], 'normal.y': [1] },
      1,
      {},
      () => IMAGE,
    ).flat() as [number, number, number];
    const height = (x: number, y: number): number =>
      (
        read('patterns.image', 'red', { lanes: { 'uv.x': [x], 'uv.y': [y] } })[0] as number[]
      )[0] as number;
    const e = 1e-3;
    const [dx, dz] = [
      (height(u + e, v) - height(u - e, v)) / (2 * e),
      (height(u, v + e) - height(u, v - e)) / (2 * e),
    ];
    // n′ ∝ (−∂h/∂x, 1, −∂h/∂z)·(size 2).
    close(
      [normal[0] / normal[1], normal[2] / normal[1]],
      [-2 * dx, -2 * dz],
      0.02 * Math.max(1, Math.abs(dx), Math.abs(dz)),
    );
  });
});

describe('whether an image is colour or data', () => {
  const reading = (
    strands: readonly string[],
    options: Record<string, string> = {},
    extra: readonly ReturnType<typeof node>[] = [],
  ): string => {
    const document: NetworkDocument = documentOf(
      [
        node('i', 'patterns.image', { image: FILE }, options),
        node('s', 'surface.surface'),
        node('m', 'math.mix'),
        node('b', 'surface.normal-map'),
        ...extra,
      ],
      strands,
    );
    const compiled = compileNetwork(document, { surface: false, taps: 'all' });
    return imageDemands(compiled.imageSlots, document)[0]?.reading ?? '';
  };
  it('follows from what its colour is wired into', () => {
    expect(reading([])).toBe('colour');
    expect(reading(['i:colour > s:baseColour'])).toBe('colour');
    expect(reading(['i:colour > s:roughness'])).toBe('data');
    expect(reading(['i:colour > b:map'])).toBe('data');
    // One channel into a number is a number as it is stored; alpha says nothing either way.
    expect(reading(['i:red > s:roughness'])).toBe('data');
    expect(reading(['i:green > m:a', 'm:value > s:roughness'])).toBe('data');
    expect(reading(['i:red > s:baseColour'])).toBe('colour');
    expect(reading(['i:alpha > s:opacity'])).toBe('colour');
    // A node that takes any kind passes the question on.
    expect(reading(['i:colour > m:a', 'm:value > s:baseColour'])).toBe('colour');
    expect(reading(['i:colour > m:a', 'm:value > s:roughness'])).toBe('data');
    expect(reading(['i:colour > s:roughness', 'i:colour > s:baseColour'].map((text) => text))).toBe(
      'colour',
    );
  });
  it('is warned of where one image serves both', () => {
    const found = (strands: readonly string[], options: Record<string, string> = {}) =>
      checkReferences(
        documentOf(
          [node('i', 'patterns.image', { image: FILE }, options), node('s', 'surface.surface')],
          strands,
        ),
      ).map(({ code }) => code);
    const both = ['i:colour > s:baseColour', 'i:red > s:roughness'];
    expect(found(both)).toEqual(['image.mixed-reading']);
    expect(found(both, { reading: 'data' })).toEqual([]);
    expect(found(both.slice(1))).toEqual([]);
  });
  it('can be overruled', () => {
    expect(reading(['i:colour > s:baseColour'], { reading: 'data' })).toBe('data');
  });
  it('is part of what a document needs', () => {
    expect(
      imagesIn(
        documentOf([
          node('a', 'patterns.image', { image: FILE }),
          node('b', 'patterns.image', { image: { image: '', name: '' } }),
        ]),
      ),
    ).toEqual([HASH]);
  });
});

describe('three ways', () => {
  const weigh = (normal: readonly number[], blend = 0.3): number[] =>
    outputAt(
      documentOf([node('n', 'coordinates.three-way', { blend })]),
      'n:weights',
      { 'normal.x': [normal[0] ?? 0], 'normal.y': [normal[1] ?? 0], 'normal.z': [normal[2] ?? 0] },
      1,
    ).flat();
  it('weigh by the normal, together 1', () => {
    close(weigh([0, 0, -1]), [0, 0, 1]);
    close(weigh([Math.SQRT1_2, Math.SQRT1_2, 0]), [0.5, 0.5, 0]);
    close(weigh([0.8, 0.6, 0], 0), [1, 0, 0]);
    fc.assert(
      fc.property(
        fc.float({ min: -1, max: 1, noNaN: true }),
        fc.float({ min: -1, max: 1, noNaN: true }),
        fc.float({ min: 0, max: 1, noNaN: true }),
        (x, y, blend) => {
          const weights = weigh([x, y, 0.3], blend);
          close([weights.reduce((sum, weight) => sum + weight, 0)], [1]);
          expect(Math.min(...weights)).toBeGreaterThanOrEqual(0);
        },
      ),
      { numRuns: 25, seed: 22 },
    );
  });
  it('never mirror: seen from outside, u runs to the right and v down', () => {
    const right: Record<string, readonly number[]> = {
      '1,0,0': [0, 0, -1],
      '-1,0,0': [0, 0, 1],
      '0,0,1': [1, 0, 0],
      '0,0,-1': [-1, 0, 0],
      '0,1,0': [1, 0, 0],
    };
    for (const [key, direction] of Object.entries(right)) {
      const normal = key.split(',').map(Number);
      const output = normal[0] ? 'alongX' : normal[1] ? 'alongY' : 'alongZ';
      const place = (t: number): number[] =>
        outputAt(
          documentOf([node('n', 'coordinates.three-way')]),
          `n:${output}`,
          {
            'position.x': [(direction[0] ?? 0) * t],
            'position.y': [(direction[1] ?? 0) * t],
            'position.z': [(direction[2] ?? 0) * t],
            'normal.x': [normal[0] ?? 0],
            'normal.y': [normal[1] ?? 0],
            'normal.z': [normal[2] ?? 0],
          },
          1,
        ).flat();
      close([(place(1)[0] ?? 0) - (place(0)[0] ?? 0)], [1]);
    }
  });
  it('show the image along one axis where the surface faces it', () => {
    const lanes: Lanes = { 'position.x': [0.31], 'position.y': [-0.12], 'normal.z': [1] };
    const projected = read('patterns.three-way-image', 'colour', {
      lanes,
      values: { scale: 1 },
      options: { per: 'unit' },
    }).flat();
    const flat = read('patterns.image', 'colour', {
      lanes: { 'uv.x': [0.31], 'uv.y': [0.12] },
    }).flat();
    close(projected, flat);
  });
  it(
    'add a normal map’s relief: a flat map leaves the normal, a lean to the right leans to ' +
      'the right',
    () => {
      const map = (x: number, y: number, z: number): ImageAtlas =>
        buildAtlas(1, 1, Float32Array.of((x + 1) / 2, (y + 1) / 2, (z + 1) / 2, 1));
      const lean = (normal: readonly number[], image: ImageAtlas): number[] =>
        read('patterns.three-way-image', 'normal', {
          lanes: {
            'normal.x': [normal[0] ?? 0],
            'normal.y': [normal[1] ?? 0],
            'normal.z': [normal[2] ?? 0],
          },
          options: { as: 'normal' },
          image,
        }).flat();
      close(lean([0, 0, 1], map(0, 0, 1)), [0, 0, 1]);
      close(lean([0.6, 0, 0.8], map(0, 0, 1)), [0.6, 0, 0.8]);
      close(lean([0, 0, 1], map(0.6, 0, 0.8)), [0.6, 0, 0.8]);
      close(lean([0, 0, -1], map(0.6, 0, 0.8)), [-0.6, 0, -0.8]);
      close(lean([0, 0, 1], map(0, 0.6, 0.8)), [0, 0.6, 0.8]);
      close(lean([1, 0, 0], map(0.6, 0, 0.8)), [0.8, 0, -0.6]);
    },
  );
  it('weigh three values', () => {
    expect(
      outputAt(
        documentOf([
          node('n', 'coordinates.three-way-blend', {
            first: 1,
            second: 2,
            third: 4,
            weights: [0.5, 0.25, 0.25],
          }),
        ]),
        'n:result',
        {},
        1,
      ).flat(),
    ).toEqual([2]);
  });
});

describe('strips and untiled images', () => {
  it('a row is a ramp from its first texel to its last; rows count from the top', () => {
    const row = (value: number, which: number, options: Record<string, string> = {}): number =>
      (
        read('gradients.row-sampler', 'colour', {
          lanes: {},
          values: { value, row: which },
          options,
          image: IMAGE,
        })[0] as number[]
      )[0] as number;
    close(
      [row(0, 1), row(1, 1), row(0.4, 1), row(-3, 0), row(7, 9)],
      [texel(0, 1, 0), texel(W - 1, 1, 0), texel(2, 1, 0), texel(0, 0, 0), texel(W - 1, H - 1, 0)],
    );
    close(
      [row(0, 0.5, { between: 'mix' }), row(0, 0.5)],
      [(texel(0, 0, 0) + texel(0, 1, 0)) / 2, texel(0, 1, 0)],
    );
    close(
      [row(1.2, 0, { outside: 'repeat' }), row(1.2, 0, { outside: 'mirror' })],
      [texel(1, 0, 0), texel(4, 0, 0)],
    );
  });
  it('hiding repetition keeps mean and contrast, and no longer repeats', () => {
    const size = 32,
      count = 4000;
    const noise = seededRandom(9);
    const grain = buildAtlas(
      size,
      size,
      Float32Array.from({ length: size * size * 4 }, (_, k) => ((k & 3) === 3 ? 1 : noise())),
    );
    const points = seededRandom(10);
    const u = Float32Array.from({ length: count }, () => points() * 3),
      v = Float32Array.from({ length: count }, () => points() * 3);
    const sample = (type: string, shift: number): Float32Array =>
      Float32Array.from(
        read(type, 'colour', {
          lanes: { 'uv.x': u.map((x) => x + shift), 'uv.y': v },
          count,
          values: { repeat: 1 },
          image: grain,
        })[0] as number[],
      );
    const spread = (values: Float32Array): readonly [number, number] => {
      const { mean } = describeValues([values]);
      return [
        mean,
        Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length),
      ];
    };
    const [plain, untiled] = [
      spread(sample('patterns.image', 0)),
      spread(sample('patterns.untiled-image', 0)),
    ];
    expect(Math.abs(plain[0] - untiled[0])).toBeLessThan(0.02);
    expect(untiled[1] / plain[1]).toBeGreaterThan(0.9);
    expect(untiled[1] / plain[1]).toBeLessThan(1.1);
    const repeats = (type: string): number => {
      const [a, b] = [sample(type, 0), sample(type, 1)];
      return a.reduce((sum, value, k) => sum + Math.abs(value - (b[k] ?? 0)), 0) / count;
    };
    expect(repeats('patterns.image')).toBeLessThan(1e-3);
    expect(repeats('patterns.untiled-image')).toBeGreaterThan(0.1);
  });
});
