import { MeshAnalysis } from '@/core/mesh/analysis';
import { diagnose } from '@/core/mesh/diagnose';
import { pointsAt } from '@/core/mesh/sample-points';
import { completeMesh, triangleCount } from '@/core/mesh/surface-mesh';
import type { SurfaceMesh } from '@/core/mesh/surface-mesh';
import { readOrganicForm } from '../support/organic-form';

/** Every triangle in four, at the middles of its edges; places and normals stay what they were. */
function divided(mesh: SurfaceMesh): SurfaceMesh {
  const places: number[] = [],
    normals: number[] = [],
    atlas: number[] = [];
  for (let t = 0; t < triangleCount(mesh); t++) {
    const mixed = (values: Float32Array, width: number, weights: readonly number[]): number[] =>
      Array.from({ length: width }, (_, k) =>
        weights.reduce(
          (sum, w, corner) =>
            sum + w * (values[(mesh.indices[t * 3 + corner] ?? 0) * width + k] ?? 0),
          0,
        ),
      );
    const add = (...weights: readonly [number, number, number]): void => {
      places.push(...mixed(mesh.positions, 3, weights));
      normals.push(...mixed(mesh.normals, 3, weights));
      atlas.push(...mixed(mesh.atlas, 2, weights));
    };
    for (const corner of [0, 1, 2]) {
      const at = (k: number): number => (k === corner ? 1 : 0),
        half = (k: number, other: number): number => (k === corner || k === other ? 0.5 : 0);
      const [next, last] = [(corner + 1) % 3, (corner + 2) % 3];
      add(at(0), at(1), at(2));
      add(half(0, next), half(1, next), half(2, next));
      add(half(0, last), half(1, last), half(2, last));
    }
    add(0.5, 0.5, 0);
    add(0, 0.5, 0.5);
    add(0.5, 0, 0.5);
  }
  const indices = Uint32Array.from({ length: places.length / 3 }, (_, k) => k);
  const uv = Float32Array.from(atlas);
  return completeMesh({
    name: 'divided',
    positions: Float32Array.from(places),
    normals: Float32Array.from(normals),
    uvs: uv,
    atlas: uv,
    atlasIsAutomatic: true,
    indices,
    parts: new Uint32Array(indices.length / 3),
  });
}

describe('an organic form without normals or texture coordinates', () => {
  let mesh: SurfaceMesh;
  beforeAll(async () => {
    mesh = await readOrganicForm();
  }, 60000);

  it('is read, unwrapped and looked over', () => {
    const { triangles, findings } = diagnose(mesh);
    expect(triangles).toBeGreaterThan(3600);
    expect(findings.map(({ code }) => code)).toEqual(expect.arrayContaining(['automatic']));
    expect(findings.some(({ code }) => code === 'faceted' || code === 'inside-out')).toBe(false);
  });
  it('has the curvature of its shape: the same with four times as many triangles', () => {
    const fine = divided(mesh);
    const count = 300;
    // The same places on both: the middle of the middle triangle is the middle of the whole.
    const stride = Math.floor(triangleCount(mesh) / count);
    const middles = new Float32Array(count * 2).fill(1 / 3);
    const [coarse, dense] = [mesh, fine].map((each, k) =>
      pointsAt(
        each,
        Uint32Array.from({ length: count }, (_, p) => (k === 0 ? p * stride : p * stride * 4 + 3)),
        middles,
      ),
    );
    if (!coarse || !dense) throw new Error('no points');
    for (const radius of [0.02, 0.05]) {
      const settings = { kind: 'curvature', radius: radius * mesh.size } as const;
      const [a, b] = [
        new MeshAnalysis(mesh).measure(settings, coarse, 0),
        new MeshAnalysis(fine).measure(settings, dense, 0),
      ];
      // Where normals jump, an edge in two halves tells two jumps in place of their mean.
      a.forEach((value, k) => {
        expect(Math.abs(value - (b[k] ?? NaN))).toBeLessThan(0.03);
      });
      expect([a.some((value) => value > 0.02), a.some((value) => value < -0.01)]).toEqual([
        true,
        true,
      ]);
    }
  });
  it(
    'has openness between nothing and all, least where limbs and body meet, and no bad ' +
      'value anywhere on its atlas',
    () => {
      const analysis = new MeshAnalysis(mesh);
      const { data } = analysis.fineMap(
        {
          kind: 'occlusion',
          reach: mesh.size * 0.25,
          coneRad: Math.PI / 2,
          falloff: 0,
          side: 'open',
        },
        128,
      );
      expect(data.every((value) => Number.isFinite(value))).toBe(true);
      const values = analysis.measure(
        {
          kind: 'occlusion',
          reach: mesh.size * 0.25,
          coneRad: Math.PI / 2,
          falloff: 0,
          side: 'open',
        },
        analysis.raster(128).points,
        32,
      );
      expect(Math.min(...values)).toBeLessThan(0.6);
      expect(Math.max(...values)).toBe(1);
    },
  );
});
