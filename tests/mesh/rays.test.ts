import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import path from 'node:path';
import { seededRandom } from '@/core/base/random';
import { cross, dot, sub } from '@/core/base/vector';
import type { Vec3 } from '@/core/base/vector';
import { MeshAnalysis, resolveMapSettings } from '@/core/mesh/analysis';
import { DEMO_MODELS } from '@/core/mesh/demo-models';
import { portableSine } from '@/core/mesh/kernel-batches';
import { RAY, MeshKernel } from '@/core/mesh/mesh-kernel';
import { uniformPoints } from '@/core/mesh/sample-points';
import type { SamplePoints } from '@/core/mesh/sample-points';
import { ShapeSketch } from '@/core/mesh/shape-sketch';
import { getCorners, triangleCount, vertexAt } from '@/core/mesh/surface-mesh';
import type { SurfaceMesh } from '@/core/mesh/surface-mesh';
import { meshOfSketch } from '../support/meshes';

// Looked up once: globals are slow to reach from a test.
const { PI, cos, floor, sin, sqrt } = Math;

/**
 * The nearest hit by a search through all triangles, in double precision (T. Möller, B. Trumbore,
 * 1997).
 */
function search(mesh: SurfaceMesh, o: Vec3, d: Vec3): number {
  let nearest = Infinity;
  for (let t = 0; t < triangleCount(mesh); t++) {
    const [a, b, c] = getCorners(mesh, t);
    const e1 = sub(b, a),
      e2 = sub(c, a),
      p = cross(d, e2);
    const determinant = dot(e1, p);
    if (Math.abs(determinant) < 1e-14) continue;
    const s = sub(o, a),
      u = dot(s, p) / determinant,
      q = cross(s, e1),
      v = dot(d, q) / determinant;
    const distance = dot(e2, q) / determinant;
    if (u >= 0 && v >= 0 && u + v <= 1 && distance > 0) nearest = Math.min(nearest, distance);
  }
  return nearest;
}
function randomDirection(random: () => number): Vec3 {
  const z = random() * 2 - 1,
    turn = random() * 2 * PI,
    r = sqrt(1 - z * z);
  return [r * cos(turn), r * sin(turn), z];
}
const raysOf = (list: readonly (readonly [Vec3, Vec3])[], reach = 1e30): Float32Array =>
  Float32Array.from(list.flatMap(([o, d]) => [...o, ...d, reach, 0]));
/** One point facing up. */
function pointAt(x: number, y: number, z: number, normal: Vec3 = [0, 1, 0]): SamplePoints {
  const one = Float32Array.of(...normal);
  return {
    count: 1,
    positions: Float32Array.of(x, y, z),
    normals: one,
    faceNormals: one,
    uvs: new Float32Array(2),
    atlas: new Float32Array(2),
    triangles: new Uint32Array(1),
    weights: new Float32Array(2),
  };
}
const QUARTER = Math.PI / 2;
const open = (
  mesh: SurfaceMesh,
  points: SamplePoints,
  more: Partial<Parameters<MeshKernel['openness']>[1]> = {},
): Float32Array =>
  new MeshKernel(mesh).openness(points, {
    reach: 100,
    coneRad: QUARTER,
    falloff: 0,
    side: 'open',
    rays: 4096,
    ...more,
  });

