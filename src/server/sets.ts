import { randomUUID } from 'node:crypto';
import { MOST_SETS } from '@/contract/sets';
import { AppError } from '@/core/base/diagnostic';
import * as sets from '@/db/queries/sets';
import type { SignedIn } from './authentication';
import { assertMember } from './projects';

const nameTaken = (name: string): AppError =>
  new AppError(
    'set.name-taken',
    `The project has a set “${name}” already.`,
    'Choose another name.',
    { kept: 'Nothing was changed.', status: 409 },
  );

async function readSet(user: SignedIn, id: string) {
  const set = await sets.findSet(user.id, id);
  if (set) return set;
  throw new AppError(
    'set.not-found',
    'There is no such set, or it belongs to a project you are not in.',
    'Go back to the list of materials.',
    { status: 404 },
  );
}

/** Makes a set in a project. @throws AppError where its name is taken or there are too many */
export async function createSet(
  user: SignedIn,
  { projectId, name }: { readonly projectId: string; readonly name: string },
): Promise<{ id: string }> {
  await assertMember(user, projectId, 'No set was made.');
  if ((await sets.countSets(projectId)) >= MOST_SETS)
    throw new AppError(
      'set.too-many',
      `A project has at most ${String(MOST_SETS)} sets.`,
      'Take one apart first; its materials stay.',
      { kept: 'Nothing was changed.', status: 409 },
    );
  const id = randomUUID();
  if (!(await sets.insertSet({ id, projectId, name }))) throw nameTaken(name);
  return { id };
}

/** Renames a set, or takes it apart; its materials stay. */
export async function arrangeSet(
  user: SignedIn,
  id: string,
  { name, isRemoved }: { readonly name?: string; readonly isRemoved?: boolean },
): Promise<{ id: string }> {
  await readSet(user, id);
  if (isRemoved) await sets.removeSet(id);
  else if (name !== undefined && !(await sets.renameSet(id, name))) throw nameTaken(name);
  return { id };
}

/** Puts materials into a set and takes others out. */
export async function fillSet(
  user: SignedIn,
  id: string,
  { add, remove }: { readonly add: readonly string[]; readonly remove: readonly string[] },
): Promise<{ id: string }> {
  const set = await readSet(user, id);
  await sets.fillSet(set, add, remove);
  return { id };
}
