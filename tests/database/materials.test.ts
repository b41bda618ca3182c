import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { decode as decodePng, encode as encodePng } from 'fast-png';
import { GET as listRoute } from '@/app/api/images/route';
import { GET as readRoute } from '@/app/api/images/[hash]/route';
import { setValue } from '@/core/edit/nodes';
import type { NetworkDocument } from '@/core/graph/document';
import { findBlob, storeBlob } from '@/db/queries/blobs';
import { findRevision } from '@/db/queries/materials';
import { listImages } from '@/db/queries/images';
import { imageFile, uploadImage } from '@/server/images';
import type { SignedIn } from '@/server/authentication';
import { diffJson } from '@/core/graph/patch';
import { openMaterial, patchMaterial, saveMaterial } from '@/server/materials';
import { findPicture } from '@/server/pictures';
import { drawSwatch } from '@/server/swatches';
import { documentOf, node } from '../support/networks';
import { make, painted, startFerryStudio } from './ferry-studio';
import { materialsOf } from './studio';

let studio: Awaited<ReturnType<typeof startFerryStudio>>['studio'];
let author: SignedIn, artist: SignedIn, stranger: SignedIn;
beforeAll(async () => {
  ({ studio, author, artist, stranger } = await startFerryStudio());
}, 180000);
afterAll(() => studio.stop());

describe('materials', () => {
  it('are saved as revisions and opened by members of the project only', async () => {
    const { id } = await make(author);
    const next = setValue(painted(), null, 'n1', 'scale', 12);
    expect(
      await saveMaterial(author, id, { base: 1, modelId: 'demo-tile', document: next }),
    ).toEqual({ revision: 2 });
    expect((await openMaterial(artist, id)).document).toEqual(next);
    expect((await openMaterial(artist, id, 1)).document).toEqual(painted());
    await expect(openMaterial(stranger, id)).rejects.toMatchObject({ status: 404 });
    await expect(
      saveMaterial(stranger, id, { base: 2, modelId: 'demo-tile', document: next }),
    ).rejects.toMatchObject({ status: 404 });
    await expect(make(stranger)).rejects.toMatchObject({ code: 'project.not-member' });
  });

  it('are saved as what changed, which must fit and make a valid document', async () => {
    const { id } = await make(author);
    const next = setValue(painted(), null, 'n1', 'scale', 12);
    const given = { base: 1, modelId: 'demo-tile', patch: diffJson(painted(), next) };
    await expect(patchMaterial(stranger, id, given)).rejects.toMatchObject({ status: 404 });
    expect(await patchMaterial(author, id, given)).toEqual({ revision: 2 });
    expect((await openMaterial(artist, id)).document).toEqual(next);
    // Sent again, because the answer was lost: it is found to be saved.
    expect(await patchMaterial(author, id, given)).toEqual({ revision: 2 });
    const other = {
      ...given,
      patch: diffJson(painted(), setValue(painted(), null, 'n1', 'scale', 3)),
    };
    await expect(patchMaterial(artist, id, other)).rejects.toMatchObject({
      code: 'material.clash',
      details: { revision: 2 },
    });
    for (const patch of [
      [{ op: 'remove', path: '/network/nodes/99' }],
      [{ op: 'remove', path: '/network' }],
      [{ op: 'add', path: '/network/nodes/0/stranger', value: 1 }],
    ] as const)
      await expect(patchMaterial(author, id, { ...given, base: 2, patch })).rejects.toMatchObject({
        code: 'patch.unfit',
        status: 422,
      });
    await expect(patchMaterial(author, id, { ...given, base: 7 })).rejects.toMatchObject({
      code: 'patch.unfit',
    });
    expect((await openMaterial(artist, id)).revision).toBe(2);
  });

  it('keep both versions when two people save at once', async () => {
    const { id } = await make(author);
    const [mine, theirs] = [3, 5].map((scale) =>
      setValue(painted(), null, 'n1', 'scale', scale),
    ) as [NetworkDocument, NetworkDocument];
    const outcomes = await Promise.allSettled([
      saveMaterial(author, id, { base: 1, modelId: 'demo-tile', document: mine }),
      saveMaterial(artist, id, { base: 1, modelId: 'demo-tile', document: theirs }),
    ]);
    expect(outcomes.map((outcome) => outcome.status).sort()).toEqual(['fulfilled', 'rejected']);
    const refused = outcomes.find(
      (outcome) => outcome.status === 'rejected',
    ) as PromiseRejectedResult;
    expect(refused.reason).toMatchObject({
      code: 'material.clash',
      status: 409,
      details: { revision: 2 },
    });
    const loser = outcomes[0]?.status === 'rejected' ? mine : theirs;
    expect(
      await saveMaterial(author, id, { base: 2, modelId: 'demo-tile', document: loser }),
    ).toEqual({ revision: 3 });
    expect((await findRevision(id, 2))?.document).not.toEqual(
      (await findRevision(id, 3))?.document,
    );
  });

  it('saved again as they are need no other revision; a lost answer is no clash', async () => {
    const { id } = await make(author);
    const save = (
      user: SignedIn,
      base: number,
      document: NetworkDocument,
    ): Promise<{ revision: number }> =>
      saveMaterial(user, id, { base, modelId: 'demo-tile', document });
    expect(await save(author, 1, painted())).toEqual({ revision: 1 });
    const next = setValue(painted(), null, 'n1', 'scale', 4);
    expect(await save(author, 1, next)).toEqual({ revision: 2 });
    expect(await save(author, 1, next)).toEqual({ revision: 2 });
    await expect(save(artist, 1, next)).rejects.toMatchObject({ code: 'material.clash' });
    await expect(
      save(author, 1, setValue(painted(), null, 'n1', 'scale', 5)),
    ).rejects.toMatchObject({ code: 'material.clash' });
  });

  it('with errors in work are kept', async () => {
    const { id } = await make(author);
    const unknown = documentOf([node('n1', 'patterns.of-the-future')]);
    expect(
      await saveMaterial(author, id, { base: 1, modelId: 'demo-tile', document: unknown }),
    ).toEqual({ revision: 2 });
  });

  it('get a picture, seen by members only', async () => {
    const { id } = await make(author);
    await drawSwatch(id, author.id);
    const hash =
      (await materialsOf(author)).find((material) => material.id === id)?.swatchHash ?? '';
    expect((await findBlob(hash))?.bytes.subarray(1, 4).toString()).toBe('PNG');
    expect(await findPicture(author, hash)).toBeDefined();
    expect(await findPicture(stranger, hash)).toBeUndefined();
  });
});

