import { prepareImages } from './images';
import { randomUUID } from 'node:crypto';
import { AppError, hasErrors, messageOf } from '@/core/base/diagnostic';
import { checkReferences } from '@/core/compile/check';
import { neededGroups } from '@/core/edit/board';
import { proveGroup } from '@/core/evaluate/proof';
import type { Proof, ProofModel } from '@/core/evaluate/proof';
import { hashContent } from '@/core/graph/canonical';
import type { GroupDefinition } from '@/core/graph/document';
import { storeBlob } from '@/db/queries/blobs';
import { findEntryByName, findPublication, finishPublication, insertRelease } from '@/db/queries/library';
import { findMaterial, findRevision, setSwatch } from '@/db/queries/materials';
import { findModel } from '@/db/queries/models';
import { requestMaps } from './mesh-maps';
import { prepareModel, renderSwatch, showcase } from './render';

/** The models every group is proved on, besides the material's own. */
const REFERENCE_MODELS = ['demo-study', 'demo-buoy'];

/** Works a request off: proof from the stored source revision, picture, release. Doing it twice changes nothing. */
export async function runPublication(id: string): Promise<void> {
  const found = await findPublication(id);
  if (found?.state !== 'waiting') return;
  try {
    const { entryId, proof, message } = await publish(found.userId, found.request);
    await finishPublication(id, proof.identical ? 'published' : 'refused', message, proof, entryId);
  } catch (error) {
    if (!(error instanceof AppError) && (error as { code?: string }).code !== '23505') throw error;
    const message = error instanceof AppError ? `${error.message} ${error.action}` : 'This version was published by somebody else meanwhile. Choose a higher one.';
    await finishPublication(id, 'refused', message, null, null);
  }
}

type Request = NonNullable<Awaited<ReturnType<typeof findPublication>>>['request'];

async function publish(userId: string, request: Request): Promise<{ entryId: string | null; proof: Proof; message: string }> {
  const [material, revision] = await Promise.all([findMaterial(userId, request.materialId), findRevision(request.materialId, request.revision)]);
  const group = revision?.document.groups[request.groupId];
  if (!material || !revision || !group) throw new AppError('publish.missing', 'The group is not in the saved material.', 'Save the material and publish again.');
  const errors = checkReferences(revision.document);
  if (hasErrors(errors)) throw new AppError('publish.broken', `The material has errors: ${errors[0]?.message ?? ''}`, 'Mend them and publish again.');
  if (!group.origin) throw new AppError('proof.no-origin', 'This group was not packaged from a saved network, so it cannot be proved.', 'Package it from a selection on a material’s board.');
  // The origin comes from the browser: it must name something this user may read.
  const [sourceMaterial, source] = await Promise.all([findMaterial(userId, group.origin.materialId), findRevision(group.origin.materialId, group.origin.revision)]);
  if (!sourceMaterial || !source) throw new AppError('proof.no-source', 'The network this group was packaged from is not there any more.', 'Package it again.');
  const models = await referenceModels(userId, material.modelId);
  await prepareImages(source.document, revision.document);
  const proof = proveGroup(source.document, revision.document, request.groupId, models);
  if (!proof.identical) return { entryId: null, proof, message: refusal(proof) };
  const definitions: Record<string, GroupDefinition> = { ...neededGroups(revision.document, group.network), [group.id]: { ...group, name: request.name, description: request.description } };
  const [study] = models;
  if (!study) throw new AppError('proof.no-model', 'There is no reference model.', '');
  const swatchHash = await storeBlob(renderSwatch(showcase(group.id, definitions), study), 'image/png');
  const entryId = (await findEntryByName(request.rack, request.name))?.id ?? randomUUID();
  const groups = { root: group.id, definitions };
  await insertRelease({ id: entryId, rack: request.rack, name: request.name, description: request.description, tags: request.tags, authorId: userId }, {
    entryId, version: request.version, groups, contentHash: await hashContent(groups), sourceMaterialId: group.origin.materialId,
    sourceRevision: group.origin.revision, proof, swatchHash, authorId: userId,
  });
  return { entryId, proof, message: '' };
}

/** One after the other: preparing a model keeps the thread busy, and a connection waiting meanwhile could give up. */
async function referenceModels(userId: string, own: string): Promise<ProofModel[]> {
  const prepared: ProofModel[] = [];
  for (const modelId of new Set([...REFERENCE_MODELS, own])) {
    const model = await findModel(userId, modelId);
    if (!model) throw new AppError('proof.no-model', `The reference model ${modelId} is missing.`, 'Start the application once more to restore the demo models.');
    prepared.push({ name: model.name, ...(await prepareModel(model)) });
  }
  return prepared;
}

function refusal({ difference, changes }: Proof): string {
  const [first] = changes;
  const where = difference ? ` by up to ${difference.largest.toPrecision(3)} in “${difference.output}” on ${difference.model}` : '';
  const cause = first ? ` The change that accounts for most: ${first.node} ${first.what}, ${first.before} → ${first.after}.` : '';
  return `The group at home does not look like the network it came from; it differs${where}.${cause} Nothing was published.`;
}

/** Draws a material's picture anew. A network with errors keeps its old one. */
export async function runSwatch(materialId: string, readerId: string): Promise<void> {
  const material = await findMaterial(readerId, materialId);
  const revision = material && await findRevision(materialId, material.head);
  const model = material && await findModel(readerId, material.modelId);
  if (!material || !revision || !model) return;
  if (hasErrors(checkReferences(revision.document))) return;
  try {
    const prepared = await prepareModel(model);
    await prepareImages(revision.document);
    const png = renderSwatch(revision.document, prepared);
    await setSwatch(materialId, await storeBlob(png, 'image/png'));
    await requestMaps(revision.document, model, prepared.analysis);
  } catch (error) {
    console.error(`No picture of ${materialId}:`, messageOf(error));
  }
}
