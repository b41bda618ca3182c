import { Document, WebIO } from '@gltf-transform/core';
import { assertGlb } from '@/core/exchange/model-format';
import { MODEL_LIMITS } from '@/core/exchange/model-soup';
import { readModel } from '@/core/exchange/read-model';
import { failureResponse } from '@/server/http/failure';

/** One triangle, named over and over. */
async function repeatedTriangle(times: number): Promise<Uint8Array<ArrayBuffer>> {
  const document = new Document();
  const buffer = document.createBuffer();
  const position = document
    .createAccessor()
    .setType('VEC3')
    .setArray(Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0))
    .setBuffer(buffer);
  const indices = document
    .createAccessor()
    .setType('SCALAR')
    .setArray(Uint16Array.from({ length: times * 3 }, (_, k) => k % 3))
    .setBuffer(buffer);
  const mesh = document
    .createMesh()
    .addPrimitive(
      document.createPrimitive().setAttribute('POSITION', position).setIndices(indices),
    );
  document.createScene().addChild(document.createNode().setMesh(mesh));
  return new Uint8Array(await new WebIO().writeBinary(document));
}

describe('limits of models', () => {
  it('refuse more than 5,000,000 triangles, before they are unfolded', async () => {
    await expect(
      readModel(await repeatedTriangle(MODEL_LIMITS.triangles + 1), 'huge'),
    ).rejects.toMatchObject({ code: 'model.too-many-triangles', status: 413 });
  });
  it('refuse more than 100 MB, before anything is parsed', () => {
    expect(() => {
      assertGlb(new Uint8Array(MODEL_LIMITS.bytes + 1));
    }).toThrow('the limit is 100 MB');
  });
  it('give a triangle without normals and coordinates both', async () => {
    const { mesh, notes } = await readModel(await repeatedTriangle(1), 'one');
    expect([...mesh.normals.slice(0, 3)]).toEqual([0, 0, 1]);
    expect(notes).toHaveLength(2);
  });
});

describe('a full disk', () => {
  it('is said as such, with what was kept', async () => {
    const response = failureResponse(
      new Error('insert failed', {
        cause: Object.assign(new Error('could not extend file'), { code: '53100' }),
      }),
    );
    expect(response.status).toBe(507);
    expect(await response.json()).toMatchObject({
      code: 'database.full',
      kept: expect.stringContaining('nothing is lost') as string,
    });
  });
});
