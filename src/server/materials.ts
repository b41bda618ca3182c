import { randomUUID } from 'node:crypto';
import { AppError } from '@/core/base/diagnostic';
import { hashContent } from '@/core/graph/canonical';
import { readStored } from '@/core/compile/upgrade';
import type { NetworkDocument } from '@/core/graph/document';
import { applyPatch } from '@/core/graph/patch';
import type { JsonPatch } from '@/core/graph/patch';
import { findMaterial, insertMaterial, saveRevision } from '@/db/queries/materials';
import type { searchMaterials } from '@/db/queries/material-search';
import { findModel } from '@/db/queries/models';
import type { MaterialSummary, OpenedMaterial } from '@/contract/materials';
import type { SignedIn } from './authentication';
import { materialNotFound } from './not-found';
import { assertMember } from './projects';
import { findRevision } from './stored';
import { requestSwatch } from './swatches';

type MaterialRow = Awaited<ReturnType<typeof searchMaterials>>[number];
/** A material as it stands in lists. */
export const toSummary = ({ archivedAt, updatedAt, ...row }: MaterialRow): MaterialSummary => ({
  ...row,
  updatedAt: updatedAt.toISOString(),
  isArchived: archivedAt !== null,
});

/** A material with a document, the newest revision unless another is named. */
export async function openMaterial(
  user: SignedIn,
  id: string,
  number?: number,
): Promise<OpenedMaterial> {
  const material = await findMaterial(user.id, id);
  if (!material) throw materialNotFound();
  const revision = await findRevision(id, number ?? material.head);
  if (!revision)
    throw new AppError(
      'revision.not-found',
      `Revision ${String(number)} of this material does not exist.`,
      '',
      { status: 404 },
    );
  const { name, projectId, modelId } = material;
  return {
    id,
    name,
    projectId,
    modelId,
    revision: revision.number,
    document: revision.document,
    authorName: revision.authorName,
    savedAt: revision.createdAt.toISOString(),
  };
}

export async function createMaterial(
  user: SignedIn,
  given: { projectId: string; modelId: string; document: NetworkDocument },
) {
  await assertMember(user, given.projectId, 'No material was created.');
  if (!(await findModel(user.id, given.modelId)))
    throw new AppError('model.not-found', 'There is no such model.', 'Choose another model.', {
      kept: 'Nothing was created.',
      status: 404,
    });
  const { document } = given;
  const id = randomUUID();
  await insertMaterial({
    id,
    projectId: given.projectId,
    ownerId: user.id,
    name: document.name,
    modelId: given.modelId,
    document,
    contentHash: await hashContent(document),
  });
  await requestSwatch(id, document.name, user.id);
  return { id, revision: 1 };
}

/**
 * Saves on top of `base`. When somebody saved meanwhile, nothing is overwritten: the other version
 * comes back.
 */
export async function saveMaterial(
  user: SignedIn,
  id: string,
  given: { base: number; modelId: string; document: NetworkDocument },
) {
  const material = await findMaterial(user.id, id);
  if (!material) throw materialNotFound();
  if (!(await findModel(user.id, given.modelId)))
    throw new AppError(
      'model.not-found',
      'The model of this material no longer exists.',
      'Choose another model.',
      { status: 404 },
    );
  const { document } = given;
  const outcome = await saveRevision({
    materialId: id,
    base: given.base,
    name: document.name,
    modelId: given.modelId,
    document,
    contentHash: await hashContent(document),
    authorId: user.id,
  });
  if (!outcome.saved) {
    const theirs = await openMaterial(user, id);
    throw new AppError(
      'material.clash',
      `${theirs.authorName} saved this material while you were working on it.`,
      'Choose which one to go on with.',
      { status: 409, kept: 'Both versions are kept.', details: theirs },
    );
  }
  if (outcome.isNew) await requestSwatch(id, document.name, user.id);
  return { revision: outcome.revision };
}

/**
 * Saves what a patch makes of the revision `base`. What comes of it is judged as a whole document
 * is.
 */
export async function patchMaterial(
  user: SignedIn,
  id: string,
  { base, modelId, patch }: { base: number; modelId: string; patch: JsonPatch },
) {
  if (!(await findMaterial(user.id, id))) throw materialNotFound();
  const revision = await findRevision(id, base);
  const { document, diagnostics } = revision
    ? readStored(applyPatch(revision.document, patch))
    : { document: null, diagnostics: [] };
  if (!document)
    throw new AppError(
      'patch.unfit',
      diagnostics[0]?.message ?? `Revision ${String(base)} of this material does not exist.`,
      'Send the whole document instead.',
      { kept: 'Nothing was saved.', status: 422 },
    );
  return saveMaterial(user, id, { base, modelId, document });
}
