import type { InputValue } from '@/core/graph/document';
import { splitLanes } from '@/core/mesh/lanes';
import { rasterPoints, rasteriseAtlas } from '@/core/mesh/atlas';
import { pointsAt } from '@/core/mesh/sample-points';
import { DEMO_MODELS } from '@/core/mesh/demo-models';
import { readModel } from '@/core/exchange/read-model';
import { readFileSync } from 'node:fs';
import { documentOf, node } from '../support/networks';
import { outputAt } from '../support/evaluate';

const EVEN = { antialias: ['images', 'steps'] as const };
/**
 * A value that rises with x, judged by a node, where a sample is `footprint` metres wide; the
 * surface lies flat, facing up.
 */
function along(
  type: string,
  input: string,
  output: string,
  at: readonly number[],
  footprint: number,
  values: Record<string, InputValue> = {},
  options: Record<string, string> = {},
): number[] {
  const document = documentOf(
    [node('p', 'model.position'), node('n', type, values, options)],
    [input === 'at' ? `p:position > n:at` : `p:x > n:${input}`],
  );
  const lanes = {
    'position.x': at,
    'normal.y': at.map(() => 1),
    footprint: at.map(() => footprint),
  };
  return outputAt(document, `n:${output}`, lanes, at.length, EVEN)[0] ?? [];
}
/** The mean of a hard function over a sample's width. */
const boxed = (hard: (x: number) => number, x: number, width: number): number =>
  Array.from({ length: 2000 }, (_, k) => hard(x + (k / 1999 - 0.5) * width)).reduce(
    (sum, value) => sum + value,
    0,
  ) / 2000;
const near = (actual: readonly number[], expected: readonly number[], tolerance: number): void => {
  actual.forEach((value, k) => {
    expect(Math.abs(value - (expected[k] ?? NaN))).toBeLessThanOrEqual(tolerance);
  });
};

const AT = [0.2, 0.41, 0.46, 0.5, 0.53, 0.59, 0.9];
describe('hard steps where a sample has a width', () => {
  it('become the share of the sample beyond the edge', () => {
    const step = (x: number): number => (x >= 0.5 ? 1 : 0);
    const expected = AT.map((x) => boxed(step, x, 0.2));
    near(along('ranges.threshold', 'value', 'mask', AT, 0.2), expected, 2e-3);
    near(along('ranges.smoothstep', 'value', 'mask', AT, 0.2, { width: 0 }), expected, 2e-3);
    near(along('ranges.compare', 'a', 'mask', AT, 0.2), expected, 2e-3);
    near(
      along('ranges.compare', 'a', 'mask', AT, 0.2, {}, { operation: 'less' }),
      expected.map((x) => 1 - x),
      2e-3,
    );
  });
  it('stay hard at a point', () => {
    expect(along('ranges.threshold', 'value', 'mask', AT, 0)).toEqual([0, 0, 0, 1, 1, 1, 1]);
    expect(
      along('patterns.checks', 'at', 'mask', [-0.3, 0.3, 1.3], 0, { scale: 1 }, { per: 'unit' }),
    ).toEqual([1, 0, 1]);
  });
  it('leave soft ones alone', () => {
    near(
      along('ranges.threshold', 'value', 'mask', AT, 0.01, { width: 0.4 }),
      AT.map((x) => Math.min(1, Math.max(0, (x - 0.5) / 0.4 + 0.5))),
      1e-5,
    );
  });
  it('antialias the holds of a ramp', () => {
    const stops = [
      [0, 0.1],
      [0.5, 0.9],
      [0.8, 0.4],
    ].map(([position = 0, grey = 0], k) => ({
      id: `s${String(k)}`,
      position,
      colour: [grey, grey, grey] as const,
      alpha: 1,
      segment: 'hold' as const,
    }));
    const hard = (x: number): number => (x >= 0.8 ? 0.4 : x >= 0.5 ? 0.9 : 0.1);
    near(
      along('gradients.ramp', 'value', 'scalar', AT, 0.1, { stops: { stops } }),
      AT.map((x) => boxed(hard, x, 0.1)),
      3e-3,
    );
  });
  it('antialias the bands of posterise and the steps of a formula', () => {
    const bands = (x: number): number =>
      Math.min(Math.floor(Math.min(1, Math.max(0, x)) * 3), 2) / 2;
    const at = [-0.4, 0.1, 0.3, 0.34, 0.36, 0.5, 0.65, 0.69, 0.9, 1.4];
    near(
      along('ranges.posterise', 'value', 'value', at, 0.1),
      at.map((x) => boxed(bands, x, 0.1)),
      3e-3,
    );
    near(along('ranges.posterise', 'value', 'value', at, 0), at.map(bands), 1e-6);
    near(
      along('math.formula', 'a', 'value', AT, 0.2, { formula: { formula: 'step(0.5, a)' } }),
      AT.map((x) => boxed((y) => (y >= 0.5 ? 1 : 0), x, 0.2)),
      2e-3,
    );
    near(
      along('math.formula', 'a', 'value', AT, 0, { formula: { formula: 'step(0.5, a)' } }),
      AT.map((x) => (x >= 0.5 ? 1 : 0)),
      0,
    );
  });
  it('antialias checks, and fade where cells are narrower than a sample', () => {
    const at = [0.1, 0.95, 1, 1.04, 1.5];
    const hard = (x: number): number => Math.abs(Math.floor(x)) % 2;
    near(
      along('patterns.checks', 'at', 'mask', at, 0.2, { scale: 1 }, { per: 'unit', axes: 'two' }),
      at.map((x) => boxed(hard, x, 0.2)),
      5e-3,
    );
    near(
      along('patterns.checks', 'at', 'mask', at, 4, { scale: 1 }, { per: 'unit' }),
      at.map(() => 0.5),
      1e-6,
    );
  });
});

