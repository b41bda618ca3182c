import type { Removal } from '@/contract/storage';
import { AppError } from '@/core/base/diagnostic';
import { isStillUsed } from '@/db/client';
import { NOT_ARCHIVED, findUses, holdsThing, removeThing } from '@/db/queries/removal';
import type { Use } from '@/db/queries/removal';
import { noteDeed } from '@/db/queries/staff';
import type { SignedIn } from './authentication';
import { listProjects } from './projects';
import { personRack } from './rights';
import { holderOf } from './storage';

const KEPT = 'Nothing was removed.';
/** Uses that are told; the rest is counted. */
const TOLD = 3;

const gone = (): AppError =>
  new AppError('storage.gone', 'This project holds no such thing any more.', 'Reload the page.', {
    kept: KEPT,
    status: 404,
  });

/** Why a thing stays: what the person may know of by name, the rest as a count. */
function inUse(uses: readonly Use[], holders: readonly string[]): AppError {
  const known = uses.filter(({ holder }) => holder === null || holders.includes(holder));
  const told = known.slice(0, TOLD).map(({ words }) => words);
  const more = uses.length - told.length;
  if (more > 0) told.push(`${String(more)} more ${more === 1 ? 'use' : 'uses'} of it`);
  return new AppError(
    'storage.in-use',
    `It cannot be removed: ${told.join('; ')}.`,
    uses.some(({ words }) => words === NOT_ARCHIVED)
      ? 'Archive it first.'
      : 'Take it out of there first.',
    { kept: KEPT, status: 409 },
  );
}

/**
 * Removes a model, an image or an archived material that nothing uses, for ever. Members do so in
 * their projects; what belongs to none is a librarian's.
 * @throws AppError where it is in use (409), or not there (404)
 */
export async function removeHolding(
  user: SignedIn,
  id: string,
  thing: Removal,
): Promise<{ name: string }> {
  const projectId = await holderOf(user, id);
  if (!(await holdsThing(projectId, thing))) throw gone();
  const uses = await findUses(thing);
  const holders = [personRack(user.id), ...(await listProjects(user)).map((each) => each.id)];
  if (uses.length > 0) throw inUse(uses, holders);
  try {
    const name = await removeThing(projectId, thing);
    if (name === null) throw gone();
    await noteDeed(user.name, 'removed for ever', `the ${thing.kind} ${name}`);
    return { name };
  } catch (error) {
    // Somebody began to use it in this very moment.
    if (isStillUsed(error)) throw inUse(await findUses(thing), holders);
    throw error;
  }
}
