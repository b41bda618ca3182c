/** The history of a material page by page, and who is in it, against a real database. */
import { sql } from 'drizzle-orm';
import { REVISION_PAGE } from '@/contract/revisions';
import { database } from '@/db/client';
import { storeBlob } from '@/db/queries/blobs';
import { insertModel } from '@/db/queries/models';
import type { SignedIn } from '@/server/authentication';
import { createMaterial, openMaterial, saveMaterial } from '@/server/materials';
import { PRESENT_SECONDS, listRevisions, notePresence } from '@/server/revisions';
import { keepState } from '@/server/states';
import { documentOf, node } from '../support/networks';
import { makePerson, startStudio } from './studio';

let studio: Awaited<ReturnType<typeof startStudio>>;
let [tove, maren, stranger]: SignedIn[] = [];
let id = '';
const documentAt = (level: number) => ({
  ...documentOf([node('n', 'ranges.threshold', { level })]),
  name: 'Salt',
});
const here = (user: SignedIn | undefined, revision: number, isLeaving = false) =>
  notePresence(user as SignedIn, id, { revision, isLeaving });

beforeAll(async () => {
  studio = await startStudio();
  tove = await makePerson('tove', 'artist', ['ferry']);
  maren = await makePerson('maren', 'author', ['ferry']);
  stranger = await makePerson('stranger', 'artist', ['heron']);
  const blobHash = await storeBlob(Buffer.from('a model'), 'model/gltf-binary');
  await insertModel({ id: 'tile', name: 'Tile', projectId: 'ferry', blobHash, ownerId: null });
  const given = { projectId: 'ferry', modelId: 'tile', document: documentAt(0) };
  id = (await createMaterial(tove, given)).id;
  for (let base = 1; base <= REVISION_PAGE + 5; base++)
    await saveMaterial(base % 2 ? maren : tove, id, {
      base,
      modelId: 'tile',
      document: documentAt(base / 100),
    });
}, 60_000);
afterAll(() => studio.stop());

it('is read page by page, each revision once, with the states kept of it', async () => {
  await keepState(tove as SignedIn, id, {
    revision: 3,
    modelId: 'tile',
    camera: { eye: [0, 0, 3], target: [0, 0, 0], fieldRad: 0.6, aspect: 1 },
    name: 'Dry',
    note: '',
    about: null,
    amount: null,
  });
  const first = await listRevisions(tove as SignedIn, id, undefined);
  expect(first.hasMore).toBe(true);
  expect(first.revisions[0]).toMatchObject({ number: REVISION_PAGE + 6, authorName: 'maren' });
  const last = first.revisions.at(-1)?.number ?? 0;
  const second = await listRevisions(tove as SignedIn, id, String(last));
  expect(second.hasMore).toBe(false);
  const numbers = [...first.revisions, ...second.revisions].map(({ number }) => number);
  expect(numbers).toEqual(Array.from({ length: REVISION_PAGE + 6 }, (_, k) => numbers.length - k));
  expect(second.revisions.find(({ number }) => number === 3)?.states).toEqual(['Dry']);
  await expect(listRevisions(stranger as SignedIn, id, undefined)).rejects.toMatchObject({
    status: 404,
  });
});

it('saves nothing where nothing changed', async () => {
  const { revision, document } = await openMaterial(tove as SignedIn, id);
  const again = await saveMaterial(tove as SignedIn, id, {
    base: revision,
    modelId: 'tile',
    document,
  });
  expect(again.revision).toBe(revision);
});

it('tells each of the other while they are there, and whose revision is newest', async () => {
  expect((await here(tove, 4)).others).toEqual([]);
  const seen = await here(maren, 5);
  expect(seen).toMatchObject({
    others: [{ name: 'tove', revision: 4 }],
    head: REVISION_PAGE + 6,
    headAuthor: 'maren',
  });
  expect((await here(tove, 6)).others).toEqual([{ name: 'maren', revision: 5 }]);
  await here(maren, 0, true);
  expect((await here(tove, 6)).others).toEqual([]);
  await here(maren, 7);
  await database().execute(
    sql`update presence set seen_at = now() - make_interval(secs => ${PRESENT_SECONDS + 1})
      where user_id = 'maren'`,
  );
  expect((await here(tove, 6)).others).toEqual([]);
  await expect(here(stranger, 1)).rejects.toMatchObject({ status: 404 });
});
