import { MeshAnalysis, resolveMapSettings } from './analysis';
import { MeshKernel } from './mesh-kernel';
import { DEMO_MODELS } from './demo-models';
import { unwrapPlainly } from '../exchange/unwrap';
import { uniformPoints, vertexPoints } from './sample-points';
import { ShapeSketch } from './shape-sketch';
import type { Sketch } from './shape-sketch';
import { completeMesh, getCorners, triangleCount } from './surface-mesh';
import type { SurfaceMesh } from './surface-mesh';
import { cross, dot } from '../base/vector';

function meshOf(sketch: Sketch, scale = 1): SurfaceMesh {
  const plain = unwrapPlainly(sketch.indices);
  const pick = (values: Float32Array, factor: number): Float32Array<ArrayBuffer> =>
    Float32Array.from(
      { length: plain.sources.length * 3 },
      (_, k) =>
        (values[(plain.sources[Math.floor(k / 3)] as number) * 3 + (k % 3)] as number) * factor,
    );
  return completeMesh({
    name: 'test',
    positions: pick(sketch.positions, scale),
    normals: pick(sketch.normals, 1),
    indices: plain.indices,
    parts: sketch.parts,
    atlas: plain.atlas,
    uvs: plain.atlas,
    atlasIsAutomatic: true,
  });
}
const volume = (mesh: SurfaceMesh): number =>
  Array.from({ length: triangleCount(mesh) }, (_, t) => {
    const [a, b, c] = getCorners(mesh, t);
    return dot(a, cross(b, c)) / 6;
  }).reduce((x, y) => x + y, 0);
const mean = (values: Float32Array): number => values.reduce((x, y) => x + y, 0) / values.length;

describe('demo models', () => {
  it.each(
    DEMO_MODELS.filter((model) => model.name !== 'tile').map(
      (model) => [model.name, model] as const,
    ),
  )('%s is wound outwards', (_name, model) => {
    expect(volume(meshOf(model.make()))).toBeGreaterThan(0.001);
  });
});

describe('sketches', () => {
  it('wind boxes, rings and rods outwards, with the volume of the solid', () => {
    expect(
      volume(meshOf(new ShapeSketch().box([1, 0, 0], [1, 2, 3], 0.0001).finish())),
    ).toBeCloseTo(48, 1);
    expect(
      volume(meshOf(new ShapeSketch().torus([0, 0, 0], [0, 1, 0], 1, 0.2, 96).finish())),
    ).toBeCloseTo(2 * Math.PI ** 2 * 0.04, 1);
    expect(
      volume(
        meshOf(
          new ShapeSketch()
            .tube(
              [
                [0, 0, 0],
                [0, 2, 0],
              ],
              0.5,
              64,
            )
            .finish(),
        ),
      ),
    ).toBeCloseTo(Math.PI / 2, 1);
    expect(volume(meshOf(new ShapeSketch().sphere([0, 0, 0], 1, 64).finish()))).toBeCloseTo(
      (4 / 3) * Math.PI,
      1,
    );
  });
});

describe('occlusion', () => {
  it('is open on a sphere and half covered in a right-angled corner', () => {
    const sphere = meshOf(new ShapeSketch().sphere([0, 0, 0], 1, 32).finish(3));
    const open = new MeshKernel(sphere).openness(uniformPoints(sphere, 100), {
      reach: 2,
      coneRad: Math.PI / 2,
      falloff: 0,
      side: 'open',
      rays: 64,
    });
    expect(mean(open)).toBeGreaterThan(0.995);
    // A floor at distance d from a wall of height h sees ½(1 + d/√(d² + h²)) of the sky.
    const corner = meshOf(
      new ShapeSketch()
        .sheet(
          [
            [
              [-20, 0, 0],
              [20, 0, 0],
            ],
            [
              [-20, 0, 20],
              [20, 0, 20],
            ],
          ],
          false,
        )
        .sheet(
          [
            [
              [-20, 1, 0],
              [20, 1, 0],
            ],
            [
              [-20, 0, 0],
              [20, 0, 0],
            ],
          ],
          false,
        )
        .finish(0.1),
    );
    const kernel = new MeshKernel(corner);
    const floor = (d: number): number => {
      const points = {
        count: 1,
        positions: Float32Array.of(0, 0, d),
        normals: Float32Array.of(0, 1, 0),
        faceNormals: Float32Array.of(0, 1, 0),
        uvs: new Float32Array(2),
        atlas: new Float32Array(2),
        triangles: new Uint32Array(1),
        weights: new Float32Array(2),
      };
      return kernel.openness(points, {
        reach: 100,
        coneRad: Math.PI / 2,
        falloff: 0,
        side: 'open',
        rays: 4096,
      })[0] as number;
    };
    for (const d of [0.05, 0.3, 1, 3])
      expect(floor(d)).toBeCloseTo(0.5 * (1 + d / Math.sqrt(d * d + 1)), 1.7);
  });

  it('does not change when the model grows', () => {
    const sketch = DEMO_MODELS[0]?.make() as Sketch;
    const measure = (scale: number): Float32Array => {
      const mesh = meshOf(sketch, scale);
      return new MeshAnalysis(mesh).measure(
        resolveMapSettings('occlusion', { reach: 0.25, cone: 90 }, {}, mesh.size),
        uniformPoints(mesh, 300),
        16,
      );
    };
    const [small, large] = [measure(1), measure(256)];
    small.forEach((value, k) => {
      expect(Math.abs(value - (large[k] as number))).toBeLessThan(0.07);
    });
    expect(mean(small)).toBeCloseTo(mean(large), 3);
  });
});

describe('mesh maps', () => {
  it('hold what was measured at the vertices', () => {
    const mesh = meshOf(new ShapeSketch().sphere([0, 0, 0], 1, 12).finish(3));
    const analysis = new MeshAnalysis(mesh);
    const map = analysis.quickMap({ kind: 'curvature', radius: 0.3 }, 128);
    const direct = analysis.measure({ kind: 'curvature', radius: 0.3 }, vertexPoints(mesh), 1);
    expect(map.data.length).toBe(128 * 128 * 4);
    const values = Array.from({ length: 128 * 128 }, (_, k) => map.data[k * 4] as number).filter(
      (x) => x !== 0,
    );
    expect(Math.max(...values)).toBeLessThanOrEqual(Math.max(...direct) + 1e-6);
    expect(Math.min(...values)).toBeGreaterThanOrEqual(Math.min(...direct) - 1e-6);
  });
});
