import { MODEL_LIMITS } from '../core/exchange/model-soup';
import { settled } from '../workers/answer';
import { WorkerPool } from '../workers/pool';
import { ApiFailure, sendBytes } from './api';

/** Reads a dropped file in a worker first, so that a broken one is refused with its reason before it is sent. */
export async function uploadModelFile(file: File, projectId: string): Promise<{ id: string; name: string }> {
  if (file.size > MODEL_LIMITS.bytes) throw new ApiFailure(413, 'model.too-large', `${file.name} has ${String(Math.ceil(file.size / 1048576))} MB; the limit is 100 MB.`, 'Nothing was changed. Leave out textures or reduce the model.', null);
  const pool = new WorkerPool(2);
  try {
    await settled(pool.evaluator.keepModel('upload', file, file.name));
  } catch (error) {
    const problem = error as { code?: string; message?: string; action?: string };
    throw new ApiFailure(400, problem.code ?? 'model.broken', `${file.name}: ${problem.message ?? 'it cannot be read'}`, problem.action ?? '', null);
  } finally {
    pool.close();
  }
  const name = file.name.replace(/\.(glb|obj)$/i, '');
  return sendBytes(`/api/models?project=${encodeURIComponent(projectId)}&name=${encodeURIComponent(name)}`, file);
}
