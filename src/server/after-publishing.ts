import type { PublicationRequest } from '@/contract/library';
import { tryToEnqueue } from './jobs/enqueue';
import { SHEET } from './jobs/lanes';
import { reshelve } from './shelving';
import { keepPublished } from './states';

/**
 * What follows a release that is on its rack: it is found, its proof sheet is asked for, and the
 * material keeps the state it was published from.
 */
export async function afterPublishing(
  userId: string,
  request: PublicationRequest,
  made: { readonly entryId: string; readonly version: string; readonly isNew: boolean },
): Promise<void> {
  const { entryId, version, isNew } = made;
  const { materialId, revision } = request;
  const title = `${request.name} ${version}`;
  await reshelve(entryId);
  await tryToEnqueue(
    SHEET,
    { entryId, version, materialId, revision, groupId: request.groupId },
    { title: `Proof sheet of ${title}`, userId, key: `${entryId}/${version}` },
  );
  if (isNew) await keepPublished({ id: userId }, materialId, revision, title);
}
