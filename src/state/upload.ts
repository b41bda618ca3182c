import { uploadModel } from '../contract/models';
import { AppError } from '../core/base/diagnostic';
import { describeError } from '../core/base/problem';
import { MODEL_LIMITS } from '../core/exchange/model-soup';
import { unwrap } from '../workers/answer';
import { WorkerPool } from '../workers/pool';
import { call } from './api';

const KEPT = 'Nothing was changed.';

/** An error about a file, with the file's name in front. */
export function aboutFile(file: File, error: unknown): AppError {
  const { code, message, kept, action } = describeError(error);
  return new AppError(code, `${file.name}: ${message}`, action, {
    kept: kept || KEPT,
    cause: error,
  });
}

/** Reads a file in a worker of its own, to see whether it can be read. */
async function tryToRead(file: File): Promise<void> {
  const pool = new WorkerPool(2);
  try {
    await unwrap(pool.evaluator.readModel('upload', file, file.name));
  } finally {
    pool.close();
  }
}

/**
 * Reads a dropped file in a worker first, so that a broken one is refused with its reason before it
 * is sent.
 * @param read how it is read, where whoever asks goes on with what was read
 */
export async function uploadModelFile(
  file: File,
  projectId: string,
  read: (file: File) => Promise<void> = tryToRead,
): Promise<{ id: string; name: string }> {
  if (file.size > MODEL_LIMITS.bytes) {
    const megabytes = String(Math.ceil(file.size / 1048576));
    const message = `${file.name} has ${megabytes} MB; the limit is 100 MB.`;
    throw new AppError('model.too-large', message, 'Leave out textures or reduce the model.', {
      kept: KEPT,
    });
  }
  try {
    await read(file);
  } catch (error) {
    throw aboutFile(file, error);
  }
  const name = file.name.replace(/\.(glb|obj)$/i, '').slice(0, 120);
  return call(uploadModel, { query: { project: projectId, name }, file });
}
