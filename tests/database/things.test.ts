/** Materials and models as things: copied, named, moved, archived, replaced. */
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { storeBlob } from '@/db/queries/blobs';
import { insertModel } from '@/db/queries/models';
import type { SignedIn } from '@/server/authentication';
import { arrangeMaterial, duplicateMaterial } from '@/server/material-places';
import { openMaterial, saveMaterial } from '@/server/materials';
import {
  arrangeModel,
  duplicateModel,
  replaceModelFile,
  restoreModelFile,
} from '@/server/model-places';
import { listModels, modelFile, readableModel } from '@/server/models';
import { make, painted, startFerryStudio } from './ferry-studio';
import { makePerson, materialsOf } from './studio';

let studio: Awaited<ReturnType<typeof startFerryStudio>>['studio'];
let author: SignedIn, stranger: SignedIn, both: SignedIn;
const file = async (name: string): Promise<Uint8Array<ArrayBuffer>> =>
  new Uint8Array(
    await readFile(path.resolve(import.meta.dirname, `../../assets/models/${name}.glb`)),
  );
beforeAll(async () => {
  ({ studio, author, stranger } = await startFerryStudio());
  both = await makePerson('both', 'artist', ['ferry', 'heron']);
}, 180000);
afterAll(() => studio.stop());

const shown = async (user: SignedIn, id: string) =>
  (await materialsOf(user)).find((each) => each.id === id);

describe('a material', () => {
  it('is duplicated with its newest state and a history of its own', async () => {
    const { id } = await make(author);
    await saveMaterial(author, id, {
      base: 1,
      modelId: 'demo-tile',
      document: { ...painted(), name: 'Newer' },
    });
    const copy = await duplicateMaterial(author, id, { name: 'Newer (copy)', projectId: 'ferry' });
    const opened = await openMaterial(author, copy.id);
    expect(opened).toMatchObject({ revision: 1, name: 'Newer (copy)' });
    expect(opened.document.network).toEqual(painted().network);
    await expect(
      duplicateMaterial(author, id, { name: 'Newer', projectId: 'ferry' }),
    ).rejects.toMatchObject({ code: 'material.name-taken', status: 409 });
    await expect(
      duplicateMaterial(author, id, { name: 'Elsewhere', projectId: 'heron' }),
    ).rejects.toMatchObject({ code: 'project.not-member' });
    await expect(
      duplicateMaterial(stranger, id, { name: 'Mine', projectId: 'heron' }),
    ).rejects.toMatchObject({ status: 404 });
  });
  it('is renamed by a revision; a name that is taken is refused and nothing changes', async () => {
    const { id } = await make(author);
    await arrangeMaterial(author, id, { name: 'Hull paint' });
    expect(await openMaterial(author, id)).toMatchObject({
      name: 'Hull paint',
      revision: 2,
      document: { name: 'Hull paint' },
    });
    const { id: other } = await make(author);
    await expect(arrangeMaterial(author, other, { name: 'Hull paint' })).rejects.toMatchObject({
      code: 'material.name-taken',
    });
    expect((await openMaterial(author, other)).revision).toBe(1);
  });
  it('is archived without loss, and restored unless its name was taken meanwhile', async () => {
    const { id } = await make(author);
    await arrangeMaterial(author, id, { name: 'Old tar' });
    await arrangeMaterial(author, id, { isArchived: true });
    expect(await shown(author, id)).toMatchObject({ isArchived: true });
    expect((await openMaterial(author, id)).name).toBe('Old tar');
    const { id: newer } = await make(author);
    await arrangeMaterial(author, newer, { name: 'Old tar' });
    await expect(arrangeMaterial(author, id, { isArchived: false })).rejects.toMatchObject({
      code: 'material.name-taken',
    });
    await arrangeMaterial(author, id, { name: 'Older tar', isArchived: false });
    expect(await shown(author, id)).toMatchObject({ name: 'Older tar', isArchived: false });
  });
  it('moves to a project one is a member of, and leaves the others’ sight', async () => {
    const { id } = await make(both);
    await arrangeMaterial(both, id, { name: 'Travelling', projectId: 'heron' });
    expect(await shown(stranger, id)).toMatchObject({ projectId: 'heron' });
    expect(await shown(author, id)).toBeUndefined();
    await expect(arrangeMaterial(stranger, id, { projectId: 'ferry' })).rejects.toMatchObject({
      code: 'project.not-member',
    });
  });
});

