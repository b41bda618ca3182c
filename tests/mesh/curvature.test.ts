import { MeshAnalysis } from '@/core/mesh/analysis';
import { uniformPoints } from '@/core/mesh/sample-points';
import type { SamplePoints } from '@/core/mesh/sample-points';
import { ShapeSketch } from '@/core/mesh/shape-sketch';
import type { Sketch } from '@/core/mesh/shape-sketch';
import type { SurfaceMesh } from '@/core/mesh/surface-mesh';
import { meshOfSketch } from '../support/meshes';

type Place = readonly [number, number, number];
const placeOf = ({ positions }: SamplePoints, k: number): Place => [
  positions[k * 3] ?? 0,
  positions[k * 3 + 1] ?? 0,
  positions[k * 3 + 2] ?? 0,
];
/** A shape whose normals are those of the surface it stands for. */
function smooth(sketch: Sketch, normalAt: (p: Place) => Place): SurfaceMesh {
  const normals = sketch.positions.slice();
  for (let v = 0; v < normals.length; v += 3)
    normals.set(normalAt([normals[v] ?? 0, normals[v + 1] ?? 0, normals[v + 2] ?? 0]), v);
  return meshOfSketch({ ...sketch, normals });
}
const unit = ([x, y, z]: Place): Place => {
  const l = Math.hypot(x, y, z);
  return [x / l, y / l, z / l];
};
/** The signed curvature at points for which `counts`, each divided by what the closed form says. */
function ratios(
  mesh: SurfaceMesh,
  radius: number,
  exact: (p: Place) => number,
  counts: (p: Place) => boolean = () => true,
): readonly number[] {
  const points = uniformPoints(mesh, 300);
  const values = new MeshAnalysis(mesh).measure({ kind: 'curvature', radius }, points, 0);
  return [...values].flatMap((value, k) => {
    const p = placeOf(points, k);
    return counts(p) ? [value / (radius * exact(p))] : [];
  });
}
const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;
const worst = (values: readonly number[]): number =>
  Math.max(...values.map((value) => Math.abs(value - 1)));
const pairs = (radii: readonly number[], tessellations: readonly number[]): [number, number][] =>
  radii.flatMap((radius) => tessellations.map((segments): [number, number] => [radius, segments]));

