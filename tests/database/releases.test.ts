/** Releases of an entry: published, proposed, looked ahead at, taken and put back. */
import { sql } from 'drizzle-orm';
import { withGroup } from '@/core/edit/board';
import { setValue } from '@/core/edit/nodes';
import type { NetworkDocument } from '@/core/graph/document';
import { database } from '@/db/client';
import { listJobs } from '@/db/queries/jobs';
import { chooseFront } from '@/db/queries/library-search';
import { findConsequence } from './consequences';
import type { SignedIn } from '@/server/authentication';
import { arrangeEntry, copyEntry, decideRelease, listProposals } from '@/server/entry-places';
import { countFacets, openEntry, openRelease, searchLibrary } from '@/server/library';
import { askConsequences, readConsequences } from '@/server/outlooks';
import { startPublication } from '@/server/publication';
import { publish } from '@/server/publish';
import { listWaiting, putBack, takeIn } from '@/server/takings';
import {
  asked,
  changeSource,
  coarser,
  nextRelease,
  packaged,
  published,
  publishedEntry,
  releaseIn,
  storeUser,
} from './entries';
import type { Source } from './entries';
import { startFerryStudio } from './ferry-studio';
import { workOff } from './studio';

let studio: Awaited<ReturnType<typeof startFerryStudio>>['studio'];
let author: SignedIn, artist: SignedIn, stranger: SignedIn, librarian: SignedIn;
beforeAll(async () => {
  ({ studio, author, artist, stranger, librarian } = await startFerryStudio());
}, 180000);
afterAll(() => studio.stop());

const newEntry = (name: string) => publishedEntry(author, name);
const change = (
  source: Source,
  edit: (document: NetworkDocument) => NetworkDocument,
  who = author,
): Promise<number> => changeSource(who, source, edit);

const renamed =
  ({ groupId }: Source) =>
  (document: NetworkDocument): NetworkDocument => ({
    ...document,
    groups: {
      ...document.groups,
      [groupId]: {
        ...(document.groups[groupId as never] as NetworkDocument['groups'][never]),
        limits: 'Not for thin walls',
      },
    },
  });

describe('a group that was built from inside', () => {
  const without =
    ({ groupId }: Source, home: number) =>
    (document: NetworkDocument) =>
      withGroup(document, groupId, ({ origin: _origin, ...group }) => ({
        ...group,
        dials: group.dials.map((dial) => ({ ...dial, home })),
      }));
  it('is published with a proof against its own inside', async () => {
    const source = await packaged(author);
    const revision = await change(source, without(source, 1));
    const made = await published(author, { ...asked(source, 'Built inside'), revision });
    expect(made).toMatchObject({
      result: { version: '1.0.0', proof: { identical: true, against: 'inside' } },
    });
  });
  it('is refused where its dials change it at home', async () => {
    const source = await packaged(author);
    const revision = await change(source, without(source, 1.25));
    await expect(
      publish('author', { ...asked(source, 'Askew inside'), revision }),
    ).rejects.toMatchObject({ code: 'proof.different' });
  });
});

