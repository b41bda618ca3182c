import { replaceModelFile } from '../contract/models';
import type { ModelChanges } from '../core/evaluate/compare-models';
import { MODEL_LIMITS } from '../core/exchange/model-soup';
import { AppError } from '../core/base/diagnostic';
import { unwrap } from '../workers/answer';
import { WorkerPool } from '../workers/pool';
import { call, getModel } from './api';
import { aboutFile } from './upload';

/**
 * Reads a newer file of a model beside the present one and tells what changes, before anything is
 * replaced. Corrections that are made each time the model is read are made to both.
 * @throws AppError where the file cannot be read
 */
export async function compareWithFile(id: string, file: File): Promise<ModelChanges> {
  if (file.size > MODEL_LIMITS.bytes)
    throw new AppError(
      'model.too-large',
      `${file.name} is larger than 100 MB.`,
      'Leave out textures or reduce the model.',
      { kept: 'The model is as it was.' },
    );
  const pool = new WorkerPool(2);
  try {
    const { file: present, preparation } = await getModel(id);
    const worker = pool.background;
    await unwrap(worker.readModel('present', present, id, preparation));
    await unwrap(worker.readModel('newer', file, file.name, preparation));
    return await unwrap(worker.compareModels('present', 'newer'));
  } catch (error) {
    throw aboutFile(file, error);
  } finally {
    pool.close();
  }
}

/** Puts the file in the place of the model's, for everyone who uses it. @throws ApiFailure */
export const replaceWithFile = (id: string, file: File): Promise<{ readonly id: string }> =>
  call(replaceModelFile, { params: { id }, file });
