import fc from 'fast-check';
import { MeshAnalysis } from '@/core/mesh/analysis';
import { CreaseDistance } from '@/core/mesh/crease';
import { MeshKernel } from '@/core/mesh/mesh-kernel';
import { uniformPoints } from '@/core/mesh/sample-points';
import { ShapeSketch } from '@/core/mesh/shape-sketch';
import type { SurfaceMesh } from '@/core/mesh/surface-mesh';
import { findEdges, weldVertices } from '@/core/mesh/topology';
import { meshOfSketch } from '../support/meshes';

const coordinate = fc.double({ min: -3, max: 3, noNaN: true });
const point = fc.tuple(coordinate, coordinate, coordinate);

/** A mesh of one triangle, as part 0; nothing else is asked of it. */
const triangle = (...corners: readonly (readonly [number, number, number])[]): MeshKernel =>
  new MeshKernel({
    positions: Float32Array.from(corners.flat()),
    indices: Uint32Array.of(0, 1, 2),
    parts: Uint32Array.of(0),
    size: 1,
  });
const distanceTo = (kernel: MeshKernel, p: readonly number[]): number =>
  kernel.distances(
    { positions: Float32Array.from(p), triangles: Uint32Array.of(0) },
    0,
    false,
    1000,
    0,
    1,
  )[0] ?? 0;

describe('distance to a triangle', () => {
  it('is that of the nearest of many points on it', () => {
    fc.assert(
      fc.property(point, point, point, point, (a, b, c, p) => {
        const found = distanceTo(triangle(a, b, c), p);
        let least = Infinity;
        for (let i = 0; i <= 60; i++)
          for (let j = 0; j <= 60 - i; j++) {
            const place = [0, 1, 2].map(
              (k) =>
                (a[k] ?? 0) +
                (((b[k] ?? 0) - (a[k] ?? 0)) * i) / 60 +
                (((c[k] ?? 0) - (a[k] ?? 0)) * j) / 60,
            );
            least = Math.min(least, Math.hypot(...place.map((x, k) => x - (p[k] ?? 0))));
          }
        expect(found).toBeLessThanOrEqual(least + 1e-4);
        expect(found).toBeGreaterThanOrEqual(least - 0.2);
      }),
      { numRuns: 200 },
    );
  });
});

describe('proximity to parts', () => {
  const mesh = meshOfSketch(
    new ShapeSketch()
      .nextPart('a')
      .sphere([0, 0, 0], 1, 48)
      .nextPart('b')
      .sphere([3, 0, 0], 0.5, 48)
      .nextPart('c')
      .sphere([0, 4, 0], 0.5, 48)
      .finish(3),
  );
  const analysis = new MeshAnalysis(mesh);
  const points = uniformPoints(mesh, 500);
  const place = (k: number): [number, number, number] => [
    points.positions[k * 3] ?? 0,
    points.positions[k * 3 + 1] ?? 0,
    points.positions[k * 3 + 2] ?? 0,
  ];
  const spheres: [number, number, number, number][] = [
    [0, 0, 0, 1],
    [3, 0, 0, 0.5],
    [0, 4, 0, 0.5],
  ];
  const exact = (k: number, to: number): number => {
    const [x, y, z, r] = spheres[to] ?? [0, 0, 0, 0];
    const [px, py, pz] = place(k);
    return Math.abs(Math.hypot(px - x, py - y, pz - z) - r);
  };
  it('is the closed form of spheres', () => {
    const others = analysis.measure({ kind: 'proximity', part: null }, points, 0),
      second = analysis.measure({ kind: 'proximity', part: 'b' }, points, 0);
    for (let k = 0; k < 500; k++) {
      const own = mesh.parts[points.triangles[k] ?? 0] ?? 0;
      expect(
        Math.abs(
          (others[k] ?? 0) -
            Math.min(...[0, 1, 2].filter((part) => part !== own).map((part) => exact(k, part))),
        ),
      ).toBeLessThan(0.012);
      expect(Math.abs((second[k] ?? 0) - exact(k, 1))).toBeLessThan(0.012);
    }
  });
  it('is two object sizes where there is nothing to measure to', () => {
    expect(
      [...analysis.measure({ kind: 'proximity', part: 'gone' }, points, 0)].every(
        (value) => Math.abs(value / mesh.size - 2) < 1e-5,
      ),
    ).toBe(true);
    const alone = meshOfSketch(new ShapeSketch().sphere([0, 0, 0], 1, 12).finish());
    expect(
      new MeshKernel(alone).distances(
        { positions: Float32Array.of(0, 0, 1), triangles: Uint32Array.of(0) },
        0,
        true,
        4,
        0,
        1,
      )[0],
    ).toBe(4);
  });
});

