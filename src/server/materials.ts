import { randomUUID } from 'node:crypto';
import { AppError, hasErrors } from '@/core/base/diagnostic';
import { hashContent } from '@/core/graph/canonical';
import { parseDocument } from '@/core/graph/schema';
import type { NetworkDocument } from '@/core/graph/document';
import { findMaterial, findRevision, insertMaterial, listProjects, saveRevision } from '@/db/queries/materials';
import { findModel } from '@/db/queries/models';
import type { SignedIn } from './authentication';
import { DetailedError } from './http';
import { requestSwatch } from './jobs';

const notFound = (): AppError => new AppError('material.not-found', 'There is no such material, or it belongs to a project you are not in.', 'Go back to the list of materials.', { status: 404 });

/** A material with a document, the newest revision unless another is named. */
export async function openMaterial(user: SignedIn, id: string, number?: number) {
  const material = await findMaterial(user.id, id);
  if (!material) throw notFound();
  const revision = await findRevision(id, number ?? material.head);
  if (!revision) throw new AppError('revision.not-found', `Revision ${String(number)} of this material does not exist.`, '', { status: 404 });
  return { ...material, revision: revision.number, document: revision.document, authorName: revision.authorName, savedAt: revision.createdAt.toISOString() };
}

/** The document if its shape is right. Networks with errors are saved too: work in progress is never refused. */
function acceptDocument(raw: unknown): NetworkDocument {
  const parsed = parseDocument(raw);
  if (!parsed.document || hasErrors(parsed.diagnostics)) {
    const first = parsed.diagnostics[0];
    throw new DetailedError('document.invalid', `The material cannot be saved: ${first ? `${first.pointer} ${first.message}` : 'its form is wrong'}.`, 'What was saved before is kept.', 422, parsed.diagnostics);
  }
  return parsed.document;
}

export async function createMaterial(user: SignedIn, given: { projectId: string; modelId: string; document: unknown }) {
  const projects = await listProjects(user.id);
  if (!projects.some((project) => project.id === given.projectId)) throw new AppError('project.not-member', 'You are not a member of that project.', 'Nothing was made.', { status: 403 });
  if (!(await findModel(user.id, given.modelId))) throw new AppError('model.not-found', 'There is no such model.', 'Nothing was made. Choose another model.', { status: 404 });
  const document = acceptDocument(given.document);
  const id = randomUUID();
  await insertMaterial({ id, projectId: given.projectId, ownerId: user.id, name: document.name, modelId: given.modelId, document, contentHash: await hashContent(document) });
  await requestSwatch(id);
  return { id, revision: 1 };
}

/** Saves on top of `base`. When somebody saved meanwhile, nothing is overwritten: the other version comes back. */
export async function saveMaterial(user: SignedIn, id: string, given: { base: number; modelId: string; document: unknown }) {
  const material = await findMaterial(user.id, id);
  if (!material) throw notFound();
  if (!(await findModel(user.id, given.modelId))) throw new AppError('model.not-found', 'The model of this material is not there any more.', 'Choose another model.', { status: 404 });
  const document = acceptDocument(given.document);
  const outcome = await saveRevision({
    materialId: id, base: given.base, name: document.name, modelId: given.modelId, document, contentHash: await hashContent(document), authorId: user.id,
  });
  if (!outcome.saved) {
    const theirs = await openMaterial(user, id);
    throw new DetailedError('material.clash', `${theirs.authorName} saved this material while you were working on it.`, 'Both versions are kept. Choose which one to go on with.', 409, theirs);
  }
  await requestSwatch(id);
  return { revision: outcome.revision };
}
