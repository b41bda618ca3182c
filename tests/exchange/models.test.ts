import { Document, WebIO } from '@gltf-transform/core';
import type { GLTF } from '@gltf-transform/core';
import {
  EXTMeshoptCompression,
  KHRDracoMeshCompression,
  KHRMeshQuantization,
} from '@gltf-transform/extensions';
import draco from 'draco3d';
import { MeshoptEncoder } from 'meshoptimizer';
import { modelFormat } from '@/core/exchange/model-format';
import { readModel } from '@/core/exchange/read-model';
import type { SurfaceMesh } from '@/core/mesh/surface-mesh';
import { getCorners, triangleCount, vertexAt } from '@/core/mesh/surface-mesh';
import { cross, dot, sub } from '@/core/base/vector';

const bytesOf = (text: string): Uint8Array<ArrayBuffer> => new TextEncoder().encode(text);
/** Whether all triangles wind as their normals point. */
const facesOut = (mesh: SurfaceMesh): boolean =>
  Array.from({ length: triangleCount(mesh) }, (_, t) => {
    const [a, b, c] = getCorners(mesh, t);
    return (
      dot(cross(sub(b, a), sub(c, a)), vertexAt(mesh.normals, mesh.indices[t * 3] as number)) > 0
    );
  }).every(Boolean);

interface Piece {
  readonly name?: string;
  readonly positions: readonly number[];
  readonly normals?: readonly number[];
  readonly indices?: readonly number[];
  readonly mode?: GLTF.MeshPrimitiveMode;
  readonly more?: Readonly<
    Record<string, { type: 'SCALAR' | 'VEC2' | 'VEC3' | 'VEC4'; values: readonly number[] }>
  >;
  readonly place?: (node: ReturnType<Document['createNode']>) => void;
}
const TRIANGLE = [0, 0, 0, 1, 0, 0, 0, 1, 0],
  UP = [0, 0, 1, 0, 0, 1, 0, 0, 1];
function documentOfPieces(pieces: readonly Piece[]): Document {
  const document = new Document();
  const buffer = document.createBuffer();
  const scene = document.createScene();
  for (const { name = '', positions, normals, indices, mode = 4, more = {}, place } of pieces) {
    const accessor = (type: 'SCALAR' | 'VEC2' | 'VEC3' | 'VEC4', values: readonly number[]) =>
      document.createAccessor().setType(type).setArray(Float32Array.from(values)).setBuffer(buffer);
    const primitive = document
      .createPrimitive()
      .setMode(mode)
      .setAttribute('POSITION', accessor('VEC3', positions));
    if (normals) primitive.setAttribute('NORMAL', accessor('VEC3', normals));
    if (indices)
      primitive.setIndices(
        document
          .createAccessor()
          .setType('SCALAR')
          .setArray(Uint16Array.from(indices))
          .setBuffer(buffer),
      );
    for (const [semantic, { type, values }] of Object.entries(more))
      primitive.setAttribute(semantic, accessor(type, values));
    const node = document.createNode(name).setMesh(document.createMesh().addPrimitive(primitive));
    place?.(node);
    scene.addChild(node);
  }
  return document;
}
const read = async (document: Document, io = new WebIO()): Promise<SurfaceMesh> =>
  (await readModel(new Uint8Array(await io.writeBinary(document)), 'm')).mesh;