describe('curvature against closed forms', () => {
  const sphere = (segments: number): SurfaceMesh =>
    smooth(new ShapeSketch().sphere([0, 0, 0], 1, segments).finish(3), unit);
  it.each(pairs([0.05, 0.15, 0.4], [24, 72, 224]))(
    'is ρ/R everywhere on a sphere: ρ = %d, %i segments',
    (radius, segments) => {
      expect(worst(ratios(sphere(segments), radius, () => 1))).toBeLessThan(0.03);
    },
  );
  it('agrees on spheres of 500 and of 50,000 triangles whose normals were only smoothed', () => {
    const [coarse, fine] = [24, 224].map((segments) =>
      mean(
        ratios(
          meshOfSketch(new ShapeSketch().sphere([0, 0, 0], 1, segments).finish(3)),
          0.15,
          () => 1,
        ),
      ),
    ) as [number, number];
    expect(Math.abs(coarse / fine - 1)).toBeLessThan(0.05);
  });

  const cylinder = (segments: number): SurfaceMesh =>
    smooth(
      new ShapeSketch()
        .lathe(
          [
            [0.5, -2],
            [0.5, 2],
          ],
          segments,
        )
        .finish(3),
      ([x, , z]) => unit([x, 0, z]),
    );
  it.each(pairs([0.05, 0.1, 0.3], [16, 48, 160]))(
    'is ρ/2R on a cylinder: ρ = %d, %i segments',
    (radius, segments) => {
      expect(
        worst(
          ratios(
            cylinder(segments),
            radius,
            () => 1,
            ([, y]) => Math.abs(y) < 1.5,
          ),
        ),
      ).toBeLessThan(0.03);
    },
  );

  const torus = (segments: number): SurfaceMesh =>
    smooth(
      new ShapeSketch().torus([0, 0, 0], [0, 1, 0], 1, 0.4, segments).finish(3),
      ([x, y, z]) => {
        const r = Math.hypot(x, z);
        return unit([x - x / r, y, z - z / r]);
      },
    );
  const torusExact = ([x, , z]: Place): number => {
    const c = (Math.hypot(x, z) - 1) / 0.4;
    return (1 + 0.8 * c) / (0.8 * (1 + 0.4 * c));
  };
  it.each(pairs([0.02, 0.04, 0.08], [120, 180, 320]))(
    'is ρ·(R + 2r cos θ) / 2r(R + r cos θ) on a torus: ρ = %d, %i segments',
    (radius, segments) => {
      const found = ratios(torus(segments), radius, torusExact, (p) => torusExact(p) > 0.3);
      expect(Math.abs(mean(found) - 1)).toBeLessThan(0.01);
      expect(worst(found)).toBeLessThan(0.03);
    },
  );

  it('is 0 on a plane, whatever its triangles', () => {
    for (const columns of [1, 7, 60]) {
      const row = (z: number): Place[] =>
        Array.from({ length: columns + 1 }, (_, k) => [k / columns - 0.5, 0, z]);
      const mesh = meshOfSketch(
        new ShapeSketch()
          .sheet(
            [row(-0.5), row(0.1), row(0.5)].map((each) => [...each]),
            false,
          )
          .finish(),
      );
      for (const value of new MeshAnalysis(mesh).measure(
        { kind: 'curvature', radius: 0.1 },
        uniformPoints(mesh, 60),
        0,
      ))
        expect(Math.abs(value)).toBeLessThan(1e-6);
    }
  });

  it(
    'bands the edges of a box by the radius asked for: ½ on the edge, to 0 at ρ, alike for ' +
      'coarse and fine boxes',
    () => {
      // On an edge bent by 90° the ball holds two half discs less what it loses at the bend: ρ ·
      // ½ · ½π · 2c / area, c half the chord.
      const profile = (divisions: number, radius: number): readonly number[] => {
        const mesh = meshOfSketch(
          new ShapeSketch().box([0, 0, 0], [1, 1, 1], 0.00001, divisions).finish(0.3),
        );
        const points = uniformPoints(mesh, 3000);
        const values = new MeshAnalysis(mesh).measure({ kind: 'curvature', radius }, points, 0);
        const bins = [
          [0, 0.1],
          [0.25, 0.35],
          [0.45, 0.55],
          [0.65, 0.75],
          [1.02, 2],
        ] as const;
        return bins.map(([from, to]) =>
          mean(
            [...values].filter((_, k) => {
              const gaps = placeOf(points, k)
                .map((x) => 1 - Math.abs(x))
                .sort((a, b) => a - b) as [number, number, number];
              return gaps[1] >= from * radius && gaps[1] < to * radius && gaps[2] > 2 * radius;
            }),
          ),
        );
      };
      for (const radius of [0.08, 0.16, 0.3]) {
        const [coarse, fine] = [profile(1, radius), profile(9, radius)];
        coarse.slice(0, 4).forEach((value, k) => {
          expect(Math.abs(value / (fine[k] ?? 0) - 1)).toBeLessThan(0.1);
        });
        expect(coarse[0]).toBeCloseTo(0.5, 1);
        expect([coarse[4], fine[4]].every((value) => Math.abs(value ?? 1) < 1e-6)).toBe(true);
        // The same profile at every radius: the band is as wide as asked for.
        expect(Math.abs((coarse[2] ?? 0) / (profile(1, 0.16)[2] ?? 0) - 1)).toBeLessThan(0.1);
      }
    },
  );

  it('is 0 of nothing and survives triangles without area', () => {
    const flat = meshOfSketch({
      ...new ShapeSketch().sphere([0, 0, 0], 1, 12).finish(3),
      positions: new Float32Array(12 * 7 * 3),
    });
    expect(
      [
        ...new MeshAnalysis(flat).measure(
          { kind: 'curvature', radius: 0.1 },
          uniformPoints(flat, 5),
          0,
        ),
      ].every((value) => value === 0),
    ).toBe(true);
  });
});
