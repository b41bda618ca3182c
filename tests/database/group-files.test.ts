/** Groups and entries as files: out of one studio, into another, release by release. */
import { unzipSync, zipSync, strToU8 } from 'fflate';
import type { Zippable } from 'fflate';
import { setValue } from '@/core/edit/nodes';
import { groupSelection } from '@/core/edit/group';
import { addDial } from '@/core/edit/dials';
import type { NetworkDocument } from '@/core/graph/document';
import { findRelease, listReleases } from '@/db/queries/library';
import type { SignedIn } from '@/server/authentication';
import { arrangeEntry } from '@/server/entry-places';
import { saveEntryFile, startBringing } from '@/server/group-files';
import { searchLibrary } from '@/server/library';
import { saveMaterial } from '@/server/materials';
import { startPublication } from '@/server/publication';
import { bytesOf, spooled } from './files';
import { make, painted, startFerryStudio } from './ferry-studio';
import { workOff } from './studio';

let studio: Awaited<ReturnType<typeof startFerryStudio>>['studio'];
let author: SignedIn, artist: SignedIn, stranger: SignedIn;
let file: Uint8Array<ArrayBuffer>;
let entryId: string;

/** Publishes a group with three states, each of a class of its own. */
async function publishThree(): Promise<string> {
  const { id: materialId } = await make(author);
  const made = groupSelection(painted(), {
    board: null,
    ids: ['n1', 'n2'],
    name: 'Grain of salt',
    path: [],
    source: { materialId, revision: 1 },
  });
  const first =
    addDial(made.document, made.groupId, 'n1', 'scale', 'times', 'Size')?.document ?? made.document;
  const states: readonly NetworkDocument[] = [
    first,
    setValue(first, made.groupId, 'n2', 'edge', 0.8),
    setValue(setValue(first, made.groupId, 'n2', 'edge', 0.8), made.groupId, 'n1', 'detail', 3),
  ];
  let entry = '';
  for (const [k, document] of states.entries()) {
    await saveMaterial(author, materialId, { base: k + 1, modelId: 'demo-tile', document });
    const versions = entry ? await listReleases(entry) : [];
    const base = versions[0]?.version ?? '';
    const { id } = await startPublication(author, {
      materialId,
      revision: k + 2,
      groupId: made.groupId,
      rack: 'project:ferry',
      name: 'Grain of salt',
      description: 'A salty grain',
      tags: ['salt'],
      next: entry ? { entryId: entry, base } : null,
      notes: `State ${String(k)}`,
    });
    const row = await workOff(id);
    if (row?.state !== 'done') throw new Error(JSON.stringify(row?.reason));
    entry = String(row.result?.['entryId']);
  }
  return entry;
}
beforeAll(async () => {
  ({ studio, author, artist, stranger } = await startFerryStudio());
  entryId = await publishThree();
  file = await bytesOf((await saveEntryFile(author, entryId)).written);
}, 240_000);
afterAll(() => studio.stop());

const bring = async (bytes: Uint8Array, user: SignedIn) => {
  const { id, missing } = await startBringing(user, spooled(bytes));
  return { row: await workOff(id), missing };
};
const partOf = (name: string): unknown =>
  JSON.parse(new TextDecoder().decode(unzipSync(file)[name]));
function altered(parts: Readonly<Record<string, unknown>>): Uint8Array {
  const all: Zippable = { ...unzipSync(file) };
  for (const [name, value] of Object.entries(parts)) all[name] = strToU8(JSON.stringify(value));
  return zipSync(all);
}
const versionsOf = async (id: string): Promise<readonly string[]> =>
  (await listReleases(id)).map(({ version }) => version).toReversed();

it('comes onto one’s own rack with every release, its class computed', async () => {
  const { row, missing } = await bring(file, stranger);
  expect(row).toMatchObject({ state: 'done', result: { name: 'Grain of salt', added: 3 } });
  expect(missing).toEqual([]);
  const brought = String(row?.result?.['entryId']);
  expect(await versionsOf(brought)).toEqual(await versionsOf(entryId));
  for (const version of await versionsOf(entryId)) {
    const [before, after] = [
      await findRelease(entryId, version),
      await findRelease(brought, version),
    ];
    expect(after?.groups).toEqual(before?.groups);
    expect(after?.notes).toBe(before?.notes);
    expect(after?.releaseClass).toBe(before?.releaseClass);
    expect(after?.authorName).toBe('stranger');
  }
  const { entries } = await searchLibrary(stranger, { query: 'salty' });
  expect(entries.map(({ id, rack }) => [id, rack])).toEqual([[brought, 'person:stranger']]);
}, 60_000);

it('is there once, however often it is brought, and takes up what is newer', async () => {
  const older = altered({ 'releases.json': (partOf('releases.json') as unknown[]).slice(0, 2) });
  const first = await bring(older, artist);
  expect(first.row).toMatchObject({ result: { added: 2 } });
  const again = await bring(older, artist);
  expect(again.row).toMatchObject({ result: { added: 0 } });
  const whole = await bring(file, artist);
  expect(whole.row?.result).toMatchObject({
    entryId: first.row?.result?.['entryId'],
    added: 1,
  });
}, 60_000);

it('with one release alone moves up no rack: nothing here proves it, which is said', async () => {
  const [first] = partOf('releases.json') as unknown[];
  const manifest = { ...(partOf('manifest.json') as object), name: 'Grain alone' };
  const { row } = await bring(
    altered({ 'manifest.json': manifest, 'releases.json': [first] }),
    artist,
  );
  await expect(
    arrangeEntry(artist, String(row?.result?.['entryId']), { rack: 'project:ferry' }),
  ).rejects.toMatchObject({
    code: 'entry.unproved',
    action: expect.stringContaining('came by a file') as string,
  });
}, 60_000);

it('does not believe a class or a version that a file claims', async () => {
  const releases = partOf('releases.json') as Record<string, unknown>[];
  const claimed = releases.map((each) => ({ ...each, version: '9.9.9', releaseClass: 'same' }));
  const manifest = partOf('manifest.json') as Record<string, unknown>;
  const { row } = await bring(
    altered({ 'releases.json': claimed, 'manifest.json': { ...manifest, name: 'Claimed' } }),
    artist,
  );
  expect(await versionsOf(String(row?.result?.['entryId']))).toEqual(await versionsOf(entryId));
}, 60_000);

it.each([
  ['a material', { 'manifest.json': { format: 'bright-loom-material', version: 1 } }, 'foreign'],
  ['of a newer release', { 'manifest.json': { format: 'bright-loom-group', version: 9 } }, 'newer'],
  ['without releases', { 'releases.json': [] }, 'manifest'],
  ['with a release that is none', { 'releases.json': [{ root: 'g' }] }, 'release'],
  [
    'with a group that cannot be read',
    { 'releases.json': [{ root: 'g', documentVersion: 1, definitions: { g: { id: 7 } } }] },
    'release',
  ],
])('a file %s is refused, and nothing of it is kept', async (_, parts, code) => {
  const before = await searchLibrary(artist, {});
  await expect(startBringing(artist, spooled(altered(parts)))).rejects.toMatchObject({
    code: `file.${code}`,
    status: 422,
  });
  expect((await searchLibrary(artist, {})).entries).toHaveLength(before.entries.length);
});
