/** Limits of projects: who uses what, and what happens where there is no room. */
import { randomBytes } from 'node:crypto';
import { encode as encodePng } from 'fast-png';
import { sql } from 'drizzle-orm';
import { database } from '@/db/client';
import type { SignedIn } from '@/server/authentication';
import { uploadImage } from '@/server/images';
import { bringMaterialFile, saveMaterialFile } from '@/server/material-files';
import { openMaterial, saveMaterial } from '@/server/materials';
import { replaceModelFile } from '@/server/model-places';
import { listModels, uploadModel } from '@/server/models';
import { limitProject, readHoldings, readStorage } from '@/server/storage';
import { make, painted, startFerryStudio } from './ferry-studio';
import { bytesOf, spooled } from './files';

let studio: Awaited<ReturnType<typeof startFerryStudio>>['studio'];
let author: SignedIn, stranger: SignedIn, librarian: SignedIn;
beforeAll(async () => {
  ({ studio, author, stranger, librarian } = await startFerryStudio());
}, 180000);
afterAll(() => studio.stop());

const FACE = 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n';
/** An OBJ of some 100 kB that is like no other. */
const obj = (): Uint8Array<ArrayBuffer> =>
  new Uint8Array(Buffer.from(`${FACE}# ${randomBytes(50_000).toString('hex')}\n`));
const upload = (user: SignedIn, project = 'ferry', said = 0) =>
  uploadModel(user, { project, name: 'Rope' }, () => Promise.resolve(obj()), said);
const usedBy = async (project: string): Promise<number> =>
  (await readStorage(librarian)).projects.find(({ id }) => id === project)?.usedBytes ?? NaN;
const files = async (): Promise<number> => {
  const { rows } = await database().execute<{ count: number }>(
    sql`select count(*)::int as count from blob`,
  );
  return rows[0]?.count ?? NaN;
};
const FULL = { code: 'storage.full', status: 413 };

describe('who uses what', () => {
  it('is told project by project: members their own, librarians all and the studio’s', async () => {
    const before = await usedBy('ferry');
    await upload(author);
    const { id } = await make(author);
    expect((await usedBy('ferry')) - before).toBeGreaterThan(100_000);
    const { holdings } = await readHoldings(author, 'ferry');
    expect(holdings[0]).toMatchObject({ kind: 'model', name: 'Rope', ownerName: 'author' });
    expect(holdings.find((each) => each.id === id)).toMatchObject({ kind: 'material', count: 1 });
    expect((await readStorage(stranger)).projects.map((each) => each.id)).toEqual(['heron']);
    const all = (await readStorage(librarian)).projects.map((each) => each.id);
    expect(all).toEqual(['ferry', 'heron', null]);
    expect(
      (await readHoldings(librarian, 'studio')).holdings.map(({ name }) => name).sort(),
    ).toEqual(['buoy', 'study', 'tile']);
    await expect(readHoldings(stranger, 'ferry')).rejects.toMatchObject({ status: 404 });
    await expect(limitProject('nowhere', 5)).rejects.toMatchObject({ status: 404 });
  });
});

describe('a project that is full', () => {
  const limitTo = async (room: number): Promise<void> => {
    await limitProject('ferry', Math.round((await usedBy('ferry')) + room));
  };

  it('refuses a model before it is read, and after, where the room went meanwhile', async () => {
    await limitTo(150_000);
    let wasRead = false;
    const reading = uploadModel(
      author,
      { project: 'ferry', name: 'Large' },
      () => {
        wasRead = true;
        return Promise.resolve(obj());
      },
      200_000,
    );
    await expect(reading).rejects.toMatchObject(FULL);
    expect(wasRead).toBe(false);
    const before = [await files(), (await listModels(author)).length];
    const meanwhile = uploadModel(
      author,
      { project: 'ferry', name: 'Slow' },
      async () => {
        await upload(author);
        return obj();
      },
      100_000,
    );
    await expect(meanwhile).rejects.toMatchObject(FULL);
    expect([await files(), (await listModels(author)).length]).toEqual(before.map((n) => n + 1));
    await limitProject('ferry', null);
  });
  it('of two that come at once takes the one for which there is room', async () => {
    await limitTo(150_000);
    const both = await Promise.allSettled([upload(author), upload(librarian)]);
    expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    await limitProject('ferry', null);
  });
  it('refuses images and newer files of models, and keeps what was there', async () => {
    const { id } = await make(author);
    const model = await upload(author);
    await limitTo(1000);
    const data = new Uint8Array(randomBytes(64 * 64 * 3));
    const png = new Uint8Array(encodePng({ width: 64, height: 64, data, channels: 3 }));
    const send = () => Promise.resolve(png);
    await expect(uploadImage(author, { name: 'Grain', material: id }, send)).rejects.toMatchObject(
      FULL,
    );
    await expect(
      replaceModelFile(author, model.id, () => Promise.resolve(obj())),
    ).rejects.toMatchObject(FULL);
    await expect(
      uploadImage(stranger, { name: 'Grain', material: id }, send),
    ).rejects.toMatchObject({ status: 404 });
    await limitProject('ferry', null);
    await uploadImage(author, { name: 'Grain', material: id }, send);
    const { holdings } = await readHoldings(author, 'ferry');
    expect(holdings.find(({ kind }) => kind === 'image')).toMatchObject({ name: 'Grain' });
  });
  it('refuses a material’s file whole, and never a save', async () => {
    const model = await upload(stranger, 'heron');
    const document = { ...painted(), name: 'From the heron' };
    const { id } = await make(stranger, document, 'heron');
    await saveMaterial(stranger, id, { base: 1, modelId: model.id, document });
    const bytes = await bytesOf((await saveMaterialFile(stranger, id, true)).written);
    await limitTo(1000);
    const before = [await files(), (await listModels(author)).length];
    await expect(bringMaterialFile(author, 'ferry', spooled(bytes))).rejects.toMatchObject(FULL);
    expect([await files(), (await listModels(author)).length]).toEqual(before);
    const own = await make(author);
    await limitProject('ferry', 0);
    await saveMaterial(author, own.id, {
      base: 1,
      modelId: 'demo-tile',
      document: { ...painted(), name: 'Saved all the same' },
    });
    expect((await openMaterial(author, own.id)).name).toBe('Saved all the same');
    await limitProject('ferry', null);
  });
});