describe('a model', () => {
  beforeAll(async () => {
    const blobHash = await storeBlob(Buffer.from(await file('tile')), 'model/gltf-binary');
    const rest = { projectId: 'ferry', blobHash, ownerId: author.id };
    await insertModel({ id: 'ferry-tile', name: 'Ferry tile', ...rest });
  });
  it('takes a newer file for everyone, and gives the former one back', async () => {
    const before = (await modelFile(author, 'ferry-tile')).key;
    await replaceModelFile(author, 'ferry-tile', () => file('bell'));
    const [replaced] = (await listModels(author)).filter(({ id }) => id === 'ferry-tile');
    expect(replaced).toMatchObject({ hasFormer: true });
    expect((await modelFile(author, 'ferry-tile')).key).not.toBe(before);
    // The same file again is no replacement: the former one is still the tile.
    await replaceModelFile(author, 'ferry-tile', () => file('bell'));
    await restoreModelFile(author, 'ferry-tile');
    expect((await modelFile(author, 'ferry-tile')).key).toBe(before);
    await expect(
      replaceModelFile(author, 'ferry-tile', () => Promise.resolve(new Uint8Array([1, 2, 3]))),
    ).rejects.toMatchObject({ name: 'AppError' });
    expect((await modelFile(author, 'ferry-tile')).key).toBe(before);
  });
  it('is named, duplicated, archived; the studio’s own are a librarian’s', async () => {
    await arrangeModel(author, 'ferry-tile', { name: 'Deck tile' });
    const { id } = await duplicateModel(author, 'ferry-tile', {
      name: 'Deck tile (copy)',
      projectId: 'ferry',
    });
    const [own, copy] = [
      await readableModel(author, 'ferry-tile'),
      await readableModel(author, id),
    ];
    expect(copy).toMatchObject({ name: 'Deck tile (copy)', blobHash: own.blobHash });
    await arrangeModel(author, id, { isArchived: true });
    expect((await listModels(author)).find((each) => each.id === id)?.isArchived).toBe(true);
    await expect(restoreModelFile(author, id)).rejects.toMatchObject({ code: 'model.no-former' });
    await expect(arrangeModel(author, 'demo-tile', { name: 'Mine' })).rejects.toMatchObject({
      code: 'rights.mend',
    });
    await expect(arrangeModel(stranger, 'ferry-tile', { name: 'x' })).rejects.toMatchObject({
      status: 404,
    });
  });
});

describe('a material and its model in different projects', () => {
  it('neither leaves the other behind where it could not be read', async () => {
    const blobHash = await storeBlob(Buffer.from(await file('tile')), 'model/gltf-binary');
    const rest = { projectId: 'ferry', blobHash, ownerId: both.id };
    await insertModel({ id: 'ferry-mast', name: 'Mast', ...rest });
    const { id } = await make(both);
    await saveMaterial(both, id, { base: 1, modelId: 'ferry-mast', document: painted() });
    await arrangeMaterial(both, id, { name: 'On the mast' });
    await expect(arrangeMaterial(both, id, { projectId: 'heron' })).rejects.toMatchObject({
      code: 'material.model-elsewhere',
    });
    await expect(
      duplicateMaterial(both, id, { name: 'Copy', projectId: 'heron' }),
    ).rejects.toMatchObject({ code: 'material.model-elsewhere' });
    await expect(arrangeModel(both, 'ferry-mast', { projectId: 'heron' })).rejects.toMatchObject({
      code: 'model.in-use',
    });
    expect(await openMaterial(author, id)).toMatchObject({ modelId: 'ferry-mast' });
  });
});
