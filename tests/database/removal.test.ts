/** Things that are removed for ever: only what nothing uses, and by whom it may be. */
import { randomBytes } from 'node:crypto';
import { encode as encodePng } from 'fast-png';
import { sql } from 'drizzle-orm';
import { addCompanion, changeCompanion } from '@/core/edit/companions';
import type { NetworkDocument } from '@/core/graph/document';
import { database } from '@/db/client';
import type { SignedIn } from '@/server/authentication';
import { tidy } from '@/server/housekeeping';
import { uploadImage } from '@/server/images';
import { arrangeMaterial } from '@/server/material-places';
import { openMaterial, saveMaterial } from '@/server/materials';
import { arrangeModel, duplicateModel } from '@/server/model-places';
import { uploadModel } from '@/server/models';
import * as people from '@/server/people';
import { removeHolding } from '@/server/removal';
import { keepState } from '@/server/states';
import { limitProject, readHoldings, readStorage } from '@/server/storage';
import { documentOf, node } from '../support/networks';
import { asked, packaged, published } from './entries';
import { make, painted, startFerryStudio } from './ferry-studio';

let studio: Awaited<ReturnType<typeof startFerryStudio>>['studio'];
let author: SignedIn, artist: SignedIn, stranger: SignedIn, librarian: SignedIn;
beforeAll(async () => {
  ({ studio, author, artist, stranger, librarian } = await startFerryStudio());
}, 180000);
afterAll(() => studio.stop());

const OWN_RACK = 'person:author';
const FACE = 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n';
const rope = (project = 'ferry'): Promise<{ id: string }> =>
  uploadModel(author, { project, name: 'Rope' }, () =>
    Promise.resolve(new Uint8Array(Buffer.from(`${FACE}# ${randomBytes(9000).toString('hex')}\n`))),
  );
const remove = (user: SignedIn, kind: 'model' | 'image' | 'material', id: string, at = 'ferry') =>
  removeHolding(user, at, { kind, id });
const save = (id: string, base: number, document: NetworkDocument, modelId = 'demo-tile') =>
  saveMaterial(author, id, { base, modelId, document });
const archive = (id: string) => arrangeMaterial(author, id, { isArchived: true });
const holds = async (id: string): Promise<boolean> =>
  (await readHoldings(author, 'ferry')).holdings.some((each) => each.id === id);
const inUse = (words: string) => ({
  code: 'storage.in-use',
  status: 409,
  kept: 'Nothing was removed.',
  message: expect.stringContaining(words) as string,
});

describe('a model', () => {
  it('goes where nothing stands on it, and its room with it', async () => {
    const { id } = await rope();
    const used = async () =>
      (await readStorage(author)).projects.find((each) => each.id === 'ferry')?.usedBytes ?? 0;
    const before = await used();
    expect(await remove(artist, 'model', id)).toEqual({ name: 'Rope' });
    expect(before - (await used())).toBeGreaterThan(18_000);
    await expect(remove(artist, 'model', id)).rejects.toMatchObject({ status: 404 });
    const { deeds } = await people.listDeeds(undefined);
    expect(deeds[0]).toMatchObject({ actor: 'artist', about: 'the model Rope' });
    await database().execute(sql`update blob set created_at = now() - interval '2 days'`);
    expect((await tidy()).bytes).toBeGreaterThan(18_000);
  });

  it('stays where a material stands on it, has it beside, or has a state on it', async () => {
    const { id } = await rope();
    const document = { ...painted(), name: 'On rope' };
    const made = await make(author, document);
    await save(made.id, 1, document, id);
    await expect(remove(author, 'model', id)).rejects.toMatchObject(
      inUse('“On rope” stands on it'),
    );
    await archive(made.id);
    await expect(remove(author, 'model', id)).rejects.toMatchObject(inUse('“On rope”'));
    await arrangeMaterial(author, made.id, { isArchived: false });
    await keepState(author, made.id, {
      revision: 2,
      modelId: id,
      camera: { eye: [0, 0, 3], target: [0, 0, 0], fieldRad: 0.6, aspect: 1 },
      name: 'Wet',
      note: '',
      about: null,
      amount: null,
    });
    await save(made.id, 2, addCompanion(document, { id, name: 'Rope' }));
    await expect(remove(author, 'model', id)).rejects.toMatchObject(inUse('has a state on it'));
    await expect(remove(author, 'model', id)).rejects.toMatchObject(inUse('beside its model'));
    expect(await holds(id)).toBe(true);
  });

  it('is told to be used by others’ materials without their names', async () => {
    const { id } = await rope();
    await make(stranger, { ...painted(), name: 'Secret' }, 'heron');
    await database().execute(sql`update material set model_id = ${id} where name = 'Secret'`);
    const told = await remove(author, 'model', id).catch((error: unknown) => String(error));
    expect(told).toContain('1 more use of it');
    expect(told).not.toContain('Secret');
  });

  it('that ships stays, and so does one of a project somebody is not in', async () => {
    const { id } = await rope();
    const elsewhere = { status: 404 };
    await expect(remove(stranger, 'model', id)).rejects.toMatchObject(elsewhere);
    await expect(remove(stranger, 'model', id, 'heron')).rejects.toMatchObject(elsewhere);
    await expect(remove(author, 'model', 'demo-tile', 'studio')).rejects.toMatchObject(elsewhere);
    await expect(remove(librarian, 'model', 'demo-buoy', 'studio')).rejects.toMatchObject(
      inUse('ships'),
    );
  });

  it('is neither moved nor copied into a full project', async () => {
    const { id } = await rope();
    await limitProject('heron', 10);
    const full = { code: 'storage.full' };
    await expect(arrangeModel(librarian, id, { projectId: 'heron' })).rejects.toMatchObject(full);
    await expect(
      duplicateModel(librarian, id, { name: 'Rope 2', projectId: 'heron' }),
    ).rejects.toMatchObject(full);
    expect(await holds(id)).toBe(true);
    await limitProject('heron', null);
  });
});

