/** The database restarted in the midst of work: each ends right, and once. */
import { setTimeout as pause } from 'node:timers/promises';
import { setValue } from '@/core/edit/nodes';
import { isBusy, isUnreachable } from '@/db/client';
import { listJobs } from '@/db/queries/jobs';
import type { SignedIn } from '@/server/authentication';
import { openEntry } from '@/server/library';
import { openMaterial } from '@/server/materials';
import { askConsequences, lookAtBatch, readConsequences } from '@/server/outlooks';
import { publish } from '@/server/publish';
import { putBack, takeIn } from '@/server/takings';
import { changeSource, coarser, nextRelease, publishedEntry } from './entries';
import { releaseIn, storeUser } from './entries';
import { startFerryStudio } from './ferry-studio';

let studio: Awaited<ReturnType<typeof startFerryStudio>>['studio'];
let author: SignedIn, artist: SignedIn;
beforeAll(async () => {
  ({ studio, author, artist } = await startFerryStudio());
}, 180000);
afterAll(() => studio.stop());

async function restart(): Promise<void> {
  studio.cluster.stop();
  await studio.cluster.restart();
}
/** What is done when a phase begins: in the chosen one the database goes away and comes back. */
const restartsIn = (phase: number): (() => Promise<void>) => {
  let calls = 0;
  return () => (++calls === phase ? restart() : Promise.resolve());
};
/** A try as a worker makes it: one that lost the database is made again. */
async function tried(work: () => Promise<unknown>): Promise<void> {
  for (;;)
    try {
      await work();
      return;
    } catch (error) {
      if (!isUnreachable(error) && !isBusy(error)) throw error;
      await pause(50);
    }
}

it('a publication ends in one release, whichever phase it was in', async () => {
  const name = 'Grain restarted';
  const entry = await publishedEntry(author, name);
  for (let phase = 1; phase <= 5; phase++) {
    const [base, version] = [`1.${String(phase - 1)}.0`, `1.${String(phase)}.0`];
    const revision = await changeSource(author, entry, (document) =>
      setValue(document, entry.groupId, 'n1', 'scale', phase + 2),
    );
    const request = nextRelease(entry, name, revision, base);
    const report = restartsIn(phase);
    await tried(() => publish('librarian', request, report));
    const opened = await openEntry(author, entry.entryId);
    expect([opened.version, opened.releases.length]).toEqual([version, phase + 1]);
  }
}, 300000);

it('consequences are all looked at, each once', async () => {
  const entry = await publishedEntry(author, 'Grain looked at again');
  const materials: string[] = [];
  for (let k = 0; k < 3; k++) materials.push(await storeUser(artist, entry.entryId));
  const revision = await changeSource(author, entry, coarser(entry));
  for (let phase = 1; phase <= 3; phase++) {
    const candidate = { ...entry, revision };
    const { id } = await askConsequences(author, entry.entryId, { version: null, candidate });
    const report = restartsIn(phase);
    await tried(() => lookAtBatch(author.id, { outlookId: id, materialIds: materials }, report));
    const seen = await readConsequences(author, id);
    expect(seen.materials.map(({ state }) => state)).toEqual(['done', 'done', 'done']);
  }
  expect((await listJobs(author.id, 50)).length).toBeGreaterThan(0);
}, 300000);

it('a release is taken, and put back, by one revision each or not at all', async () => {
  const entry = await publishedEntry(author, 'Grain taken again');
  const id = await storeUser(artist, entry.entryId);
  const revision = await changeSource(author, entry, coarser(entry));
  await publish('librarian', nextRelease(entry, 'Grain taken again', revision));
  const before = await openMaterial(artist, id);
  let { revision: head } = before;
  for (const wait of [0, 8, 30]) {
    for (const [act, version] of [
      [() => takeIn(artist, entry.entryId, '1.1.0', [id]), '1.1.0'],
      [() => putBack(artist, entry.entryId, [id]), '1.0.0'],
    ] as const) {
      const done = act().catch((error: unknown) => {
        if (!isUnreachable(error) && !isBusy(error)) throw error;
      });
      await pause(wait);
      await restart();
      await done;
      let now = { version: '', revision: 0 };
      await tried(async () => {
        const held = await releaseIn(artist, id, entry.entryId);
        now = { version: held.version ?? '', revision: held.revision };
      });
      // As a person would who was told that it failed.
      if (now.version !== version) await tried(act);
      const then = await releaseIn(artist, id, entry.entryId);
      expect(then).toMatchObject({ version, value: 0.5, revision: head + 1 });
      head += 1;
    }
  }
  expect((await openMaterial(artist, id)).document).toEqual(before.document);
}, 300000);
