import { readModel } from '@/core/exchange/read-model';
import { MeshAnalysis } from '@/core/mesh/analysis';
import { diagnose } from '@/core/mesh/diagnose';
import type { SurfaceMesh } from '@/core/mesh/surface-mesh';

const CORNERS = [0, 1, 2, 3, 4, 5, 6, 7].map((k) => [k & 1, (k >> 1) & 1, (k >> 2) & 1] as const);
const FACES = [
  [0, 2, 3, 1],
  [4, 5, 7, 6],
  [0, 1, 5, 4],
  [2, 6, 7, 3],
  [0, 4, 6, 2],
  [1, 3, 7, 5],
] as const;
const NORMALS = [
  [0, 0, -1],
  [0, 0, 1],
  [0, -1, 0],
  [0, 1, 0],
  [-1, 0, 0],
  [1, 0, 0],
] as const;

/** A unit box of 12 triangles, with normals averaged at its 8 corners or a normal for each face. */
async function box(isAveraged: boolean, smooth?: number): Promise<SurfaceMesh> {
  const averaged = CORNERS.map((corner) => corner.map((value) => (value * 2 - 1) / Math.sqrt(3)));
  const normals = isAveraged ? averaged : NORMALS;
  const text = [
    ...CORNERS.map((corner) => `v ${corner.join(' ')}`),
    ...normals.map((normal) => `vn ${normal.join(' ')}`),
    ...FACES.map((face, f) => {
      const corners = face.map(
        (corner) => `${String(corner + 1)}//${String((isAveraged ? corner : f) + 1)}`,
      );
      return `f ${corners.join(' ')}`;
    }),
  ].join('\n');
  const preparation = smooth === undefined ? {} : { smooth };
  return (await readModel(new Uint8Array(new TextEncoder().encode(text)), 'box', { preparation }))
    .mesh;
}

/** Curvature at ρ = 0.03 on an edge, and in the middle of a face. */
function curvature(mesh: SurfaceMesh): readonly number[] {
  const positions = Float32Array.of(1, 1, 0.5, 0.5, 1, 0.5);
  return [...new MeshAnalysis(mesh).kernel.curvature({ positions }, 0.03, 0, 2)];
}
const codes = (mesh: SurfaceMesh): string[] => diagnose(mesh).findings.map(({ code }) => code);

describe('normals averaged over hard edges', () => {
  it('are found and told, and smoothing by angle mends them', async () => {
    expect(codes(await box(true))).toContain('leaning');
    expect(codes(await box(false))).not.toContain('leaning');
    expect(codes(await box(true, 40))).not.toContain('leaning');
    const finding = diagnose(await box(true)).findings.find(({ code }) => code === 'leaning');
    expect(finding).toMatchObject({
      cure: 'smooth',
      title: expect.stringContaining('100 % of its corners') as string,
    });
  });
  it('do not hide edges from curvature: it is that of a box of flat faces', async () => {
    const [averaged, split] = [curvature(await box(true)), curvature(await box(false))];
    expect(averaged[0]).toBeGreaterThan(0.45);
    averaged.forEach((value, k) => {
      expect(Math.abs(value - (split[k] as number))).toBeLessThan(1e-5);
    });
    expect(Math.abs(averaged[1] as number)).toBeLessThan(1e-6);
  });
});