describe('the next release', () => {
  it('gets its class and its version by measurement, and notes from what changed', async () => {
    const entry = await newEntry('Grain measured');
    const same = await change(entry, renamed(entry));
    expect(await published(librarian, nextRelease(entry, 'Grain measured', same))).toMatchObject({
      state: 'done',
      result: { version: '1.0.1', releaseClass: 'same', state: 'out' },
    });
    const looks = await change(entry, coarser(entry));
    const done = await published(librarian, nextRelease(entry, 'Grain measured', looks, '1.0.1'));
    expect(done?.result).toMatchObject({ version: '1.1.0', releaseClass: 'compatible' });
    const lean = await change(entry, (document) => {
      const group = document.groups[entry.groupId as never] as NetworkDocument['groups'][never];
      const dials = group.dials.slice(1);
      return { ...document, groups: { ...document.groups, [group.id]: { ...group, dials } } };
    });
    const gone = await published(librarian, nextRelease(entry, 'Grain measured', lean, '1.1.0'));
    expect(gone?.result).toMatchObject({ version: '2.0.0', releaseClass: 'breaking' });
    const { releases, version } = await openEntry(stranger, entry.entryId);
    expect(version).toBe('2.0.0');
    expect(releases.map((each) => each.version)).toEqual(['2.0.0', '1.1.0', '1.0.1', '1.0.0']);
    expect(releases[0]?.comparison?.missing).toEqual(['the dial “scale”']);
    expect(releases[1]?.notes).toContain('9 → 3');
  }, 180000);

  it('of two who publish at once one wins and the other is told', async () => {
    const entry = await newEntry('Grain twice');
    const first = await change(entry, coarser(entry));
    const mine = await startPublication(librarian, nextRelease(entry, 'Grain twice', first));
    const second = await change(entry, (document) =>
      setValue(document, entry.groupId, 'n1', 'scale', 4),
    );
    const theirs = await startPublication(librarian, nextRelease(entry, 'Grain twice', second));
    expect(await workOff(mine.id)).toMatchObject({ state: 'done', result: { version: '1.1.0' } });
    expect(await workOff(theirs.id)).toMatchObject({
      state: 'refused',
      reason: { code: 'release.overtaken' },
    });
    await expect(
      startPublication(librarian, nextRelease(entry, 'Grain twice', second)),
    ).rejects.toMatchObject({ code: 'release.overtaken' });
    const again = await published(librarian, nextRelease(entry, 'Grain twice', first, '1.1.0'));
    expect(again?.result).toMatchObject({ version: '1.1.0', isNew: false });
    expect((await openEntry(author, entry.entryId)).releases).toHaveLength(2);
  }, 180000);

  it('a worker that ends in any phase leaves all as it was; the next try ends', async () => {
    const entry = await newEntry('Grain interrupted');
    const revision = await change(entry, coarser(entry));
    const request = nextRelease(entry, 'Grain interrupted', revision);
    for (let phase = 1; phase <= 5; phase++) {
      let calls = 0;
      const dies = (): Promise<void> =>
        ++calls >= phase ? Promise.reject(new Error('killed')) : Promise.resolve();
      await expect(publish('librarian', request, dies)).rejects.toThrow('killed');
      expect((await openEntry(author, entry.entryId)).version).toBe('1.0.0');
    }
    for (let k = 0; k < 2; k++)
      expect(await publish('librarian', request)).toMatchObject({ version: '1.1.0' });
    expect((await openEntry(author, entry.entryId)).releases).toHaveLength(2);
  }, 180000);
});

describe('a review', () => {
  it('keeps an author’s release of the studio rack until a librarian decides', async () => {
    const entry = await newEntry('Grain proposed');
    const revision = await change(entry, coarser(entry));
    const done = await published(author, nextRelease(entry, 'Grain proposed', revision));
    expect(done?.result).toMatchObject({ version: '1.1.0', state: 'proposed' });
    expect((await openEntry(stranger, entry.entryId)).releases).toHaveLength(1);
    expect((await openEntry(author, entry.entryId)).releases).toHaveLength(2);
    await expect(openRelease(stranger, entry.entryId, '1.1.0')).rejects.toMatchObject({
      status: 404,
    });
    await expect(takeIn(author, entry.entryId, '1.1.0', [])).rejects.toMatchObject({
      code: 'release.unreadable',
    });
    const { proposals } = await listProposals(librarian);
    expect(proposals.map(({ entryName }) => entryName)).toContain('Grain proposed');
    const remarks = [{ place: 'Scale', text: 'Too coarse on the bell' }];
    const sent = { version: '1.1.0', isAccepted: false, remarks };
    await decideRelease(librarian, entry.entryId, sent);
    await expect(decideRelease(librarian, entry.entryId, sent)).rejects.toMatchObject({
      code: 'release.decided',
    });
    const [returned] = (await openEntry(author, entry.entryId)).releases;
    expect(returned).toMatchObject({ state: 'returned', remarks: [{ ...remarks[0] }] });
    const better = await change(entry, (document) =>
      setValue(document, entry.groupId, 'n1', 'scale', 7),
    );
    const again = await published(author, nextRelease(entry, 'Grain proposed', better));
    expect(again?.result).toMatchObject({ version: '1.2.0', state: 'proposed' });
    await decideRelease(librarian, entry.entryId, {
      version: '1.2.0',
      isAccepted: true,
      remarks: [],
    });
    expect((await openEntry(stranger, entry.entryId)).version).toBe('1.2.0');
  }, 180000);
});

