import { AppError } from '@/core/base/diagnostic';
import { hashContent } from '@/core/graph/canonical';
import {
  findMaterial,
  isNameTaken,
  namesBeginning,
  placeMaterial,
  saveRevision,
  setSwatch,
} from '@/db/queries/materials';
import { findModel } from '@/db/queries/models';
import type { SignedIn } from './authentication';
import { createMaterial } from './materials';
import { materialNotFound } from './not-found';
import { assertMember } from './projects';
import { findRevision } from './stored';

interface Arrangement {
  readonly name?: string;
  readonly projectId?: string;
  readonly isArchived?: boolean;
}

async function assertNameFree(projectId: string, name: string, but: string): Promise<void> {
  if (await isNameTaken(projectId, name, but))
    throw new AppError(
      'material.name-taken',
      `The project has a material “${name}” already.`,
      'Choose another name, or archive that one first.',
      { kept: 'Nothing was changed.', status: 409 },
    );
}

/** The newest document of a material the person may see. @throws AppError where there is none */
async function readNewest(user: SignedIn, id: string) {
  const material = await findMaterial(user.id, id);
  const revision = material && (await findRevision(id, material.head));
  if (!material || !revision) throw materialNotFound();
  return { material, document: revision.document };
}

/** A material goes only where its model can be read, too. */
async function assertModelReadable(
  user: SignedIn,
  modelId: string,
  projectId: string,
): Promise<void> {
  const model = await findModel(user.id, modelId);
  if (model && (model.projectId === null || model.projectId === projectId)) return;
  throw new AppError(
    'material.model-elsewhere',
    'Its model belongs to another project, where the members of this one cannot read it.',
    'Duplicate the model into that project, and choose the copy in the material first.',
    { kept: 'Nothing was changed.', status: 409 },
  );
}

/** A name for a copy that the project does not have yet, such as `Hull (copy 2)`. */
async function freeName(projectId: string, name: string): Promise<string> {
  const stem = name.replace(/ \(copy(?: \d+)?\)$/, '').slice(0, 180);
  const taken = new Set(await namesBeginning(projectId, `${stem} (copy`));
  for (let k = 1; ; k++) {
    const tried = `${stem} (copy${k === 1 ? '' : ` ${String(k)}`})`;
    if (!taken.has(tried)) return tried;
  }
}

/** A copy of the newest state under a name of its own, with the picture there is. */
export async function duplicateMaterial(
  user: SignedIn,
  id: string,
  { name: given, projectId }: { readonly name?: string; readonly projectId: string },
): Promise<{ id: string; name: string }> {
  const { material, document } = await readNewest(user, id);
  await assertMember(user, projectId, 'Nothing was copied.');
  await assertModelReadable(user, material.modelId, projectId);
  const name = given ?? (await freeName(projectId, document.name));
  await assertNameFree(projectId, name, '');
  const made = await createMaterial(user, {
    projectId,
    modelId: material.modelId,
    document: { ...document, name },
  });
  if (material.swatchHash !== null) await setSwatch(made.id, material.swatchHash);
  return { id: made.id, name };
}

/** Makes a revision that differs by its name; one saved meanwhile is told, not overwritten. */
async function rename(user: SignedIn, id: string, name: string): Promise<void> {
  const { material, document } = await readNewest(user, id);
  if (document.name === name) return;
  const renamed = { ...document, name };
  const outcome = await saveRevision({
    materialId: id,
    base: material.head,
    name,
    modelId: material.modelId,
    document: renamed,
    contentHash: await hashContent(renamed),
    authorId: user.id,
  });
  if (!outcome.saved)
    throw new AppError(
      'material.clash',
      'Somebody saved this material just now.',
      'Try again: the name is put on what they saved.',
      { kept: 'Their work is kept; the name is as it was.', status: 409 },
    );
}

/** Renames, moves, archives or restores a material; what is left out stays. */
export async function arrangeMaterial(
  user: SignedIn,
  id: string,
  { name, projectId, isArchived }: Arrangement,
): Promise<{ id: string }> {
  const { material } = await readNewest(user, id);
  if (projectId !== undefined) {
    await assertMember(user, projectId, 'Nothing was moved.');
    await assertModelReadable(user, material.modelId, projectId);
  }
  const target = projectId ?? material.projectId;
  if (isArchived !== true) await assertNameFree(target, name ?? material.name, id);
  if (name !== undefined) await rename(user, id, name);
  await placeMaterial(id, {
    ...(projectId === undefined ? {} : { projectId }),
    ...(isArchived === undefined ? {} : { isArchived }),
  });
  return { id };
}