describe('the ray kernel', () => {
  it('is compiled from its source', () => {
    execFileSync('npx', ['tsx', 'scripts/gen-kernel.ts', '--check'], {
      cwd: path.resolve(import.meta.dirname, '../..'),
      stdio: 'pipe',
    });
  }, 60000);
  it('meets what a search through all triangles meets', () => {
    const mesh = meshOfSketch(
      new ShapeSketch()
        .torus([0, 0, 0], [0, 1, 0], 1, 0.4, 24)
        .sphere([0.2, 0.1, 0], 0.3, 12)
        .finish(),
    );
    const random = seededRandom(3);
    const list = Array.from(
      { length: 600 },
      () =>
        [
          [random() * 3 - 1.5, random() * 3 - 1.5, random() * 3 - 1.5],
          randomDirection(random),
        ] as const satisfies readonly [Vec3, Vec3],
    );
    const { distances, triangles, weights } = new MeshKernel(mesh).castRays(raysOf(list));
    let hits = 0;
    list.forEach(([o, d], k) => {
      const exact = search(mesh, o, d);
      expect((triangles[k] ?? -1) >= 0).toBe(exact < Infinity);
      if (exact === Infinity) return;
      hits++;
      expect(distances[k]).toBeCloseTo(exact, 4);
      const [a, b, c] = getCorners(mesh, triangles[k] ?? 0),
        u = weights[k * 2] ?? 0,
        v = weights[k * 2 + 1] ?? 0;
      [0, 1, 2].forEach((axis) => {
        expect((a[axis] ?? 0) * (1 - u - v) + (b[axis] ?? 0) * u + (c[axis] ?? 0) * v).toBeCloseTo(
          (o[axis] ?? 0) + (d[axis] ?? 0) * exact,
          4,
        );
      });
    });
    expect(hits).toBeGreaterThan(120);
  });
  it('lets no ray out of closed meshes, of a million, through edges and corners too', () => {
    const random = seededRandom(11);
    for (const [sketch, radius] of [
      [new ShapeSketch().sphere([0, 0, 0], 1, 40).finish(3), 0.4],
      [new ShapeSketch().box([0, 0, 0], [1, 1, 1], 0, 3).finish(0.3), 0.6],
    ] as const) {
      const mesh = meshOfSketch(sketch);
      const kernel = new MeshKernel(mesh);
      for (let batch = 0; batch < 10; batch++) {
        const rays = new Float32Array(50000 * RAY);
        for (let k = 0; k < 50000; k++) {
          const o: Vec3 = [
            (random() * 2 - 1) * radius,
            (random() * 2 - 1) * radius,
            (random() * 2 - 1) * radius,
          ];
          // Every fourth ray aims at a vertex, every fourth at the middle of an edge.
          const t = floor(random() * triangleCount(mesh));
          const p = vertexAt(mesh.positions, mesh.indices[t * 3] ?? 0),
            q = vertexAt(mesh.positions, mesh.indices[t * 3 + 1] ?? 0);
          const aim: Vec3 =
            k % 4 === 0
              ? sub(p, o)
              : k % 4 === 1
                ? sub([(p[0] + q[0]) / 2, (p[1] + q[1]) / 2, (p[2] + q[2]) / 2], o)
                : randomDirection(random);
          const at = k * RAY;
          rays[at] = o[0];
          rays[at + 1] = o[1];
          rays[at + 2] = o[2];
          rays[at + 3] = aim[0];
          rays[at + 4] = aim[1];
          rays[at + 5] = aim[2];
          rays[at + 6] = 1e30;
        }
        expect(kernel.countMet(rays)).toBe(50000);
      }
    }
  }, 180000);
  it('keeps to its reach, and meets nothing behind', () => {
    const kernel = new MeshKernel(
      meshOfSketch(
        new ShapeSketch()
          .sheet(
            [
              [
                [-1, 0, -1],
                [1, 0, -1],
              ],
              [
                [-1, 0, 1],
                [1, 0, 1],
              ],
            ],
            false,
          )
          .finish(),
      ),
    );
    const at: Vec3 = [0.1, 1, 0.2];
    expect(
      ['1.01', '0.99'].map((reach) => kernel.countMet(raysOf([[at, [0, -1, 0]]], Number(reach)))),
    ).toEqual([1, 0]);
    expect(
      kernel.countMet(
        raysOf([
          [at, [0, 1, 0]],
          [at, [1, 0, 0]],
        ]),
      ),
    ).toBe(0);
  });
  it('builds over places that are no numbers, and lets rays pass there', () => {
    const positions = Float32Array.from({ length: 300 * 9 }, (_, k) => (k % 7 === 0 ? NaN : k % 5));
    const kernel = new MeshKernel({
      positions,
      indices: Uint32Array.from({ length: 900 }, (_, k) => k),
      size: 4,
    });
    expect([0, kernel.bytes > 0 ? 1 : 0]).toEqual([
      kernel.countMet(Float32Array.of(50, 50, 50, 0, 1, 0, 1e30, 0)),
      1,
    ]);
  });
  it('builds over one triangle, over duplicates, and over triangles without area', () => {
    const one = { positions: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0), size: 1 };
    const ray = raysOf([
      [
        [0.2, 0.2, 1],
        [0, 0, -1],
      ],
    ]);
    expect(new MeshKernel({ ...one, indices: Uint32Array.of(0, 1, 2) }).countMet(ray)).toBe(1);
    expect(
      new MeshKernel({
        ...one,
        indices: Uint32Array.from({ length: 3 * 1000 }, (_, k) => k % 3),
      }).countMet(ray),
    ).toBe(1);
    expect(
      new MeshKernel({ ...one, indices: Uint32Array.of(0, 0, 0, 1, 1, 2) }).countMet(ray),
    ).toBe(0);
  });
});

