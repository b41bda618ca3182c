import { randomUUID } from 'node:crypto';
import { AppError } from '@/core/base/diagnostic';
import { modelFormat } from '@/core/exchange/model-format';
import type { ModelPreparation } from '@/core/exchange/prepare';
import { hashContent } from '@/core/graph/canonical';
import type { Executor } from '@/db/client';
import { findBlob, storeBlob } from '@/db/queries/blobs';
import {
  findModel,
  insertModel,
  listModels as readModels,
  savePreparation,
} from '@/db/queries/models';
import type { StoredModel } from '@/db/queries/models';
import type { ModelEntry } from '@/contract/models';
import type { SignedIn } from './authentication';
import { assertMember } from './projects';
import { assertMayMend } from './rights';
import { assertRoom, bringInto } from './storage';

/** Equal for models of the same file corrected in the same way: the key of stored maps. */
export const modelKey = ({
  blobHash,
  preparation,
}: Pick<StoredModel, 'blobHash' | 'preparation'>): Promise<string> =>
  hashContent({ blobHash, preparation });

/** The models a person may see, archived ones too. */
export async function listModels(user: SignedIn): Promise<ModelEntry[]> {
  const rows = await readModels(user.id);
  return rows.map(({ archivedAt, formerBlobHash, ...row }) => ({
    ...row,
    isArchived: archivedAt !== null,
    hasFormer: formerBlobHash !== null,
  }));
}

/**
 * Takes a GLB or an OBJ into a project. Its head is checked here; it is parsed only in a worker of
 * the browser and in the worker process, never in the process that answers requests.
 * @param sentBytes as the request says it has; refused before it is read where there is no room
 */
export async function uploadModel(
  user: SignedIn,
  { project: projectId, name: given = '' }: { readonly project: string; readonly name?: string },
  readFile: () => Promise<Uint8Array<ArrayBuffer>>,
  sentBytes = 0,
): Promise<{ id: string; name: string }> {
  const name = given.trim().slice(0, 120) || 'Model';
  await assertMember(user, projectId, 'Nothing was stored.');
  await assertRoom(projectId, sentBytes, 'Nothing was stored.');
  const bytes = await readFile();
  const id = randomUUID();
  await bringInto(projectId, 'Nothing was stored.', async (tx) => {
    const blobHash = await storeModelFile(bytes, tx);
    await insertModel({ id, name, projectId, blobHash, ownerId: user.id }, tx);
  });
  return { id, name };
}

/** Stores a GLB or OBJ file. @returns its hash @throws AppError where it is neither */
export const storeModelFile = (bytes: Uint8Array<ArrayBuffer>, on?: Executor): Promise<string> =>
  storeBlob(bytes, modelFormat(bytes) === 'obj' ? 'model/obj' : 'model/gltf-binary', on);

/** A model the person may read; throws where there is none. */
export async function readableModel(user: SignedIn, id: string): Promise<StoredModel> {
  const model = await findModel(user.id, id);
  if (!model)
    throw new AppError(
      'model.not-found',
      'There is no such model, or it belongs to a project you are not in.',
      'Choose another model.',
      { status: 404 },
    );
  return model;
}

export async function modelFile(
  user: SignedIn,
  id: string,
): Promise<{ bytes: Uint8Array; mediaType: string; key: string; preparation: ModelPreparation }> {
  const model = await readableModel(user, id);
  const file = await findBlob(model.blobHash);
  if (!file)
    throw new AppError('model.no-file', 'The file of this model is missing.', 'Upload it again.', {
      status: 404,
    });
  return { ...file, key: await modelKey(model), preparation: model.preparation };
}

/**
 * Changes what is corrected in a model, for everyone who uses it. Two people at once: the second is
 * told, nothing is overwritten.
 */
export async function mendModel(
  user: SignedIn,
  id: string,
  { before, preparation }: { before: ModelPreparation; preparation: ModelPreparation },
): Promise<{ preparation: ModelPreparation }> {
  const model = await readableModel(user, id);
  assertMayMend(user, model.projectId);
  if (await savePreparation(id, before, preparation)) return { preparation };
  const now = await readableModel(user, id);
  throw new AppError(
    'model.clash',
    'Somebody else changed this model meanwhile.',
    'Reload it and try again.',
    { status: 409, kept: 'Nothing was changed.', details: now.preparation },
  );
}
