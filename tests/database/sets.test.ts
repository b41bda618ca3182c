/** The start page's list: searched, ordered, page by page; sets of a project. */
import { MATERIAL_PAGE } from '@/contract/materials';
import type { MaterialQuery } from '@/contract/materials';
import type { SignedIn } from '@/server/authentication';
import { arrangeMaterial, duplicateMaterial } from '@/server/material-places';
import { findMaterials, listPlaces } from '@/server/material-search';
import { arrangeSet, createSet, fillSet } from '@/server/sets';
import { make, painted, startFerryStudio } from './ferry-studio';

let studio: Awaited<ReturnType<typeof startFerryStudio>>['studio'];
let author: SignedIn, artist: SignedIn, stranger: SignedIn;
beforeAll(async () => {
  ({ studio, author, artist, stranger } = await startFerryStudio());
}, 180000);
afterAll(() => studio.stop());

const named = (user: SignedIn, name: string, project = 'ferry'): Promise<{ id: string }> =>
  make(user, { ...painted(), name }, project);
const names = async (user: SignedIn, query: MaterialQuery): Promise<readonly string[]> =>
  (await findMaterials(user, query)).materials.map(({ name }) => name);

describe('the list of materials', () => {
  it('is searched by every word in name, model, owner and project, as it is written', async () => {
    await named(author, 'Paint 10');
    await named(author, 'Paint 9');
    await named(stranger, 'Paint of the heron', 'heron');
    await named(author, '100 %_\\ wool');
    expect(await names(author, { query: 'paint' })).toEqual(['Paint 9', 'Paint 10']);
    expect(await names(artist, { query: 'PAINT heron' })).toEqual(['Paint of the heron']);
    expect(await names(author, { query: 'tile ferry author 9' })).toEqual(['Paint 9']);
    expect(await names(author, { query: '%_\\' })).toEqual(['100 %_\\ wool']);
    expect(await names(author, { query: '_' })).toEqual(['100 %_\\ wool']);
    expect(await names(author, { query: 'heron' })).toEqual([]);
  });
  it('is ordered by name as a person counts', async () => {
    expect(await names(author, { query: 'paint', order: 'name' })).toEqual(['Paint 9', 'Paint 10']);
    await named(author, 'Paint 2');
    expect(await names(author, { query: 'paint', order: 'model' })).toEqual([
      'Paint 2',
      'Paint 9',
      'Paint 10',
    ]);
  });
  it('comes page by page, each material once', async () => {
    for (let k = 0; k < MATERIAL_PAGE + 3; k++) await named(author, `Plank ${String(k)}`);
    const first = await findMaterials(author, { query: 'plank', order: 'name' });
    expect(first).toMatchObject({ hasMore: true });
    expect(first.materials).toHaveLength(MATERIAL_PAGE);
    const second = await findMaterials(author, {
      query: 'plank',
      order: 'name',
      first: String(MATERIAL_PAGE),
    });
    expect(second.hasMore).toBe(false);
    const all = [...first.materials, ...second.materials].map(({ name }) => name);
    expect(all).toEqual(Array.from({ length: MATERIAL_PAGE + 3 }, (_, k) => `Plank ${String(k)}`));
  });
  it('names a copy so that the project has no other of that name', async () => {
    const { id } = await named(author, 'Hull');
    expect(await duplicateMaterial(author, id, { projectId: 'ferry' })).toMatchObject({
      name: 'Hull (copy)',
    });
    const again = await duplicateMaterial(author, id, { projectId: 'ferry' });
    expect(again.name).toBe('Hull (copy 2)');
    expect(await duplicateMaterial(author, again.id, { projectId: 'ferry' })).toMatchObject({
      name: 'Hull (copy 3)',
    });
  });
});

describe('a set', () => {
  const inSet = (set: string): Promise<readonly string[]> => names(author, { set, order: 'name' });

  it('holds materials of its project, each once, archived ones unseen', async () => {
    const { id } = await createSet(author, { projectId: 'ferry', name: 'Deck' });
    const [mast, sail] = [await named(author, 'Mast'), await named(author, 'Sail')];
    const foreign = await named(stranger, 'Foreign', 'heron');
    const add = [mast.id, sail.id, foreign.id, 'no-such-thing'];
    await fillSet(author, id, { add, remove: [] });
    await fillSet(author, id, { add, remove: [] });
    expect(await inSet(id)).toEqual(['Mast', 'Sail']);
    await arrangeMaterial(author, sail.id, { isArchived: true });
    expect(await inSet(id)).toEqual(['Mast']);
    const { sets } = await listPlaces(author, {});
    expect(sets).toEqual([{ id, projectId: 'ferry', name: 'Deck', materials: 1 }]);
    await arrangeMaterial(author, sail.id, { isArchived: false });
    await fillSet(author, id, { add: [], remove: [mast.id] });
    expect(await inSet(id)).toEqual(['Sail']);
  });
  it('lets go of a material that moves to another project', async () => {
    const { id } = await createSet(artist, { projectId: 'ferry', name: 'Moving' });
    const boat = await named(artist, 'Boat');
    await fillSet(artist, id, { add: [boat.id], remove: [] });
    await arrangeMaterial(artist, boat.id, { projectId: 'heron' });
    await arrangeMaterial(artist, boat.id, { projectId: 'ferry' });
    expect(await inSet(id)).toEqual([]);
  });
  it('has a name of its own in its project; taken apart, its materials stay', async () => {
    const { id } = await createSet(author, { projectId: 'ferry', name: 'Ropes' });
    const taken = { code: 'set.name-taken', status: 409 };
    await expect(createSet(artist, { projectId: 'ferry', name: 'Ropes' })).rejects.toMatchObject(
      taken,
    );
    await expect(arrangeSet(author, id, { name: 'Deck' })).rejects.toMatchObject(taken);
    await createSet(artist, { projectId: 'heron', name: 'Ropes' });
    const rope = await named(author, 'Rope');
    await fillSet(author, id, { add: [rope.id], remove: [] });
    await arrangeSet(author, id, { name: 'Lines' });
    await arrangeSet(author, id, { isRemoved: true });
    expect(await inSet(id)).toEqual([]);
    expect(await names(author, { name: 'Rope' })).toEqual(['Rope']);
    await expect(arrangeSet(author, id, { name: 'Back' })).rejects.toMatchObject({ status: 404 });
  });
  it('of two made at once under one name, one is', async () => {
    const made = await Promise.allSettled(
      [author, artist].map((user) => createSet(user, { projectId: 'ferry', name: 'Twice' })),
    );
    expect(made.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  });
});
