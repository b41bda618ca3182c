import { randomUUID } from 'node:crypto';
import { AppError } from '@/core/base/diagnostic';
import { modelFormat } from '@/core/exchange/model-format';
import { MODEL_LIMITS } from '@/core/exchange/model-soup';
import { findBlob, storeBlob } from '@/db/queries/blobs';
import { findModel, insertModel, listProjects } from '@/db/queries/materials';
import type { SignedIn } from './authentication';
import { readBytes } from './http';

/**
 * Takes a GLB or an OBJ into a project. Its head is checked here; it is parsed only in a worker of the browser and in the worker
 * process, never in the process that answers requests.
 */
export async function uploadModel(user: SignedIn, request: Request): Promise<{ id: string; name: string }> {
  const url = new URL(request.url);
  const projectId = url.searchParams.get('project') ?? '';
  const name = (url.searchParams.get('name') ?? '').trim().slice(0, 120) || 'Model';
  if (!(await listProjects(user.id)).some((project) => project.id === projectId)) throw new AppError('project.not-member', 'You are not a member of that project.', 'Nothing was kept.', { status: 403 });
  const bytes = await readBytes(request, MODEL_LIMITS.bytes);
  const mediaType = modelFormat(bytes) === 'obj' ? 'model/obj' : 'model/gltf-binary';
  const id = randomUUID();
  await insertModel({ id, name, projectId, blobHash: await storeBlob(bytes, mediaType), ownerId: user.id });
  return { id, name };
}

export async function modelFile(user: SignedIn, id: string): Promise<{ bytes: Uint8Array; mediaType: string; hash: string }> {
  const model = await findModel(user.id, id);
  const file = model && await findBlob(model.blobHash);
  if (!file) throw new AppError('model.not-found', 'There is no such model, or it belongs to a project you are not in.', 'Choose another model.', { status: 404 });
  return { ...file, hash: model.blobHash };
}