describe('an image', () => {
  const image = async (material: string): Promise<string> => {
    const data = new Uint8Array(randomBytes(48));
    const png = new Uint8Array(encodePng({ width: 4, height: 4, data, channels: 3 }));
    const sent = await uploadImage(author, { name: 'Grain', material }, () => Promise.resolve(png));
    return sent.image;
  };
  const age = () =>
    database().execute(sql`update blob set created_at = now() - interval '2 hours'`);

  it('goes once it is no longer fresh and nothing ever used it', async () => {
    const { id } = await make(author, { ...painted(), name: 'Bare' });
    const hash = await image(id);
    await expect(remove(author, 'image', hash)).rejects.toMatchObject(inUse('the last hour'));
    await age();
    expect(await remove(author, 'image', hash)).toEqual({ name: 'Grain' });
  });

  it('stays where any revision names it', async () => {
    const made = await make(author, { ...painted(), name: 'Grained' });
    const hash = await image(made.id);
    const grained = documentOf(
      [node('i', 'patterns.image', { image: { image: hash, name: 'Grain' } })],
      [],
    );
    await save(made.id, 1, { ...grained, name: 'Grained' });
    await save(made.id, 2, { ...painted(), name: 'Grained' });
    await age();
    await expect(remove(author, 'image', hash)).rejects.toMatchObject(inUse('“Grained” uses it'));
    await published(author, asked(await packaged(author), 'Grain of others', { rack: OWN_RACK }));
    await database().execute(sql`update release set groups = groups || jsonb_build_object('x',
      ${hash}::text) where entry_id in (select id from entry where name = 'Grain of others')`);
    await expect(remove(author, 'image', hash)).rejects.toMatchObject(inUse('Grain of others'));
    await expect(remove(artist, 'image', hash)).rejects.toMatchObject(inUse('1 more use of it'));
    expect(await holds(hash)).toBe(true);
  });
});

describe('a material', () => {
  it('goes once it is archived, with its history', async () => {
    const { id } = await make(author, { ...painted(), name: 'Gone' });
    await expect(remove(author, 'material', id)).rejects.toMatchObject(inUse('not archived'));
    await archive(id);
    expect(await remove(author, 'material', id)).toEqual({ name: 'Gone' });
    await expect(openMaterial(author, id)).rejects.toMatchObject({ status: 404 });
  });

  it('stays where a group came from it, and where another shows it beside', async () => {
    const source = await packaged(author);
    await archive(source.materialId);
    await expect(remove(author, 'material', source.materialId)).rejects.toMatchObject(
      inUse('packaged from it'),
    );
    await published(author, asked(source, 'Grain'));
    await expect(remove(author, 'material', source.materialId)).rejects.toMatchObject(
      inUse('Grain 1.0.0 was published from it'),
    );
    const worn = await make(author, { ...painted(), name: 'Worn' });
    const beside = addCompanion(painted(), { id: 'demo-buoy', name: 'Buoy' });
    const [companion] = beside.companions?.models ?? [];
    const shown = changeCompanion(beside, companion?.id ?? '', { material: worn.id });
    await make(author, { ...shown, name: 'Shown beside' });
    await archive(worn.id);
    await expect(remove(author, 'material', worn.id)).rejects.toMatchObject(
      inUse('“Shown beside” has it beside'),
    );
  });
});