/** A material whose second revision holds a group packaged from its first. */
describe('images', () => {
  const png = encodePng({
    width: 2,
    height: 2,
    channels: 3,
    depth: 8,
    data: Uint8Array.of(255, 0, 0, 255, 0, 0, 255, 0, 0, 255, 0, 0),
  });
  const upload = (
    user: SignedIn,
    bytes: Uint8Array,
    name = 'red.png',
  ): Promise<{ image: string; name: string }> =>
    uploadImage(user, { name }, () => Promise.resolve(new Uint8Array(bytes)));
  it('are stored once by content, listed and read by everyone in the studio', async () => {
    const mine = await upload(artist, png);
    expect(await upload(stranger, png, 'again.png')).toEqual({
      image: mine.image,
      name: 'again.png',
    });
    expect((await listImages()).filter(({ hash }) => hash === mine.image)).toEqual([
      { hash: mine.image, name: 'red.png', mediaType: 'image/png' },
    ]);
    expect((await imageFile(mine.image)).bytes).toEqual(new Uint8Array(png));
  });
  it(
    'are refused when they are something else or too large; nothing else is read through ' + 'them',
    async () => {
      await expect(
        upload(artist, new TextEncoder().encode('<svg onload="x"/>')),
      ).rejects.toMatchObject({ code: 'image.broken' });
      await expect(upload(artist, new Uint8Array(64 * 1024 * 1024 + 1))).rejects.toMatchObject({
        status: 413,
      });
      const model = await storeBlob(
        await readFile(path.resolve(import.meta.dirname, '../../assets/models/tile.glb')),
        'model/gltf-binary',
      );
      await expect(imageFile(model)).rejects.toMatchObject({ status: 404 });
      await expect(imageFile('../secrets')).rejects.toMatchObject({ status: 404 });
      for (const handler of [
        listRoute,
        () =>
          readRoute(new Request('http://127.0.0.1:3000/api/images/x'), {
            params: Promise.resolve({ hash: model }),
          }),
      ]) {
        expect(
          (
            await handler(new Request('http://127.0.0.1:3000/api/images'), {
              params: Promise.resolve({}),
            })
          ).status,
        ).toBe(401);
      }
    },
  );
  it('stand in the pictures of materials', async () => {
    const { image } = await upload(artist, png);
    const document: NetworkDocument = {
      ...documentOf(
        [node('i', 'patterns.image', { image: { image, name: 'red' } }), node('s', 'surface.flat')],
        ['i:colour > s:colour', 's:surface > @out:surface'],
      ),
      name: 'Red',
    };
    const { id } = await make(artist, document);
    await drawSwatch(id, artist.id);
    const hash = (await materialsOf(artist)).find((each) => each.id === id)?.swatchHash ?? '';
    const picture = decodePng((await findBlob(hash))?.bytes ?? Buffer.alloc(0));
    const middle = ((picture.height >> 1) * picture.width + (picture.width >> 1)) * 4;
    expect([...picture.data.slice(middle, middle + 3)]).toEqual([255, 0, 0]);
  });
});
