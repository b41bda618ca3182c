import { own } from '@/core/base/own';
import { randomUUID } from 'node:crypto';
import { AppError } from '@/core/base/diagnostic';
import { checkCompiled } from '@/core/compile/compile';
import { neededGroups } from '@/core/edit/board';
import { proveGroup } from '@/core/evaluate/proof';
import type { Proof, ProofModel } from '@/core/evaluate/proof';
import { hashContent } from '@/core/graph/canonical';
import { DOCUMENT_VERSION } from '@/core/graph/document';
import type { GroupDefinition, NetworkDocument } from '@/core/graph/document';
import { changesSince, proposeNotes } from '@/core/releases/change-notes';
import { compareReleases } from '@/core/releases/release-class';
import type { ReleaseComparison } from '@/core/releases/release-class';
import type { ReleasedGroups } from '@/core/releases/release-groups';
import { showcase } from '@/core/releases/showcase';
import { nextVersion } from '@/core/releases/versions';
import type { ReleaseClass } from '@/core/releases/versions';
import type { PublicationRequest } from '@/contract/library';
import { ROLES } from '@/contract/route';
import { isAlreadyThere } from '@/db/client';
import type { ReleaseState } from '@/db/schema/library';
import { storeBlob } from '@/db/queries/blobs';
import { findEntryByName, findNewest, insertRelease, listReleases } from '@/db/queries/library';
import { findMaterial } from '@/db/queries/materials';
import { findPerson } from '@/db/queries/people';
import { afterPublishing } from './after-publishing';
import { prepareImages } from './images';
import type { JobContext } from './jobs/define-job';
import { findRelease, findRevision } from './stored';
import { nameTaken, overtaken } from './publication';
import { referenceModels } from './reference-models';
import { renderSwatch } from './render';
import { needsReview } from './rights';

const UNPUBLISHED = 'Nothing was published.';
type Report = JobContext['report'];

/** What came of a publication that was granted. */
interface Published extends Readonly<Record<string, unknown>> {
  readonly entryId: string;
  readonly rack: string;
  readonly version: string;
  readonly state: ReleaseState;
  readonly releaseClass: ReleaseClass;
  /** Whether there was anything new; else this is the release that has the same content. */
  readonly isNew: boolean;
  readonly proof: Proof | null;
  readonly comparison: ReleaseComparison | null;
}

/** How a release was measured: against its source, or against the release before it. */
interface Measured {
  readonly proof: Proof | null;
  readonly comparison: ReleaseComparison | null;
  readonly notes: string;
}

/**
 * Measures a group, draws its picture, and puts it on its rack. The first release is proved against
 * the network it came from; each later one is compared with the one before, which gives its class
 * and thereby its version. Doing it twice changes nothing.
 * @throws AppError with the reason where it is refused
 */
export async function publish(
  userId: string,
  request: PublicationRequest,
  report: Report = () => Promise.resolve(),
): Promise<Published> {
  await report(0.05, 'Reading the saved material');
  const person = await findPerson(userId);
  const { material, document, group } = await readCandidate(userId, request);
  const groups = releasedGroups(document, group, request);
  const contentHash = await hashContent(groups);
  const entryId = request.next?.entryId ?? (await entryOf(request, contentHash));
  await report(0.15, 'Preparing the reference models');
  const models = await referenceModels(userId, material.modelId);
  await prepareImages(document);
  const measured = request.next
    ? await compareWithNewest(request.next.entryId, { document, group, groups, models }, report)
    : await prove(userId, { document, group, models }, report);
  await report(0.8, 'Drawing its picture');
  const [study] = models;
  if (!study) throw new AppError('proof.no-model', 'There is no reference model.');
  const picture = renderSwatch(showcase(groups), study);
  const swatchHash = await storeBlob(picture, 'image/png');
  await report(0.95, 'Putting it on the rack');
  const releaseClass = measured.comparison?.releaseClass ?? 'first';
  const role = ROLES.find((each) => each === person?.role) ?? 'artist';
  const state = request.next && needsReview(role, request.rack) ? 'proposed' : 'out';
  const { rack, name, description, tags, next } = request;
  const made = await release(
    { id: entryId, rack, name, description, tags, authorId: userId },
    {
      entryId,
      groups,
      documentVersion: DOCUMENT_VERSION,
      contentHash,
      sourceMaterialId: request.materialId,
      sourceRevision: request.revision,
      proof: measured.proof,
      comparison: measured.comparison,
      releaseClass,
      baseVersion: next?.base ?? null,
      notes: request.notes.trim() || measured.notes,
      state,
      swatchHash,
      authorId: userId,
    },
    ({ newest, versions }) => {
      if (next && newest && newest.version !== next.base) throw overtaken(name, newest.version);
      if (!next && newest) throw nameTaken(name);
      return nextVersion(next?.base ?? null, releaseClass, versions);
    },
  );
  await afterPublishing(userId, request, { entryId, ...made });
  return { entryId, rack, ...made, state, releaseClass, ...measured };
}

