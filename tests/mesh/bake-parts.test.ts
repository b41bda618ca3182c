import { seededRandom } from '@/core/base/random';
import { atlasTangents } from '@/core/mesh/atlas';
import { fillGutter, planGutter } from '@/core/mesh/gutter';
import { DEMO_MODELS } from '@/core/mesh/demo-models';
import { uniformPoints } from '@/core/mesh/sample-points';
import { completeMesh } from '@/core/mesh/surface-mesh';
import type { SurfaceMesh } from '@/core/mesh/surface-mesh';
import { toTangentSpace } from '@/core/mesh/tangent-space';
import { unwrapMesh } from '@/core/exchange/unwrap';

describe('the gutter', () => {
  const size = 32;
  const random = seededRandom(5);
  const covered = Uint8Array.from({ length: size * size }, () => (random() < 0.03 ? 1 : 0));
  const distance = (a: number, b: number): number =>
    Math.abs((a % size) - (b % size)) + Math.abs(Math.floor(a / size) - Math.floor(b / size));
  const nearest = (texel: number): number =>
    Math.min(
      ...Array.from(covered.keys())
        .filter((other) => covered[other])
        .map((other) => distance(texel, other)),
    );

  it('fills exactly the texels within its width, each once, and leaves the rest', () => {
    for (const width of [0, 1, 3]) {
      const { texels } = planGutter(covered, size, width);
      const expected = Array.from(covered.keys()).filter(
        (texel) => !covered[texel] && nearest(texel) <= width,
      );
      expect([...texels].sort((a, b) => a - b)).toEqual(expected);
    }
  });
  it('gives the mean of neighbours that came before, never round the edge', () => {
    const single = new Uint8Array(16);
    single[7] = 1; // Row 1, last column of four.
    const data = new Float32Array(32);
    data.set([10, -2], 14);
    fillGutter(data, planGutter(single, 4, 1), 2);
    const filled = Array.from({ length: 16 }, (_, texel) => texel).filter(
      (texel) => data[texel * 2] === 10 && data[texel * 2 + 1] === -2,
    );
    expect(filled).toEqual([3, 6, 7, 11]);
    const pair = Float32Array.from([1, 0, 3, 0, 0, 0, 0, 0, 0]);
    fillGutter(pair, planGutter(Uint8Array.from([1, 0, 1, 0, 0, 0, 0, 0, 0]), 3, 1), 1);
    expect([...pair]).toEqual([1, 2, 3, 1, 0, 3, 0, 0, 0]);
  });
  it(
    'keeps constant data constant however wide, and plans nothing on an empty or a full ' +
      'picture',
    () => {
      const data = Float32Array.from(covered, (each) => each * 0.75);
      fillGutter(data, planGutter(covered, size, 100), 1);
      expect(new Set(data)).toEqual(new Set([0.75]));
      for (const value of [0, 1])
        expect(planGutter(new Uint8Array(64).fill(value), 8, 4).texels).toHaveLength(0);
    },
  );
});

describe('tangent space', () => {
  let mesh: SurfaceMesh;
  beforeAll(async () => {
    const sketch = DEMO_MODELS.find(({ name }) => name === 'study')?.make();
    if (!sketch) throw new Error('no study form');
    const { sources, indices, atlas } = await unwrapMesh(
      sketch.positions,
      sketch.normals,
      sketch.indices,
    );
    const pick = (values: Float32Array): Float32Array<ArrayBuffer> =>
      Float32Array.from(
        { length: sources.length * 3 },
        (_, k) => values[(sources[Math.floor(k / 3)] as number) * 3 + (k % 3)] as number,
      );
    mesh = completeMesh({
      name: 'study',
      positions: pick(sketch.positions),
      normals: pick(sketch.normals),
      indices,
      parts: sketch.parts,
      atlas,
      uvs: atlas,
    } as never);
  });
  const COUNT = 400;
  const convert = (make: (k: number) => readonly number[]): number[][] => {
    const lanes = [0, 1, 2].map((axis) =>
      Float32Array.from({ length: COUNT }, (_, k) => make(k)[axis] as number),
    );
    toTangentSpace(mesh, uniformPoints(mesh, COUNT), lanes);
    return Array.from({ length: COUNT }, (_, k) => lanes.map((lane) => lane[k] as number));
  };

  it('makes the shading normal straight up, everywhere', () => {
    const points = uniformPoints(mesh, COUNT);
    for (const [x, y, z] of convert((k) => [...points.normals.slice(k * 3, k * 3 + 3)])) {
      expect(Math.hypot(x ?? 1, y ?? 1)).toBeLessThan(1e-5);
      expect(z).toBeCloseTo(1, 5);
    }
  });
  it(
    'keeps lengths and is a rotation: the u direction points along +x, and up the picture ' +
      'along +y',
    () => {
      const points = uniformPoints(mesh, COUNT);
      const random = seededRandom(2);
      const given = Array.from({ length: COUNT }, () => [
        random() - 0.5,
        random() - 0.5,
        random() - 0.5,
      ]);
      convert((k) => given[k] ?? []).forEach((value, k) => {
        expect(Math.hypot(...value)).toBeCloseTo(Math.hypot(...(given[k] ?? [])), 4);
      });
      const tangents = Array.from({ length: COUNT }, (_, k) =>
        atlasTangents(mesh, points.triangles[k] as number),
      );
      convert((k) => tangents[k]?.[0] ?? [0, 0, 0]).forEach(([x, y], k) => {
        if (tangents[k]) {
          expect(x).toBeGreaterThan(0);
          expect(Math.abs(y ?? 1)).toBeLessThan(1e-4 * Math.max(1, x ?? 1));
        }
      });
      // v runs down the picture.
      convert((k) => tangents[k]?.[1] ?? [0, 0, 0]).forEach(([, y], k) => {
        if (tangents[k]) expect(y).toBeLessThan(0);
      });
    },
  );
});
