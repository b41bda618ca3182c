import { AppError, hasErrors } from '@/core/base/diagnostic';
import { findRevision } from './stored';
import { checkReferences } from '@/core/compile/check/check';
import { storeBlob } from '@/db/queries/blobs';
import { findMaterial, setSwatch } from '@/db/queries/materials';
import { findModel } from '@/db/queries/models';
import { prepareImages } from './images';
import { SWATCH } from './jobs/lanes';
import { tryToEnqueue } from './jobs/enqueue';
import { requestMaps } from './mesh-maps';
import { prepareModel, renderSwatch } from './render';

/** Asks for a new picture of a material. A picture is not worth failing a save for. */
export const requestSwatch = (materialId: string, name: string, userId: string): Promise<void> =>
  tryToEnqueue(SWATCH, { materialId }, { title: `Picture of ${name}`, userId, key: materialId });

/**
 * Draws a material's picture anew.
 * @throws AppError where the network has errors; the picture of before stays
 */
export async function drawSwatch(materialId: string, readerId: string): Promise<void> {
  const material = await findMaterial(readerId, materialId);
  const revision = material && (await findRevision(materialId, material.head));
  const model = material && (await findModel(readerId, material.modelId));
  if (!material || !revision || !model) return;
  const errors = checkReferences(revision.document);
  if (hasErrors(errors)) {
    const first = errors.find(({ severity }) => severity === 'error')?.message ?? '';
    throw new AppError(
      'swatch.broken',
      `The network has errors: ${first}`,
      'Correct it; the picture is drawn again after the next save.',
      { kept: 'The picture of before stays.' },
    );
  }
  const prepared = await prepareModel(model);
  await prepareImages(revision.document);
  const picture = renderSwatch(revision.document, prepared);
  await setSwatch(materialId, await storeBlob(picture, 'image/png'));
  await requestMaps(revision.document, model, prepared.analysis, readerId);
}
