import * as rows from '@/db/queries/housekeeping';
import type { JobContext } from './jobs/define-job';
import { tryToEnqueue } from './jobs/enqueue';
import { HOUSEKEEPING } from './jobs/lanes';
import { modelKey } from './models';
import type { Tidied } from './tidied';
import { ALL_KEPT_MS, revisionsToThin } from './thinning';

const DAY_MS = 86_400_000;
/** What nothing names may be about to be named; after so long it is not. */
const UNNAMED_KEPT_MS = DAY_MS;
/** Consequences can be looked at again; their pictures are kept for so long. */
const OUTLOOKS_KEPT_MS = 30 * DAY_MS;
/** Materials whose history is thinned before it is told how far it is. */
const STEP = 50;

async function thinAll(now: Date, report: JobContext['report']): Promise<number> {
  let revisions = 0;
  for (let after = ''; ;) {
    const before = new Date(now.getTime() - ALL_KEPT_MS);
    const ids = await rows.listThinnable(before, after, STEP);
    const last = ids.at(-1);
    if (last === undefined) return revisions;
    for (const id of ids)
      revisions += await rows.thinHistory(id, (history) => revisionsToThin(history, now));
    after = last;
    await report(0.3, `Thinned out ${String(revisions)} revisions`);
  }
}

/** The keys of maps that a model may ask for, with its file of before, which can be put back. */
async function reachableMaps(): Promise<readonly string[]> {
  const models = await rows.listModelFiles();
  return Promise.all(
    models.flatMap(({ blobHash, formerBlobHash, preparation }) =>
      [blobHash, formerBlobHash]
        .filter((hash) => hash !== null)
        .map((hash) => modelKey({ blobHash: hash, preparation })),
    ),
  );
}

/**
 * Thins out histories and removes what nobody can reach: pictures, files that nothing names,
 * measured maps of models that are gone, consequences of long ago. Doing it twice changes nothing.
 */
export async function tidy(
  report: JobContext['report'] = () => Promise.resolve(),
  now = new Date(),
): Promise<Tidied> {
  const before = (age: number): Date => new Date(now.getTime() - age);
  const revisions = await thinAll(now, report);
  await report(0.5, 'Removing what was looked ahead at long ago');
  const outlooks = await rows.removeOldOutlooks(before(OUTLOOKS_KEPT_MS));
  await report(0.6, 'Removing maps of models that are gone');
  const maps = await rows.removeUnreachedMaps(await reachableMaps(), before(UNNAMED_KEPT_MS));
  await report(0.8, 'Removing pictures that nothing shows');
  const files = await rows.removeUnreachedFiles(before(UNNAMED_KEPT_MS));
  return {
    revisions,
    outlooks,
    maps: maps.maps,
    files: files.files,
    bytes: maps.bytes + files.bytes,
  };
}

/** Has the studio put in order in the background; one wish that waits serves all. */
export const requestTidying = (userId: string | null): Promise<void> =>
  tryToEnqueue(HOUSEKEEPING, {}, { title: 'Putting the studio in order', userId, key: 'studio' });