describe('a GLB', () => {
  it('brings its parts by name, instances told apart, and where they stand', async () => {
    const mesh = await read(
      documentOfPieces([
        { name: 'bolt', positions: TRIANGLE, normals: UP },
        {
          name: 'bolt',
          positions: TRIANGLE,
          normals: UP,
          place: (node) => node.setTranslation([10, 0, 0]),
        },
        { positions: TRIANGLE, normals: UP, place: (node) => node.setTranslation([0, 20, 0]) },
      ]),
    );
    expect(mesh.partNames).toEqual(['bolt', 'bolt 2', 'Part 3']);
    expect([...mesh.parts]).toEqual([0, 1, 2]);
    expect([...mesh.partCentres]).toEqual([0.5, 0.5, 0, 10.5, 0.5, 0, 0.5, 20.5, 0]);
  });
  it('keeps mirrored pieces facing outwards and turns normals as surfaces turn', async () => {
    const slanted = [1, 0, 1, 1, 0, 1, 1, 0, 1].map((x) => x / Math.SQRT2);
    const mesh = await read(
      documentOfPieces([
        {
          positions: [0, 0, 1, 1, 0, 0, 0, 1, 1],
          normals: slanted,
          place: (node) => node.setScale([-1, 1, 1]),
        },
        {
          positions: [0, 0, 1, 1, 0, 0, 0, 1, 1],
          normals: slanted,
          place: (node) => node.setScale([3, 1, 1]),
        },
      ]),
    );
    expect(facesOut(mesh)).toBe(true);
    const [first, second] = [
      vertexAt(mesh.normals, mesh.indices[0] as number),
      vertexAt(mesh.normals, mesh.indices[3] as number),
    ];
    expect(first[0]).toBeCloseTo(-Math.SQRT1_2, 5);
    expect(
      [second[0] * Math.sqrt(10), second[2] * Math.sqrt(10)].map((x) => Math.round(x * 1e4) / 1e4),
    ).toEqual([1, 3]);
  });
  it('brings strips and fans, leaves lines out and says so', async () => {
    const square = [0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0];
    const round = [0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0];
    const bytes = new Uint8Array(
      await new WebIO().writeBinary(
        documentOfPieces([
          { positions: square, normals: [...UP, 0, 0, 1], mode: 5 },
          {
            positions: round,
            normals: [...UP, 0, 0, 1],
            mode: 6,
            place: (node) => node.setTranslation([0, 0, 1]),
          },
          { positions: TRIANGLE, mode: 1 },
        ]),
      ),
    );
    const { mesh, notes } = await readModel(bytes, 'm');
    expect(triangleCount(mesh)).toBe(4);
    expect(facesOut(mesh)).toBe(true);
    expect(notes[0]).toBe('1 pieces without triangles (lines or points) were left out.');
  });
  it(
    'brings colours, further texture coordinates and attributes of the maker’s own, 0 ' +
      'where a part lacks them',
    async () => {
      const mesh = await read(
        documentOfPieces([
          {
            positions: TRIANGLE,
            normals: UP,
            more: {
              COLOR_0: { type: 'VEC4', values: [1, 0, 0, 1, 0, 1, 0, 1, 0, 0, 1, 0.5] },
              TEXCOORD_1: { type: 'VEC2', values: [0, 0, 0.25, 0, 0, 0.5] },
              _WEAR: { type: 'SCALAR', values: [0.1, 0.2, 0.3] },
            },
          },
          { positions: TRIANGLE, normals: UP, place: (node) => node.setTranslation([5, 0, 0]) },
        ]),
      );
      expect(mesh.attributes.map(({ name, width }) => [name, width])).toEqual([
        ['colour', 4],
        ['uv 2', 2],
        ['wear', 1],
      ]);
      const wear = mesh.attributes[2];
      expect(
        Array.from(mesh.indices, (vertex) => Math.fround(wear?.values[vertex] ?? NaN)),
      ).toEqual([0.1, 0.2, 0.3, 0, 0, 0].map(Math.fround));
    },
  );
  it('is read compressed, by meshopt and by Draco, nearly as it was', async () => {
    const side = 12;
    const positions = Array.from({ length: side * side }, (_, k) => [
      k % side,
      Math.floor(k / side),
      Math.sin(k),
    ]).flat();
    const indices = Array.from({ length: (side - 1) * (side - 1) }, (_, k) => {
      const v = Math.floor(k / (side - 1)) * side + (k % (side - 1));
      return [v, v + 1, v + side, v + 1, v + side + 1, v + side];
    }).flat();
    const piece: Piece = {
      positions,
      indices,
      normals: positions.map((_, k) => (k % 3 === 2 ? 1 : 0)),
    };
    const plain = await read(documentOfPieces([piece]));
    await MeshoptEncoder.ready;
    const meshopt = documentOfPieces([piece]);
    meshopt
      .createExtension(EXTMeshoptCompression)
      .setRequired(true)
      .setEncoderOptions({ method: EXTMeshoptCompression.EncoderMethod.QUANTIZE });
    const packed = await read(
      meshopt,
      new WebIO()
        .registerExtensions([EXTMeshoptCompression, KHRMeshQuantization])
        .registerDependencies({ 'meshopt.encoder': MeshoptEncoder }),
    );
    const dracoDocument = documentOfPieces([piece]);
    dracoDocument
      .createExtension(KHRDracoMeshCompression)
      .setRequired(true)
      .setEncoderOptions({ quantizationBits: { POSITION: 16 } });
    const coded = await read(
      dracoDocument,
      new WebIO()
        .registerExtensions([KHRDracoMeshCompression])
        .registerDependencies({ 'draco3d.encoder': await draco.createEncoderModule() }),
    );
    const area = (mesh: SurfaceMesh): number =>
      Array.from({ length: triangleCount(mesh) }, (_, t) => {
        const [a, b, c] = getCorners(mesh, t);
        const n = cross(sub(b, a), sub(c, a));
        return Math.sqrt(dot(n, n)) / 2;
      }).reduce((sum, each) => sum + each, 0);
    for (const mesh of [packed, coded]) {
      expect(triangleCount(mesh)).toBe(triangleCount(plain));
      expect(Math.abs(area(mesh) / area(plain) - 1)).toBeLessThan(1e-3);
    }
  });
  it('is refused where it would unfold to more than a model may hold', async () => {
    const bytes = new Uint8Array(
      await new WebIO().writeBinary(documentOfPieces([{ positions: TRIANGLE }])),
    );
    const length = new DataView(bytes.buffer).getUint32(12, true);
    const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length))) as {
      accessors: { count: number }[];
    };
    if (json.accessors[0]) json.accessors[0].count = 4e9;
    const padded = bytesOf(
      JSON.stringify(json).padEnd(Math.ceil(JSON.stringify(json).length / 4) * 4),
    );
    const made = new Uint8Array(padded.length + bytes.length - length);
    made.set(bytes.subarray(0, 20));
    made.set(padded, 20);
    made.set(bytes.subarray(20 + length), 20 + padded.length);
    const view = new DataView(made.buffer);
    view.setUint32(8, made.length, true);
    view.setUint32(12, padded.length, true);
    await expect(readModel(made, 'bomb')).rejects.toMatchObject({
      code: 'model.unfolds',
      status: 413,
    });
  });
});

