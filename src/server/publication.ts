import { AppError } from '@/core/base/diagnostic';
import type { PublicationRequest } from '@/contract/library';
import { findEntryByName, findNewest } from '@/db/queries/library';
import { findMaterial, listProjects } from '@/db/queries/materials';
import type { SignedIn } from './authentication';
import { enqueue } from './jobs/enqueue';
import { PUBLICATION } from './jobs/lanes';
import { readEntry } from './library';
import { assertMayPublish } from './rights';
import { assertName, readRules } from './rules';

const UNPUBLISHED = 'Nothing was published.';

/** Somebody else published since the author looked. */
export const overtaken = (name: string, newest: string): AppError =>
  new AppError(
    'release.overtaken',
    `Somebody else published “${name}” ${newest} meanwhile.`,
    'Look at what changed there, take it into your group where you want it, and publish again.',
    { kept: `${UNPUBLISHED} Your group is as it was.`, status: 409 },
  );

/** A rack holds no two entries of one name. */
export const nameTaken = (name: string, kept = UNPUBLISHED): AppError =>
  new AppError(
    'entry.name-taken',
    `This rack has a group “${name}” already.`,
    'Publish it as the next release of that one, or choose another name.',
    { kept, status: 409 },
  );

/** An entry's name is free on a rack. @throws AppError (409) where it is not */
export async function assertEntryNameFree(
  rack: string,
  name: string,
  but = '',
  kept = UNPUBLISHED,
): Promise<void> {
  const known = await findEntryByName(rack, name);
  if (known && known.id !== but) throw nameTaken(name, kept);
}

/** Checks rights and name, then hands the request to the workers, who measure and publish. */
export async function startPublication(
  user: SignedIn,
  request: PublicationRequest,
): Promise<{ id: string }> {
  const projects = (await listProjects(user.id)).map((project) => project.id);
  assertMayPublish(user, request.rack, projects, await readRules());
  if (!(await findMaterial(user.id, request.materialId)))
    throw new AppError(
      'material.not-found',
      'The material of this group does not exist, or is not yours to publish from.',
      '',
      { kept: UNPUBLISHED, status: 404 },
    );
  const { next } = request;
  if (next) {
    const entry = await readEntry(user, next.entryId);
    assertMayPublish(user, entry.rack, projects, await readRules());
    const newest = await findNewest(next.entryId);
    if (newest && newest.version !== next.base) throw overtaken(entry.name, newest.version);
    const title = `The next release of ${entry.name}`;
    const known = { ...request, rack: entry.rack };
    return { id: await enqueue(PUBLICATION, known, { title, userId: user.id }) };
  }
  await assertName(request.rack, request.name, UNPUBLISHED);
  await assertEntryNameFree(request.rack, request.name);
  const title = `Publishing ${request.name}`;
  return { id: await enqueue(PUBLICATION, request, { title, userId: user.id }) };
}
