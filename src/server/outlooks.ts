import { randomUUID } from 'node:crypto';
import { AppError } from '@/core/base/diagnostic';
import { encodeRgba } from '@/core/exchange/png';
import { MaterialPainter } from '@/core/evaluate/material-painter';
import type { Picture } from '@/core/evaluate/picture';
import { lookAhead } from '@/core/releases/outlook';
import type { PlacedRelease, ReleasedGroups } from '@/core/releases/release-groups';
import type { Candidate } from '@/contract/library';
import type { OutlookView } from '@/contract/shelf';
import { storeBlob } from '@/db/queries/blobs';
import { countUsers, listUsers } from '@/db/queries/entry-uses';
import { findMaterial } from '@/db/queries/materials';
import { findModel } from '@/db/queries/models';
import {
  findOutlook,
  insertOutlook,
  isWaiting,
  keepConsequence,
  listConsequences,
} from '@/db/queries/outlooks';
import type { Consequence } from '@/db/queries/outlooks';
import type { SignedIn } from './authentication';
import { prepareImages } from './images';
import type { JobContext } from './jobs/define-job';
import { enqueue } from './jobs/enqueue';
import { CONSEQUENCES } from './jobs/lanes';
import { readEntry, readRelease } from './library';
import { readCandidate, releasedGroups } from './publish';
import { prepareModel } from './render';
import { findRevision } from './stored';

/** Of a picture, pixels a side. */
const SIZE = 128;
/** Materials of one job: several workers share what is many, and nobody waits long for theirs. */
const BATCH = 4;

/** What is looked at: a release, or a group of a material that is not published yet. */
async function groupsOf(
  user: SignedIn,
  entryId: string,
  { version, candidate }: { version: string | null; candidate: Candidate | null },
): Promise<ReleasedGroups> {
  if (version !== null) {
    const release = await readRelease(user, entryId, version);
    if (release.fault === null) return release.groups;
    throw new AppError('release.unreadable', release.fault, 'Choose another release.', {
      status: 409,
    });
  }
  if (!candidate)
    throw new AppError('outlook.nothing', 'Nothing was named to look at.', '', { status: 400 });
  const { document, group } = await readCandidate(user.id, candidate);
  return releasedGroups(document, group, group);
}

/** Begins to look at what a change of an entry does to the materials that the person may see. */
export async function askConsequences(
  user: SignedIn,
  entryId: string,
  asked: { version: string | null; candidate: Candidate | null },
): Promise<{ id: string }> {
  const entry = await readEntry(user, entryId);
  const groups = await groupsOf(user, entryId, asked);
  const users = await listUsers(user.id, entryId);
  const ids = [...new Set(users.map(({ materialId }) => materialId))];
  const hidden = Math.max(0, (await countUsers(entryId)) - ids.length);
  const id = randomUUID();
  await insertOutlook(
    { id, entryId, version: asked.version, groups, userId: user.id, hidden },
    ids,
  );
  const title = `Consequences of ${entry.name} ${asked.version ?? 'as it is now'}`;
  for (let k = 0; k < ids.length; k += BATCH) {
    const materialIds = ids.slice(k, k + BATCH);
    await enqueue(CONSEQUENCES, { outlookId: id, materialIds }, { title, userId: user.id });
  }
  return { id };
}

/** What was found so far. @throws AppError (404) for somebody else's */
export async function readConsequences(user: SignedIn, id: string): Promise<OutlookView> {
  const outlook = await findOutlook(id);
  if (!outlook || outlook.userId !== user.id)
    throw new AppError('outlook.not-found', 'There is no such list of consequences.', '', {
      status: 404,
    });
  const { entryId, version, hidden } = outlook;
  return { id, entryId, version, hidden, materials: await listConsequences(id) };
}

/** Looks at the materials of one batch, those that are not looked at yet. */
export async function lookAtBatch(
  userId: string,
  { outlookId, materialIds }: { outlookId: string; materialIds: readonly string[] },
  report: JobContext['report'],
): Promise<void> {
  const outlook = await findOutlook(outlookId);
  if (!outlook) return;
  const { entryId, groups } = outlook;
  const placed = { entryId, version: outlook.version ?? '0.0.0', groups };
  for (const [k, materialId] of materialIds.entries()) {
    await report(k / materialIds.length, `${String(k + 1)} of ${String(materialIds.length)}`);
    if (!(await isWaiting(outlookId, materialId))) continue;
    await keepConsequence(outlookId, materialId, await lookAt(userId, materialId, placed));
  }
}

const failed = (reason: string): Consequence => ({ state: 'failed', reason });
const stored = ({ width, height, pixels }: Picture): Promise<string> =>
  storeBlob(encodeRgba(width, height, pixels), 'image/png');

/** What the release does to one material; what cannot be looked at says why. */
async function lookAt(
  userId: string,
  materialId: string,
  placed: PlacedRelease,
): Promise<Consequence> {
  const material = await findMaterial(userId, materialId);
  const revision = material && (await findRevision(materialId, material.head));
  const model = material && (await findModel(userId, material.modelId));
  if (!material || !revision || !model) return failed('It is not there any more.');
  try {
    await prepareImages(revision.document);
    const painter = new MaterialPainter(await prepareModel(model), SIZE);
    const seen = lookAhead(revision.document, placed, (document) => painter.paint(document));
    const [before, after] = seen.pictures;
    return {
      state: 'done',
      revision: revision.number,
      fromVersion: seen.from[0] ?? null,
      share: seen.difference.share,
      mean: seen.difference.mean,
      beforeHash: await stored(before),
      afterHash: await stored(after),
      changes: seen.changes.map(({ change, share }) => ({
        kind: change.kind,
        place: change.place.slice(0, 400),
        what: change.what.slice(0, 400),
        before: change.before.slice(0, 4000),
        after: change.after.slice(0, 4000),
        share,
      })),
      lost: seen.lost,
    };
  } catch (error) {
    if (error instanceof AppError) return failed(`It cannot be drawn: ${error.message}`);
    throw error;
  }
}