describe('openness', () => {
  it('is ½(1 + d/√(d² + h²)) on a floor at distance d from a wall of height h', () => {
    const corner = meshOfSketch(
      new ShapeSketch()
        .sheet(
          [
            [
              [-40, 0, 0],
              [40, 0, 0],
            ],
            [
              [-40, 0, 40],
              [40, 0, 40],
            ],
          ],
          false,
        )
        .sheet(
          [
            [
              [-40, 1, 0],
              [40, 1, 0],
            ],
            [
              [-40, 0, 0],
              [40, 0, 0],
            ],
          ],
          false,
        )
        .finish(0.1),
    );
    for (const d of [0.02, 0.1, 0.3, 1, 3])
      expect(
        Math.abs((open(corner, pointAt(0, 0, d))[0] ?? 0) - 0.5 * (1 + d / Math.hypot(d, 1))),
      ).toBeLessThan(0.01);
  });
  it('tends to a quarter where three walls meet', () => {
    const walls = meshOfSketch(
      new ShapeSketch()
        .sheet(
          [
            [
              [0, 0, 0],
              [40, 0, 0],
            ],
            [
              [0, 0, 40],
              [40, 0, 40],
            ],
          ],
          false,
        )
        .sheet(
          [
            [
              [0, 40, 0],
              [40, 40, 0],
            ],
            [
              [0, 0, 0],
              [40, 0, 0],
            ],
          ],
          false,
        )
        .sheet(
          [
            [
              [0, 0, 0],
              [0, 0, 40],
            ],
            [
              [0, 40, 0],
              [0, 40, 40],
            ],
          ],
          false,
        )
        .finish(0.1),
    );
    expect(Math.abs((open(walls, pointAt(0.01, 0, 0.01))[0] ?? 0) - 0.25)).toBeLessThan(0.01);
  });
  it('is what a parallel disc leaves: 1 − r²/(r² + h²)', () => {
    const disc = meshOfSketch(
      new ShapeSketch()
        .lathe(
          [
            [1, 0],
            [0, 0],
          ],
          256,
        )
        .finish(),
    );
    for (const h of [0.25, 1, 2])
      expect(
        Math.abs((open(disc, pointAt(0, -h, 0))[0] ?? 0) - (1 - 1 / (1 + h * h))),
      ).toBeLessThan(0.01);
  });
  it(
    'inwards and by distance is the thickness of a slab, 2τ − τ², and of a sphere, ' +
      '4r/(3·reach)',
    () => {
      const slab = meshOfSketch(new ShapeSketch().box([0, 0, 0], [30, 0.25, 30], 0, 1).finish(0.3));
      for (const reach of [1, 2])
        expect(
          Math.abs(
            (open(slab, pointAt(0.1, 0.25, 0.2), { side: 'solid', falloff: 1, reach })[0] ?? 0) -
              (1 / reach - 0.25 / reach ** 2),
          ),
        ).toBeLessThan(0.01);
      const sphere = meshOfSketch(new ShapeSketch().sphere([0, 0, 0], 0.5, 96).finish(3));
      const values = open(sphere, uniformPoints(sphere, 60), {
        side: 'solid',
        falloff: 1,
        reach: 2,
        rays: 512,
      });
      expect(
        Math.abs(values.reduce((sum, value) => sum + value, 0) / 60 - (4 * 0.5) / (3 * 2)),
      ).toBeLessThan(0.01);
    },
  );
  it(
    'sees the floor as it would see a wide plane there: half of what lies before a wall, ' +
      'nothing under the model',
    () => {
      const box = meshOfSketch(new ShapeSketch().box([0, 1, 0], [1, 1, 1], 0, 2).finish(0.3));
      const floored = meshOfSketch(
        new ShapeSketch()
          .box([0, 1, 0], [1, 1, 1], 0, 2)
          .sheet(
            [
              [
                [-500, 0, -500],
                [500, 0, -500],
              ],
              [
                [-500, 0, 500],
                [500, 0, 500],
              ],
            ],
            false,
          )
          .finish(0.3),
      );
      expect(open(box, pointAt(1, 1, 0, [1, 0, 0]), { floor: 0 })[0]).toBeCloseTo(0.505, 2);
      expect(open(box, pointAt(1, 1, 0, [1, 0, 0]))[0]).toBe(1);
      expect(open(box, pointAt(0, 0, 0, [0, -1, 0]), { floor: 0 })[0]).toBe(0);
      expect(open(box, pointAt(0, 2, 0), { floor: 0 })[0]).toBe(1);
      for (const falloff of [0, 1, 2])
        for (const y of [0.1, 0.6, 1.7]) {
          const asked = { reach: 2, falloff, floor: 0 };
          expect(open(box, pointAt(1, y, 0, [1, 0, 0]), asked)[0]).toBeCloseTo(
            open(floored, pointAt(1, y, 0, [1, 0, 0]), { ...asked, floor: -Infinity })[0] ?? -1,
            4,
          );
        }
    },
  );
  it('does not change when the model is scaled, turned or moved', () => {
    const sketch = DEMO_MODELS[0]?.make();
    if (!sketch) throw new Error('no demo model');
    const values = [
      [1, 0, 0],
      [1000, 0, 0],
      [0.001, 0, 0],
      [1, 0.7, 3],
    ].map(([scale = 1, turn = 0, shift = 0]) => {
      const place = (from: Float32Array, isPoint: boolean): Float32Array<ArrayBuffer> =>
        Float32Array.from(from, (_, k) => {
          const v = k - (k % 3),
            x = from[v] ?? 0,
            z = from[v + 2] ?? 0;
          const rotated =
            k % 3 === 0
              ? x * Math.cos(turn) - z * Math.sin(turn)
              : k % 3 === 2
                ? x * Math.sin(turn) + z * Math.cos(turn)
                : (from[k] ?? 0);
          return isPoint ? rotated * scale + shift : rotated;
        });
      const mesh = meshOfSketch({
        ...sketch,
        positions: place(sketch.positions, true),
        normals: place(sketch.normals, false),
      });
      return new MeshAnalysis(mesh).measure(
        resolveMapSettings('occlusion', { reach: 0.25, cone: 90 }, {}, mesh.size),
        uniformPoints(mesh, 400),
        1024,
      );
    });
    for (const other of values.slice(1)) {
      const apart = [...other]
        .map((value, k) => Math.abs(value - (values[0]?.[k] ?? NaN)))
        .sort((a, b) => a - b);
      expect(apart[Math.floor(apart.length * 0.99)]).toBeLessThan(0.01);
    }
  }, 180000);
  it('takes the width of a cone by a sine of its own', () => {
    for (let k = 0; k <= 90; k++)
      expect(
        Math.abs(portableSine((k * Math.PI) / 180) - Math.sin((k * Math.PI) / 180)),
      ).toBeLessThan(2e-15);
  });
  it('is the same everywhere, to the byte', () => {
    const mesh = meshOfSketch(
      new ShapeSketch()
        .box([0, 0, 0], [1, 1, 1], 0, 2)
        .box([0.8, 0.2, 0.3], [0.5, 0.4, 0.6], 0, 2)
        .finish(0.3),
    );
    const values = open(mesh, uniformPoints(mesh, 500), {
      rays: 64,
      reach: 0.7,
      falloff: 0.5,
      side: 'both',
    });
    expect(
      createHash('sha256').update(new Uint8Array(values.buffer)).digest('hex').slice(0, 16),
    ).toBe('a96ffff26796c280');
  });
});