describe('crease distance', () => {
  const box = (divisions: number): SurfaceMesh =>
    meshOfSketch(new ShapeSketch().box([0, 0, 0], [1, 1, 1], 0, divisions).finish(0.3));
  const at = (
    mesh: SurfaceMesh,
    width: number,
    exact: (p: readonly [number, number, number]) => number,
    tolerance: number,
    angle = Math.PI / 6,
  ): void => {
    const points = uniformPoints(mesh, 600);
    const found = new CreaseDistance(mesh, angle, width).measure(points, 0, points.count);
    found.forEach((value, k) => {
      const p = [
        points.positions[k * 3] ?? 0,
        points.positions[k * 3 + 1] ?? 0,
        points.positions[k * 3 + 2] ?? 0,
      ] as const;
      expect(Math.abs(value - Math.min(1, exact(p) / width))).toBeLessThan(tolerance);
    });
  };
  it('is the distance to the edges of a box, the same for coarse and fine triangles', () => {
    const exact = (p: readonly [number, number, number]): number => {
      const [, second = 1] = p.map(Math.abs).sort((x, y) => y - x);
      return 1 - second;
    };
    for (const divisions of [1, 3, 12]) at(box(divisions), 0.4, exact, 1e-4);
  });
  it('follows the surface round a cylinder to its rims', () => {
    const cylinder = meshOfSketch(
      new ShapeSketch()
        .lathe(
          [
            [0, -1],
            [0.5, -1],
            [0.5, 1],
            [0, 1],
          ],
          64,
        )
        .finish(),
    );
    at(
      cylinder,
      1.2,
      ([x, y, z]) => (Math.abs(y) > 0.999 ? 0.5 - Math.hypot(x, z) : 1 - Math.abs(y)),
      0.01,
    );
  });
  it('is the same measured in parts, one map after another', () => {
    const mesh = box(2),
      analysis = new MeshAnalysis(mesh),
      points = uniformPoints(mesh, 300);
    const map = (width: number) => ({ kind: 'crease', angleRad: Math.PI / 6, width }) as const;
    const [whole, other] = [
      analysis.measure(map(0.4), points, 0),
      analysis.measure(map(0.2), points, 0),
    ];
    expect([
      ...analysis.measure(map(0.4), points, 0, 0, 120),
      ...analysis.measure(map(0.4), points, 0, 120, 180),
    ]).toEqual([...whole]);
    other.forEach((value, k) => {
      expect(value).toBeCloseTo(Math.min(1, (whole[k] ?? 0) * 2), 5);
    });
  });
  it('finds none on a sphere, nor on an open sheet', () => {
    at(meshOfSketch(new ShapeSketch().sphere([0, 0, 0], 1, 32).finish(3)), 0.5, () => 9, 1e-6);
    at(
      meshOfSketch(
        new ShapeSketch()
          .sheet(
            [
              [
                [0, 0, 0],
                [1, 0, 0],
              ],
              [
                [0, 0, 1],
                [1, 0, 1],
              ],
            ],
            false,
          )
          .finish(),
      ),
      0.5,
      () => 9,
      1e-6,
    );
  });
});

describe('edges', () => {
  it(
    'are closed on a box, open on a sheet, flipped where a triangle is turned round, ' +
      'non-manifold where three meet',
    () => {
      const closed = meshOfSketch(new ShapeSketch().box([0, 0, 0], [1, 1, 1], 0, 2).finish());
      expect(findEdges(closed.indices, weldVertices(closed.positions, 1e-6))).toMatchObject({
        open: 0,
        nonManifold: 0,
        flipped: 0,
      });
      const positions = Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0, 0, 0, 1);
      const welded = weldVertices(positions, 0);
      expect(findEdges(Uint32Array.of(0, 1, 2, 1, 3, 2), welded)).toMatchObject({
        open: 4,
        nonManifold: 0,
        flipped: 0,
      });
      expect(findEdges(Uint32Array.of(0, 1, 2, 1, 2, 3), welded)).toMatchObject({
        open: 4,
        nonManifold: 0,
        flipped: 1,
      });
      expect(findEdges(Uint32Array.of(0, 1, 2, 1, 3, 2, 1, 2, 4), welded)).toMatchObject({
        nonManifold: 1,
      });
    },
  );
  it('weld vertices within a cell, and −0 with 0', () => {
    expect([...weldVertices(Float32Array.of(0, 0, 0, -0, 0, 0, 1, 0, 0), 0)]).toEqual([0, 0, 2]);
    expect([...weldVertices(Float32Array.of(0, 0, 0, 0.004, 0, 0, 0.2, 0, 0), 0.01)]).toEqual([
      0, 0, 2,
    ]);
  });
});