/** The id of a new entry, or that of one which an earlier try of the same has made. */
async function entryOf({ rack, name }: PublicationRequest, contentHash: string): Promise<string> {
  const known = await findEntryByName(rack, name);
  if (!known) return randomUUID();
  const [only] = await listReleases(known.id);
  if (only?.contentHash !== contentHash) throw nameTaken(name);
  return known.id;
}

interface Candidate {
  readonly document: NetworkDocument;
  readonly group: GroupDefinition;
  readonly models: readonly ProofModel[];
}

/** The proof of a first release. @throws AppError where it does not look like its source */
async function prove(
  userId: string,
  { document, group, models }: Candidate,
  report: Report,
): Promise<Measured> {
  // One that was built from inside is proved against its own inside.
  const source = group.origin ? await readSource(userId, group.origin) : document;
  await prepareImages(source);
  await report(0.4, 'Repeating the proof');
  const proof = proveGroup(source, document, group.id, models);
  if (!proof.identical) throw different(proof);
  return { proof, comparison: null, notes: '' };
}

/** How a later release stands to the newest one that is out. */
async function compareWithNewest(
  entryId: string,
  { document, group, groups, models }: Candidate & { readonly groups: ReleasedGroups },
  report: Report,
): Promise<Measured> {
  const newest = await findNewest(entryId);
  const before = newest && (await findRelease(entryId, newest.version));
  if (!before || before.fault !== null)
    throw new AppError(
      'release.no-base',
      before?.fault ?? 'The entry has no release to compare this one with.',
      'Publish it as an entry of its own.',
      { kept: UNPUBLISHED },
    );
  await report(0.4, `Comparing it with ${before.version}`);
  const comparison = compareReleases(before.groups, groups, models);
  const placed = { entryId, version: before.version, groups: before.groups };
  return {
    proof: null,
    comparison,
    notes: proposeNotes(changesSince(document, group.id, placed)),
  };
}

/** Where the group stands that was published. */
type Place = Pick<PublicationRequest, 'materialId' | 'revision' | 'groupId'>;

/** The group in the saved material, free of errors. */
export async function readCandidate(userId: string, { materialId, revision, groupId }: Place) {
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
async function readSource(
  userId: string,
  origin: NonNullable<GroupDefinition['origin']>,
): Promise<NetworkDocument> {
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
  return source.document;
}

/** The group under its published name, with the groups it uses. */
export function releasedGroups(
  document: NetworkDocument,
  { release: _release, ...group }: GroupDefinition,
  { name, description }: Pick<PublicationRequest, 'name' | 'description'>,
): ReleasedGroups {
  const definitions: Record<string, GroupDefinition> = {
    ...neededGroups(document, group.network),
    [group.id]: { ...group, name, description },
  };
  return { root: group.id, definitions };
}

/** Adds the release; what stands in the way is said in words. */
async function release(
  ...given: Parameters<typeof insertRelease>
): Promise<{ version: string; isNew: boolean }> {
  try {
    return await insertRelease(...given);
  } catch (error) {
    if (!isAlreadyThere(error)) throw error;
    throw new AppError(
      'release.meanwhile',
      'Somebody else published or proposed a release of this name meanwhile.',
      'Look at theirs first, then publish again.',
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
