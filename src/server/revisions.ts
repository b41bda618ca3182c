import { REVISION_PAGE } from '@/contract/revisions';
import type { Presence, RevisionView } from '@/contract/revisions';
import { findMaterial } from '@/db/queries/materials';
import * as rows from '@/db/queries/revisions';
import type { SignedIn } from './authentication';
import { materialNotFound } from './not-found';

/** So long somebody of whom nothing is heard counts as being there, seconds. */
export const PRESENT_SECONDS = 25;

/** A page of the revisions of a material, the newest first. */
export async function listRevisions(
  user: SignedIn,
  id: string,
  before: string | undefined,
): Promise<{ revisions: RevisionView[]; hasMore: boolean }> {
  if (!(await findMaterial(user.id, id))) throw materialNotFound();
  const found = await rows.listRevisions(id, before ? Number(before) : null, REVISION_PAGE + 1);
  return {
    revisions: found.slice(0, REVISION_PAGE).map(({ createdAt, ...each }) => ({
      ...each,
      savedAt: createdAt.toISOString(),
    })),
    hasMore: found.length > REVISION_PAGE,
  };
}

/** Notes that somebody has a material open, or leaves it, and tells who else is there. */
export async function notePresence(
  user: SignedIn,
  id: string,
  { revision, isLeaving }: { revision: number; isLeaving: boolean },
): Promise<{ others: Presence[]; head: number; headAuthor: string }> {
  const head = (await findMaterial(user.id, id)) && (await rows.findHead(id));
  if (!head) throw materialNotFound();
  if (isLeaving) await rows.dropPresence(id, user.id);
  else await rows.keepPresence(id, user.id, revision);
  return { others: await rows.listOthers(id, user.id, PRESENT_SECONDS), ...head };
}
