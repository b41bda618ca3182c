import { randomUUID } from 'node:crypto';
import { AppError } from '@/core/base/diagnostic';
import {
  arrangeModel as placeModel,
  insertModel,
  isUsedOutside,
  replaceModelFile as putFile,
  swapModelFile,
} from '@/db/queries/models';
import type { SignedIn } from './authentication';
import { assertMember } from './projects';
import { readableModel, storeModelFile } from './models';
import { assertMayMend } from './rights';
import { bringInto } from './storage';

interface Arrangement {
  readonly name?: string;
  readonly projectId?: string;
  readonly isArchived?: boolean;
}

/** Renames, moves, archives or restores a model; what is left out stays. */
export async function arrangeModel(
  user: SignedIn,
  id: string,
  arrangement: Arrangement,
): Promise<{ id: string }> {
  const model = await readableModel(user, id);
  assertMayMend(user, model.projectId);
  const { projectId } = arrangement;
  if (projectId !== undefined) {
    await assertMember(user, projectId, 'Nothing was moved.');
    if (await isUsedOutside(id, projectId))
      throw new AppError(
        'model.in-use',
        'Materials of other projects use this model; they could not be opened any more.',
        'Duplicate the model into that project instead.',
        { kept: 'Nothing was moved.', status: 409 },
      );
  }
  if (projectId === undefined || projectId === model.projectId) await placeModel(id, arrangement);
  else
    await bringInto(projectId, 'The model is where it was.', (tx) =>
      placeModel(id, arrangement, tx),
    );
  return { id };
}

/** A model of the same file under a name of its own. */
export async function duplicateModel(
  user: SignedIn,
  id: string,
  { name, projectId }: { readonly name: string; readonly projectId: string },
): Promise<{ id: string }> {
  const { blobHash, preparation } = await readableModel(user, id);
  await assertMember(user, projectId, 'Nothing was copied.');
  const made = randomUUID();
  await bringInto(projectId, 'Nothing was copied.', (tx) =>
    insertModel({ id: made, name, projectId, blobHash, preparation, ownerId: user.id }, tx),
  );
  return { id: made };
}

/** Takes a newer file of a model; the one before stays stored. */
export async function replaceModelFile(
  user: SignedIn,
  id: string,
  readFile: () => Promise<Uint8Array<ArrayBuffer>>,
): Promise<{ id: string }> {
  const model = await readableModel(user, id);
  assertMayMend(user, model.projectId);
  const bytes = await readFile();
  if (model.projectId === null) await putFile(id, await storeModelFile(bytes));
  else
    await bringInto(model.projectId, 'The model has its file of before.', async (tx) => {
      await putFile(id, await storeModelFile(bytes, tx), tx);
    });
  return { id };
}

/** Puts the file of before back. @throws AppError where there is none */
export async function restoreModelFile(user: SignedIn, id: string): Promise<{ id: string }> {
  const model = await readableModel(user, id);
  assertMayMend(user, model.projectId);
  if (await swapModelFile(id)) return { id };
  throw new AppError(
    'model.no-former',
    'This model never had another file.',
    'Replace its file first.',
    { kept: 'Nothing was changed.', status: 409 },
  );
}