describe('an OBJ', () => {
  const CUBE = `# a square and a triangle
mtllib nothing.mtl
o deck
v 0 0 0
v 1 0 0
v 1 1 0
v 0 1 0
vt 0 0
vt 1 0
vt 1 1
vt 0 1
vn 0 0 1
f 1/1/1 2/2/1 3/3/1 4/4/1
g rail
v 0 0 2
v 1 0 2
v 0 1 2
f -3/1/1 -2/2/1 -1/4/1
`;
  it('is told from other files by its content', () => {
    expect(modelFormat(bytesOf(CUBE))).toBe('obj');
    expect(modelFormat(bytesOf(`# made by Åsa, größer, 港\n${CUBE}`))).toBe('obj');
    expect(() => modelFormat(bytesOf('only some words'))).toThrow('not a binary glTF');
    expect(() => modelFormat(new Uint8Array(0))).toThrow('not a binary glTF');
  });
  it('brings polygons as fans, groups as parts, coordinates from the top', async () => {
    const { mesh } = await readModel(bytesOf(CUBE), 'deck');
    expect(mesh.partNames).toEqual(['deck', 'rail']);
    expect([...mesh.parts]).toEqual([0, 0, 1]);
    expect(facesOut(mesh)).toBe(true);
    const first = mesh.indices[0] as number;
    expect([mesh.uvs[first * 2], mesh.uvs[first * 2 + 1]]).toEqual([0, 1]);
  });
  it('brings colours beside its places', async () => {
    const { mesh } = await readModel(
      bytesOf('v 0 0 0 1 0 0\nv 1 0 0 0 1 0\nv 0 1 0 0 0 1\nf 1 2 3\n'),
      'c',
    );
    expect(mesh.attributes.map(({ name, width }) => [name, width])).toEqual([['colour', 3]]);
    expect(
      Array.from(mesh.indices, (vertex) => [
        ...(mesh.attributes[0]?.values.slice(vertex * 3, vertex * 3 + 3) ?? []),
      ]),
    ).toEqual([
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ]);
  });
  it('is refused with the line that is wrong', async () => {
    await expect(readModel(bytesOf('v 0 0 0\nv 1 0 0\nv 0 x 0\nf 1 2 3\n'), 'bad')).rejects.toThrow(
      'Line 3 of the OBJ should hold 3 numbers',
    );
    await expect(
      readModel(bytesOf(`v 0 0 0\nv 1 0 0\nv 0 1 0\nf ${'1 2 3 '.repeat(200_000)}\n`), 'long'),
    ).rejects.toThrow('Line 4 of the OBJ has more than 1,000,000 characters');
    await expect(
      readModel(
        bytesOf(`v 0 0 0\nv 1 0 0\nv 0 1 0\n${`f ${'1 2 3 '.repeat(160_000)}\n`.repeat(11)}`),
        'many',
      ),
    ).rejects.toMatchObject({ code: 'model.too-many-triangles' });
    await expect(readModel(bytesOf('v 0 0 0\nf 1 2 3\n'), 'bad')).rejects.toThrow(
      'Line 2 of the OBJ names a vertex that does not exist',
    );
    await expect(readModel(bytesOf('v 0 0 0\nv 1 0 0\nv 0 1 0\n'), 'none')).rejects.toMatchObject({
      code: 'model.empty',
    });
    await expect(
      readModel(bytesOf('v 0 0 0\nv 1e30 0 0\nv 0 1 0\nf 1 2 3\n'), 'far'),
    ).rejects.toMatchObject({ code: 'model.not-finite' });
  });
});
