import { Document, WebIO } from '@gltf-transform/core';
import { readModel } from '@/core/exchange/read-model';
import type { ModelPreparation } from '@/core/exchange/prepare';
import { writeGlb } from '@/core/exchange/write-glb';
import { diagnose } from '@/core/mesh/diagnose';
import type { FindingCode } from '@/core/mesh/finding';
import { ShapeSketch } from '@/core/mesh/shape-sketch';
import type { Sketch } from '@/core/mesh/shape-sketch';
import { completeMesh, triangleCount } from '@/core/mesh/surface-mesh';
import type { SurfaceMesh } from '@/core/mesh/surface-mesh';
import { meshOfSketch, unitTile } from '../support/meshes';

const codes = (mesh: SurfaceMesh): FindingCode[] => diagnose(mesh).findings.map(({ code }) => code);
const read = async (sketch: Sketch, preparation: ModelPreparation = {}): Promise<SurfaceMesh> =>
  (await readModel(new Uint8Array(await writeGlb(sketch, 'm')), 'm', { preparation })).mesh;

describe('diagnosis', () => {
  it('finds nothing amiss in a closed, smooth solid', () => {
    const found = diagnose(
      meshOfSketch(new ShapeSketch().nextPart('ball').sphere([0, 0, 0], 1, 24).finish(3)),
    );
    expect(found).toMatchObject({ triangles: 24 * 22, parts: ['ball'], attributes: [] });
    expect(found.findings.filter(({ tone }) => tone === 'fault')).toEqual([]);
    expect(found.size).toBeCloseTo(2, 2);
  });
  it('counts the open edges of a sheet, and says what they do', () => {
    const [open] = diagnose(
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
    ).findings;
    expect(open).toMatchObject({
      code: 'open',
      title: '4 open edges',
      cure: 'weld',
      tone: 'fault',
    });
  });
  it('finds facets, and smoothing by an angle cures them', async () => {
    const faceted = new ShapeSketch().sphere([0, 0, 0], 1, 20).finish(0);
    expect(codes(await read(faceted))).toContain('faceted');
    const cured = await read(faceted, { smooth: 60 });
    expect(codes(cured)).not.toContain('faceted');
    expect(triangleCount(cured)).toBe(20 * 18);
  });
  it('smooths across seams whose two sides the file rounds differently', async () => {
    const faceted = new ShapeSketch().sphere([0, 0, 0], 1, 20).finish(0);
    const rounded = {
      ...faceted,
      positions: Float32Array.from(
        faceted.positions,
        (value, k) => value + (Math.floor(k / 3) % 2) * 1e-8,
      ),
    };
    expect(codes(await read(rounded, { smooth: 60 }))).not.toContain('faceted');
  });
  it('finds a solid that is inside out, and turning it round cures that', async () => {
    const ball = new ShapeSketch().sphere([0, 0, 0], 1, 12).finish(3);
    const out = {
      ...ball,
      indices: Uint32Array.from(
        ball.indices,
        (_, k) => ball.indices[k % 3 === 0 ? k : k % 3 === 1 ? k + 1 : k - 1] ?? 0,
      ),
      normals: Float32Array.from(ball.normals, (value) => -value),
    };
    expect(codes(await read(out))).toContain('inside-out');
    expect(codes(await read(out, { flipWinding: true }))).not.toContain('inside-out');
  });
  it('finds gaps, and putting near vertices in one place closes them', async () => {
    const box = new ShapeSketch().box([0, 0, 0], [1, 1, 1], 0.2, 2).finish(0.3);
    const torn = {
      ...box,
      positions: Float32Array.from(
        box.positions,
        (value, k) => value + (Math.floor(k / 3) % 2) * 4e-4,
      ),
    };
    expect(codes(await read(torn))).toContain('open');
    expect(codes(await read(torn, { weld: 0.002 }))).not.toContain('open');
  });
  it(
    'finds overlapping texture coordinates used for maps, flipped neighbours, doubled and ' +
      'flat triangles, normals that point away',
    () => {
      const tile = unitTile();
      const changed = (change: Partial<SurfaceMesh>): SurfaceMesh =>
        completeMesh({ ...tile, ...change });
      expect(codes(changed({ indices: Uint32Array.of(0, 2, 1, 0, 2, 3) }))).toContain('flipped');
      expect(
        codes(changed({ indices: Uint32Array.of(0, 2, 1, 2, 1, 0), parts: Uint32Array.of(0, 0) })),
      ).toEqual(expect.arrayContaining(['duplicate', 'overlap']));
      expect(codes(changed({ indices: Uint32Array.of(0, 2, 1, 0, 2, 2) }))).toContain('flat');
      expect(
        codes(changed({ normals: Float32Array.from(tile.normals, (value) => -value) })),
      ).toContain('inverted-normals');
    },
  );
  it('says when maps use an automatic atlas, which a cure can ask for', async () => {
    const document = new Document();
    const buffer = document.createBuffer();
    const accessor = (type: 'VEC2' | 'VEC3', values: readonly number[]) =>
      document.createAccessor().setType(type).setArray(Float32Array.from(values)).setBuffer(buffer);
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', accessor('VEC3', [0, 0, 0, 1, 0, 0, 0, 1, 0]))
      .setAttribute('NORMAL', accessor('VEC3', [0, 0, 1, 0, 0, 1, 0, 0, 1]))
      .setAttribute('TEXCOORD_0', accessor('VEC2', [0, 0, 0.2, 0, 0, 0.25]));
    document
      .createScene()
      .addChild(document.createNode().setMesh(document.createMesh().addPrimitive(primitive)));
    const bytes = new Uint8Array(await new WebIO().writeBinary(document));
    expect(
      diagnose((await readModel(bytes, 'm')).mesh).findings.find(({ code }) => code === 'coverage'),
    ).toMatchObject({ cure: 'unwrap', tone: 'fault' });
    const { mesh, notes } = await readModel(bytes, 'm', { preparation: { unwrap: true } });
    expect([codes(mesh).includes('automatic'), notes]).toEqual([true, []]);
    expect(Array.from(mesh.indices, (vertex) => mesh.uvs[vertex * 2])).toEqual(
      [0, 0.2, 0].map(Math.fround),
    );
  });
});
