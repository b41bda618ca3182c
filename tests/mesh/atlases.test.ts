import { unwrapFast } from '@/core/exchange/unwrap';
import { atlasQuality } from '@/core/mesh/atlas';
import { growCharts } from '@/core/mesh/charts';
import { DEMO_MODELS } from '@/core/mesh/demo-models';
import { flatAtlas } from '@/core/mesh/flat-atlas';
import { ShapeSketch } from '@/core/mesh/shape-sketch';
import type { Sketch } from '@/core/mesh/shape-sketch';

/**
 * The largest and the least ratio of an atlas's area to the surface's, over triangles that have
 * some, as shares of the mean.
 */
function densities(
  sketch: Sketch,
  atlas: Float32Array,
  indices: Uint32Array,
): readonly [number, number] {
  const ratios: number[] = [];
  for (let t = 0; t < indices.length; t += 3) {
    const p = (k: number, axis: number): number =>
        sketch.positions[(sketch.indices[t + k] ?? 0) * 3 + axis] ?? 0,
      q = (k: number, axis: number): number => atlas[(indices[t + k] ?? 0) * 2 + axis] ?? 0;
    const d = (k: number): readonly [number, number, number] => [
      p(k, 0) - p(0, 0),
      p(k, 1) - p(0, 1),
      p(k, 2) - p(0, 2),
    ];
    const [u, v] = [d(1), d(2)];
    const area = Math.hypot(
      u[1] * v[2] - u[2] * v[1],
      u[2] * v[0] - u[0] * v[2],
      u[0] * v[1] - u[1] * v[0],
    );
    if (area > 1e-7)
      ratios.push(
        Math.abs(
          (q(1, 0) - q(0, 0)) * (q(2, 1) - q(0, 1)) - (q(1, 1) - q(0, 1)) * (q(2, 0) - q(0, 0)),
        ) / area,
      );
  }
  const mean = ratios.reduce((sum, ratio) => sum + ratio, 0) / ratios.length;
  return [Math.min(...ratios) / mean, Math.max(...ratios) / mean];
}

describe('the fast atlas', () => {
  const scan = (): Sketch =>
    new ShapeSketch()
      .box([0, 0, 0], [1, 1, 1], 0.3, 40, 0.06, 7)
      .sphere([0, 1.2, 0], 0.6, 60)
      .torus([2, 0, 0], [0, 1, 0], 0.6, 0.2, 60)
      .finish(1.2);

  it.each<readonly [string, () => Sketch]>([
    ['a scan-like lump, a ball and a ring', scan],
    ...DEMO_MODELS.map(({ title, make }) => [title, make] as const),
  ])(
    'lays %s out within the square, hardly overlapping, without losing a triangle',
    (_title, make) => {
      const sketch = make();
      const made = flatAtlas(sketch);
      if (!made) throw new Error('too many charts');
      expect(Array.from(made.indices, (vertex) => made.sources[vertex])).toEqual([
        ...sketch.indices,
      ]);
      const { coverage, overlap, outside } = atlasQuality(made);
      expect(outside).toBe(false);
      expect(overlap).toBeLessThan(0.02);
      expect(coverage).toBeGreaterThan(0.22);
    },
  );
  it('keeps stretch within what its cones allow', () => {
    const sketch = scan();
    const made = flatAtlas(sketch);
    if (!made) throw new Error('too many charts');
    const [least, most] = densities(sketch, made.atlas, made.indices);
    // Charts of a few triangles may lean up to 72°; the rest 66°.
    expect(least).toBeGreaterThan(0.3);
    expect(most).toBeLessThan(1.4);
  });
  it('separates what lies in layers: a spiral seen along its axis', () => {
    const turns = 3,
      steps = 120;
    const row = (radius: number) =>
      Array.from({ length: steps + 1 }, (_, k): [number, number, number] => {
        const angle = (k / steps) * turns * 2 * Math.PI;
        return [radius * Math.cos(angle), (k / steps) * 0.6, radius * Math.sin(angle)];
      });
    const spiral = new ShapeSketch().sheet([row(0.2), row(0.5), row(0.8)], false).finish(3);
    expect(growCharts(spiral).count).toBe(1);
    const made = flatAtlas(spiral);
    if (!made) throw new Error('too many charts');
    expect(made.charts).toBeGreaterThan(2);
    expect(atlasQuality(made).overlap).toBeLessThan(0.02);
  });
  it(
    'gives degenerate and disjoint triangles a place too, and survives meshes that are one ' +
      'point',
    () => {
      const positions = Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 5, 5, 5, 5, 5, 5, 5, 5, 5);
      const { atlas, indices } = unwrapFast(positions, Uint32Array.of(0, 1, 2, 3, 4, 5, 0, 0, 1));
      expect(indices).toHaveLength(9);
      expect(atlas.every((value) => value >= 0 && value <= 1)).toBe(true);
      expect(
        unwrapFast(new Float32Array(9), Uint32Array.of(0, 1, 2)).atlas.every((value) =>
          Number.isFinite(value),
        ),
      ).toBe(true);
    },
  );
});
