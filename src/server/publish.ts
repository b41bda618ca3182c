import { own } from '@/core/base/own';
import { randomUUID } from 'node:crypto';
import { AppError } from '@/core/base/diagnostic';
import { checkCompiled } from '@/core/compile/compile';
import { neededGroups } from '@/core/edit/board';
import { proveGroup } from '@/core/evaluate/proof';
import type { Proof } from '@/core/evaluate/proof';
import { hashContent } from '@/core/graph/canonical';
import { DOCUMENT_VERSION } from '@/core/graph/document';
import type { GroupDefinition, NetworkDocument } from '@/core/graph/document';
import type { PublicationRequest } from '@/contract/library';
import { isAlreadyThere } from '@/db/client';
import { storeBlob } from '@/db/queries/blobs';
import { findEntryByName, insertRelease } from '@/db/queries/library';
import { findMaterial } from '@/db/queries/materials';
import { prepareImages } from './images';
import type { JobContext } from './jobs/define-job';
import { tryToEnqueue } from './jobs/enqueue';
import { SHEET } from './jobs/lanes';
import { findRevision, listReleases } from './stored';
import { referenceModels } from './reference-models';
import { renderSwatch, showcase } from './render';

const UNPUBLISHED = 'Nothing was published.';
type Report = JobContext['report'];

/** What came of a publication that was granted. */
interface Published extends Readonly<Record<string, unknown>> {
  readonly entryId: string;
  readonly proof: Proof;
}

/**
 * Proof from the stored source revision, picture, release. Doing it twice changes nothing.
 * @throws AppError with the reason where it is refused
 */
export async function publish(
  userId: string,
  request: PublicationRequest,
  report: Report = () => Promise.resolve(),
): Promise<Published> {
  await report(0.05, 'Reading the saved material');
  const { material, document, group } = await readCandidate(userId, request);
  const published = await findPublished(request);
  const groups = releasedGroups(document, group, request);
  const contentHash = await hashContent(groups);
  if (published?.contentHash === contentHash) {
    return { entryId: published.entryId, proof: published.proof };
  }
  const source = await readSource(userId, group);
  await report(0.15, 'Preparing the reference models');
  const models = await referenceModels(userId, material.modelId);
  await prepareImages(source.document, document);
  await report(0.4, 'Repeating the proof');
  const proof = proveGroup(source.document, document, request.groupId, models);
  if (!proof.identical) throw different(proof);
  await report(0.8, 'Drawing its picture');
  const [study] = models;
  if (!study) throw new AppError('proof.no-model', 'There is no reference model.');
  const picture = renderSwatch(showcase(group.id, groups.definitions), study);
  const swatchHash = await storeBlob(picture, 'image/png');
  await report(0.95, 'Putting it on the rack');
  const entryId = (await findEntryByName(request.rack, request.name))?.id ?? randomUUID();
  const { rack, name, description, tags, version } = request;
  await release(
    { id: entryId, rack, name, description, tags, authorId: userId },
    {
      entryId,
      version,
      groups,
      documentVersion: DOCUMENT_VERSION,
      contentHash,
      sourceMaterialId: source.origin.materialId,
      sourceRevision: source.origin.revision,
      proof,
      swatchHash,
      authorId: userId,
    },
  );
  await tryToEnqueue(
    SHEET,
    { entryId, version, ...pick(request) },
    { title: `Proof sheet of ${name} ${version}`, userId, key: `${entryId}/${version}` },
  );
  return { entryId, proof };
}

/** Where the group stands that was published. */
const pick = ({ materialId, revision, groupId }: PublicationRequest) => ({
  materialId,
  revision,
  groupId,
});

/** The group in the saved material, free of errors. */
async function readCandidate(
  userId: string,
  { materialId, revision, groupId }: PublicationRequest,
) {
  const [material, found] = await Promise.all([
    findMaterial(userId, materialId),
    findRevision(materialId, revision),
  ]);
  const document = found?.document;
  const group = own(document?.groups, groupId);
  if (!material || !document || !group) {
    throw new AppError(
      'publish.missing',
      'The group is not in the saved material.',
      'Save the material and publish again.',
      { kept: UNPUBLISHED },
    );
  }
  const errors = checkCompiled(document).filter(({ severity }) => severity === 'error');
  const [first] = errors;
  if (first) {
    throw new AppError(
      'publish.broken',
      `The material has errors: ${first.message}`,
      'Correct them and publish again.',
      { kept: UNPUBLISHED },
    );
  }
  return { material, document, group };
}

/**
 * The network it was packaged from. Which it is comes from the browser: it must be something the
 * person may read.
 */
async function readSource(userId: string, { origin }: GroupDefinition) {
  if (!origin) {
    throw new AppError(
      'proof.no-origin',
      'This group was not packaged from a saved network, so it cannot be proved.',
      'Package it from a selection on a material’s board.',
      { kept: UNPUBLISHED },
    );
  }
  const [material, source] = await Promise.all([
    findMaterial(userId, origin.materialId),
    findRevision(origin.materialId, origin.revision),
  ]);
  if (!material || !source) {
    throw new AppError(
      'proof.no-source',
      'The network this group was packaged from is not there any more.',
      'Package it again.',
      { kept: UNPUBLISHED },
    );
  }
  return { document: source.document, origin };
}

/** The group under its published name, with the groups it uses. */
function releasedGroups(
  document: NetworkDocument,
  group: GroupDefinition,
  { name, description }: PublicationRequest,
) {
  const definitions: Record<string, GroupDefinition> = {
    ...neededGroups(document, group.network),
    [group.id]: { ...group, name, description },
  };
  return { root: group.id, definitions };
}

/** The release of that version, where an earlier try got so far. */
async function findPublished({ rack, name, version }: PublicationRequest) {
  const entry = await findEntryByName(rack, name);
  if (!entry) return undefined;
  const found = (await listReleases(entry.id)).find((each) => each.version === version);
  return found && { entryId: entry.id, contentHash: found.contentHash, proof: found.proof };
}

async function release(...given: Parameters<typeof insertRelease>): Promise<void> {
  try {
    await insertRelease(...given);
  } catch (error) {
    if (!isAlreadyThere(error)) throw error;
    throw new AppError(
      'release.version',
      'This version was published by somebody else meanwhile.',
      'Choose a higher one.',
      { kept: UNPUBLISHED, cause: error },
    );
  }
}

const different = (proof: Proof): AppError =>
  new AppError('proof.different', refusal(proof), 'Correct the group, or package it again.', {
    kept: UNPUBLISHED,
    details: { proof },
  });

function refusal({ difference, changes }: Proof): string {
  const [first] = changes;
  const where = difference
    ? ` by up to ${difference.largest.toPrecision(3)} in “${difference.output}” on ` +
      difference.model
    : '';
  const cause = first
    ? ` The change that accounts for most: ${first.node} ${first.what}, ${first.before} → ` +
      `${first.after}.`
    : '';
  return (
    'The group at home does not look like the network it came from; it ' +
    `differs${where}.${cause}`
  );
}
