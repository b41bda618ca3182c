import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { inflateSync } from 'node:zlib';
import { GET as mapRoute } from '@/app/api/models/[id]/maps/route';
import { storeBlob } from '@/db/queries/blobs';
import { insertModel } from '@/db/queries/models';
import type { SignedIn } from '@/server/authentication';
import { findStoredMap, runMap } from '@/server/mesh-maps';
import { mendModel, modelFile, readableModel } from '@/server/models';
import { prepareModel } from '@/server/render';
import { mayMend } from '@/server/rights';
import { makePerson, startStudio } from './studio';

let studio: Awaited<ReturnType<typeof startStudio>>;
let author: SignedIn, artist: SignedIn, stranger: SignedIn, librarian: SignedIn;

beforeAll(async () => {
  studio = await startStudio();
  author = await makePerson('author', 'author', ['ferry']);
  artist = await makePerson('artist', 'artist', ['ferry', 'heron']);
  stranger = await makePerson('stranger', 'artist', ['heron']);
  librarian = await makePerson('librarian', 'librarian', ['ferry', 'heron']);
  const bytes = await readFile(path.resolve(import.meta.dirname, '../../assets/models/tile.glb'));
  const blobHash = await storeBlob(bytes, 'model/gltf-binary');
  await insertModel({ id: 'demo-tile', name: 'Tile', projectId: null, blobHash, ownerId: null });
  await insertModel({
    id: 'ferry-tile',
    name: 'Ferry tile',
    projectId: 'ferry',
    blobHash,
    ownerId: author.id,
  });
}, 180000);
afterAll(() => studio.stop());

describe('models', () => {
  it('are mended by members of their project, those of the studio by librarians only', async () => {
    expect(
      await mendModel(artist, 'ferry-tile', { before: {}, preparation: { smooth: 40 } }),
    ).toEqual({ preparation: { smooth: 40 } });
    expect((await readableModel(author, 'ferry-tile')).preparation).toEqual({ smooth: 40 });
    await expect(
      mendModel(stranger, 'ferry-tile', { before: { smooth: 40 }, preparation: {} }),
    ).rejects.toMatchObject({ status: 404 });
    await expect(
      mendModel(author, 'demo-tile', { before: {}, preparation: { unwrap: true } }),
    ).rejects.toMatchObject({ code: 'rights.mend', status: 403 });
    expect([
      mayMend('artist', 'ferry'),
      mayMend('author', null),
      mayMend('librarian', null),
    ]).toEqual([true, false, true]);
    await mendModel(librarian, 'demo-tile', { before: {}, preparation: { unwrap: true } });
    expect((await readableModel(stranger, 'demo-tile')).preparation).toEqual({ unwrap: true });
    await mendModel(librarian, 'demo-tile', { before: { unwrap: true }, preparation: {} });
  });
  it('mended by two at once keep the first, and the second is told what is there', async () => {
    const { preparation: before } = await readableModel(author, 'ferry-tile');
    const both = await Promise.allSettled([
      mendModel(author, 'ferry-tile', { before, preparation: { ...before, weld: 0.001 } }),
      mendModel(artist, 'ferry-tile', { before, preparation: { ...before, unwrap: true } }),
    ]);
    expect(both.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    const refused = both.find((each) => each.status === 'rejected');
    expect(refused?.reason).toMatchObject({
      code: 'model.clash',
      status: 409,
      details: (await readableModel(author, 'ferry-tile')).preparation,
    });
  });
  it('change their key when they are mended, and their file does not', async () => {
    const before = await modelFile(author, 'ferry-tile');
    await mendModel(author, 'ferry-tile', {
      before: before.preparation,
      preparation: { zUp: true },
    });
    const after = await modelFile(author, 'ferry-tile');
    expect([
      after.key === before.key,
      Buffer.from(after.bytes).equals(Buffer.from(before.bytes)),
      after.preparation,
    ]).toEqual([false, true, { zUp: true }]);
  });
  it(
    'have maps measured once for everyone, equal to the bit, and only readers of the model ' +
      'get them',
    async () => {
      const { blobHash } = await readableModel(author, 'ferry-tile');
      const settings = { kind: 'curvature', radius: 0.05 } as const;
      expect(await findStoredMap(author, 'ferry-tile', settings)).toBeNull();
      // A queue may give the members back in another order, and the job twice.
      await runMap({
        blobHash,
        preparation: { zUp: true },
        settings: { radius: settings.radius, kind: settings.kind },
      });
      await runMap({ blobHash, preparation: { zUp: true }, settings });
      const kept = await findStoredMap(artist, 'ferry-tile', settings);
      const values = new Float32Array(new Uint8Array(inflateSync(kept ?? new Uint8Array())).buffer);
      const { analysis } = await prepareModel({ blobHash, preparation: { zUp: true } });
      expect(
        Buffer.from(values.buffer).equals(
          Buffer.from(analysis.measureTexels(settings, 512, 0, analysis.texelCount(512)).buffer),
        ),
      ).toBe(true);
      expect(await findStoredMap(author, 'ferry-tile', { ...settings, radius: 0.2 })).toBeNull();
      await expect(findStoredMap(stranger, 'ferry-tile', settings)).rejects.toMatchObject({
        status: 404,
      });
      // The same file mended otherwise has maps of its own.
      await mendModel(author, 'ferry-tile', { before: { zUp: true }, preparation: {} });
      expect(await findStoredMap(author, 'ferry-tile', settings)).toBeNull();
    },
    150000,
  );
  it('give no map to somebody who is not signed in', async () => {
    const answer = await mapRoute(
      new Request('http://127.0.0.1:3000/api/models/demo-tile/maps?settings={}'),
      { params: Promise.resolve({ id: 'demo-tile' }) },
    );
    expect(answer.status).toBe(401);
  });
});