describe('the width of a sample', () => {
  it('grows with the distance from the eye, and in an atlas covers the surface', async () => {
    const [model] = DEMO_MODELS;
    if (!model) throw new Error('no demo model');
    const { mesh } = await readModel(
      new Uint8Array(readFileSync(`assets/models/${model.name}.glb`)),
      model.name,
    );
    const triangles = Uint32Array.of(0, 10),
      weights = Float32Array.of(0.3, 0.3, 0.2, 0.5);
    const eye = [0, 0, 3] as const;
    const points = pointsAt(mesh, triangles, weights, { eye, pixelRad: 0.001 });
    const lane = splitLanes(mesh, points, new Map())('footprint');
    const distance = (k: number): number =>
      Math.hypot(...eye.map((x, axis) => (points.positions[k * 3 + axis] ?? 0) - x));
    near([...(lane ?? [])], [distance(0) * 0.001, distance(1) * 0.001], 1e-6);
    const size = 128;
    const raster = rasterPoints(mesh, rasteriseAtlas(mesh, size));
    const widths = splitLanes(mesh, raster, new Map())('footprint') ?? new Float32Array();
    const covered = widths.reduce((sum, width) => sum + width * width, 0);
    let area = 0;
    for (let t = 0; t * 3 < mesh.indices.length; t++) {
      const corner = (c: number): number[] =>
        [0, 1, 2].map((axis) => mesh.positions[(mesh.indices[t * 3 + c] ?? 0) * 3 + axis] ?? 0);
      const [a, b, c] = [corner(0), corner(1), corner(2)] as [number[], number[], number[]];
      const [u, v] = [b.map((x, k) => x - (a[k] ?? 0)), c.map((x, k) => x - (a[k] ?? 0))] as [
        [number, number, number],
        [number, number, number],
      ];
      area +=
        Math.hypot(
          u[1] * v[2] - u[2] * v[1],
          u[2] * v[0] - u[0] * v[2],
          u[0] * v[1] - u[1] * v[0],
        ) / 2;
    }
    expect(covered / area).toBeGreaterThan(0.8);
    expect(covered / area).toBeLessThan(1.2);
  });
});
