import { AppError } from '@/core/base/diagnostic';
import type { ProofModel } from '@/core/evaluate/proof';
import { findModel } from '@/db/queries/models';
import { prepareModel } from './render';

/** The models every group is proved on, besides the material's own. */
const REFERENCE_MODELS = ['demo-study', 'demo-buoy'];
/** The model a group is drawn on where nothing else is said. */
export const SHOWN_ON = 'demo-study';

/**
 * One after the other: preparing a model keeps the thread busy, and a connection waiting meanwhile
 * could give up.
 */
export async function referenceModels(userId: string, own: string): Promise<ProofModel[]> {
  const prepared: ProofModel[] = [];
  for (const modelId of new Set([...REFERENCE_MODELS, own])) {
    const model = await findModel(userId, modelId);
    if (!model)
      throw new AppError(
        'proof.no-model',
        `The reference model ${modelId} is missing.`,
        'Start the application once more to restore the demo models.',
      );
    prepared.push({ name: model.name, ...(await prepareModel(model)) });
  }
  return prepared;
}