describe('consequences', () => {
  it('show each material before and after; others are counted; twice is once', async () => {
    const entry = await newEntry('Grain looked at');
    const mine = await storeUser(author, entry.entryId);
    await storeUser(stranger, entry.entryId, 'heron');
    const revision = await change(entry, coarser(entry));
    const { id } = await askConsequences(author, entry.entryId, {
      version: null,
      candidate: { ...entry, revision },
    });
    await expect(readConsequences(stranger, id)).rejects.toMatchObject({ status: 404 });
    const jobs = (await listJobs(author.id, 50)).filter(({ kind }) => kind === 'consequences');
    for (const job of jobs) await workOff(job.id);
    const seen = await readConsequences(author, id);
    expect(seen).toMatchObject({ hidden: 1, materials: [{ materialId: mine, state: 'done' }] });
    const [material] = seen.materials;
    expect(material?.share).toBeGreaterThan(0);
    expect(material?.changes?.[0]).toMatchObject({ kind: 'value', before: '9', after: '3' });
    expect(material?.changes?.[0]?.share).toBeCloseTo(1, 5);
    expect(material?.beforeHash).not.toBe(material?.afterHash);
    await findConsequence(id, mine, 'stays');
    for (const job of jobs) await workOff(job.id);
    expect(await readConsequences(author, id)).toEqual(seen);
  }, 180000);
});

describe('taking a release', () => {
  it('keeps own values to the bit, only where it is asked for, and goes back', async () => {
    const entry = await newEntry('Grain taken');
    const [one, other] = [
      await storeUser(artist, entry.entryId),
      await storeUser(artist, entry.entryId),
    ];
    expect((await openEntry(artist, entry.entryId)).users).toHaveLength(2);
    const revision = await change(entry, coarser(entry));
    await published(librarian, nextRelease(entry, 'Grain taken', revision));
    const { waiting } = await listWaiting(artist, one);
    expect(waiting).toMatchObject([
      { entryName: 'Grain taken', version: '1.0.0', newest: '1.1.0', releaseClass: 'compatible' },
    ]);
    const before = await releaseIn(artist, one, entry.entryId);
    const { taken } = await takeIn(artist, entry.entryId, '1.1.0', [one]);
    expect(taken).toMatchObject([{ materialId: one, reason: null, lost: [] }]);
    expect(await releaseIn(artist, one, entry.entryId)).toMatchObject({
      version: '1.1.0',
      value: 0.5,
    });
    expect(await releaseIn(artist, other, entry.entryId)).toMatchObject({ version: '1.0.0' });
    expect((await listWaiting(artist, one)).waiting).toEqual([]);
    await putBack(artist, entry.entryId, [one]);
    expect((await releaseIn(artist, one, entry.entryId)).document).toEqual(before.document);
    const nothing = await putBack(artist, entry.entryId, [one]);
    expect(nothing.taken[0]?.reason).toContain('No earlier release');
    const foreign = await takeIn(stranger, entry.entryId, '1.1.0', [one]);
    expect(foreign.taken[0]?.reason).toContain('no such material');
  }, 180000);

  it('goes back after more work, too, and two who take at once each end right', async () => {
    const entry = await newEntry('Grain worked on');
    const id = await storeUser(artist, entry.entryId);
    const revision = await change(entry, coarser(entry));
    await published(librarian, nextRelease(entry, 'Grain worked on', revision));
    const both = await Promise.all([
      takeIn(artist, entry.entryId, '1.1.0', [id]),
      takeIn(author, entry.entryId, '1.1.0', [id]),
    ]);
    expect(both.map(({ taken }) => taken[0]?.reason)).toEqual([null, null]);
    expect(await releaseIn(artist, id, entry.entryId)).toMatchObject({
      version: '1.1.0',
      value: 0.5,
    });
    await change(
      { materialId: id, groupId: '' },
      (document) => setValue(document, null, 'n3', 'metallic', 1),
      artist,
    );
    await putBack(artist, entry.entryId, [id]);
    const now = await releaseIn(artist, id, entry.entryId);
    expect(now).toMatchObject({ version: '1.0.0', value: 0.5 });
    expect(now.document.network.nodes.find((node) => node.id === 'n3')?.values).toMatchObject({
      metallic: 1,
    });
  }, 180000);
});

describe('an entry', () => {
  it('is renamed, tagged, moved, copied, deprecated, taken off its rack and put back', async () => {
    const entry = await newEntry('Grain arranged');
    const other = await newEntry('Grain to use instead');
    await expect(arrangeEntry(artist, entry.entryId, { name: 'Mine' })).rejects.toMatchObject({
      code: 'rights.entry',
    });
    await expect(
      arrangeEntry(author, entry.entryId, { name: 'Grain to use instead' }),
    ).rejects.toMatchObject({ code: 'entry.name-taken' });
    await arrangeEntry(author, entry.entryId, { name: 'Sand', tags: ['beach', 'grain'] });
    const found = async (who: SignedIn, query: string): Promise<readonly string[]> =>
      (await searchLibrary(who, { query })).entries.map(({ name }) => name);
    expect(await found(stranger, 'beach')).toEqual(['Sand']);
    await arrangeEntry(author, entry.entryId, { rack: 'project:ferry' });
    expect(await found(stranger, 'beach')).toEqual([]);
    const copy = await copyEntry(artist, entry.entryId, { rack: 'person:artist', name: 'Sand' });
    expect(await found(author, 'beach')).toEqual(['Sand']);
    expect(await found(artist, 'beach')).toHaveLength(2);
    await expect(openEntry(librarian, copy.id)).rejects.toMatchObject({ status: 404 });
    await expect(
      copyEntry(artist, entry.entryId, { rack: 'studio', name: 'Sand' }),
    ).rejects.toMatchObject({ code: 'rights.publish' });
    const deprecated = { reason: 'Slower than the other', successorId: other.entryId };
    await arrangeEntry(librarian, entry.entryId, { rack: 'studio', deprecated });
    expect(await openEntry(stranger, entry.entryId)).toMatchObject({
      deprecatedReason: 'Slower than the other',
      successor: { name: 'Grain to use instead' },
    });
    await expect(
      arrangeEntry(author, entry.entryId, { withdrawn: 'Seams on the bell' }),
    ).rejects.toMatchObject({ code: 'rights.withdraw' });
    await arrangeEntry(librarian, entry.entryId, { withdrawn: 'Seams on the bell' });
    expect(await found(stranger, 'beach')).toEqual([]);
    await arrangeEntry(librarian, entry.entryId, { withdrawn: null, deprecated: null });
    expect(await found(stranger, 'beach')).toEqual(['Sand']);
  }, 180000);

  it('is found by what it is made of, by beginnings and misspelt, and by facets', async () => {
    await newEntry('Crackle glaze');
    const found = async (given: Parameters<typeof searchLibrary>[1]): Promise<readonly string[]> =>
      (await searchLibrary(stranger, given)).entries.map(({ name }) => name);
    expect(await found({ query: 'crac' })).toEqual(['Crackle glaze']);
    expect(await found({ query: 'crackle smoothstep' })).toEqual(['Crackle glaze']);
    const guess = await searchLibrary(stranger, { query: 'crakcle' });
    expect(guess).toMatchObject({ isGuess: true });
    expect(guess.entries[0]?.name).toBe('Crackle glaze');
    expect(await found({ query: 'crackle', facets: 'gives:scalar,tag:mask' })).toHaveLength(1);
    expect(await found({ query: 'crackle', facets: 'gives:surface' })).toEqual([]);
    expect(await found({ query: 'crackle', usedBy: 'heron' })).toEqual([]);
    // What is not among the most used is found, too, and comes among them by itself.
    await database().execute(sql`update entry set is_front = false`);
    expect(await found({ query: 'crackle smoothstep' })).toEqual(['Crackle glaze']);
    expect(await found({ query: 'c' })).toContain('Crackle glaze');
    await chooseFront(true);
    const { rows } = await database().execute(sql`select 1 from entry where not is_front`);
    expect(rows).toEqual([]);
    expect(await found({ query: 'crackle', usedBy: 'ferry' })).toEqual([]);
    expect(await found({ query: "'; drop table entry; --" })).toEqual([]);
    const { facets } = await countFacets(stranger, { query: 'crackle' });
    expect(facets).toContainEqual({ facet: 'gives:scalar', title: 'scalar', count: 1 });
    expect(await found({ sort: 'name' })).toContain('Crackle glaze');
    expect(await found({ query: 'crackle', first: '1' })).toEqual([]);
  }, 120000);
});
