import { AppError } from '@/core/base/diagnostic';
import { describeError } from '@/core/base/problem';
import { passedLimit } from '@/core/edit/limits';
import { hashContent } from '@/core/graph/canonical';
import type { NetworkDocument } from '@/core/graph/document';
import { placedFrom, takeEverywhere } from '@/core/releases/outlook';
import type { PlacedRelease } from '@/core/releases/release-groups';
import type { LostSetting } from '@/core/releases/take-release';
import { RELEASE_CLASSES, compareVersions } from '@/core/releases/versions';
import type { ReleaseClass } from '@/core/releases/versions';
import type { TakenView, WaitingRelease } from '@/contract/shelf';
import {
  findTaking,
  forgetTaking,
  listClasses,
  listWaiting as readWaiting,
  noteTaking,
} from '@/db/queries/entry-uses';
import type { NewTaking } from '@/db/queries/entry-uses';
import type { Executor } from '@/db/client';
import { findMaterial, saveRevision } from '@/db/queries/materials';
import type { SignedIn } from './authentication';
import { readEntry, readRelease } from './library';
import { materialNotFound } from './not-found';
import { findRevision } from './stored';
import { requestSwatch } from './swatches';

/** Somebody may save between reading and writing; then it is done once more on what they saved. */
const TRIES = 4;

interface Change {
  readonly document: NetworkDocument;
  readonly lost: readonly LostSetting[];
  /** What is written with the new revision. */
  readonly also: (tx: Executor, revision: number) => Promise<void>;
}

/** The newest state of a material changed and saved, on top of whatever others save meanwhile. */
async function changeMaterial(
  user: SignedIn,
  materialId: string,
  change: (document: NetworkDocument) => Change | Promise<Change>,
): Promise<TakenView> {
  for (let k = 0; k < TRIES; k++) {
    const material = await findMaterial(user.id, materialId);
    const revision = material && (await findRevision(materialId, material.head));
    if (!material || !revision) throw materialNotFound();
    const { document, lost, also } = await change(revision.document);
    const limit = passedLimit(document);
    if (limit !== null)
      throw new AppError('material.limit', limit, '', { kept: 'It was not changed.' });
    const outcome = await saveRevision(
      {
        materialId,
        base: material.head,
        name: material.name,
        modelId: material.modelId,
        document,
        contentHash: await hashContent(document),
        authorId: user.id,
      },
      also,
    );
    if (!outcome.saved) continue;
    await requestSwatch(materialId, material.name, user.id);
    return {
      materialId,
      name: material.name,
      revision: outcome.revision,
      lost: [...lost],
      reason: null,
    };
  }
  throw new AppError(
    'material.busy',
    'Somebody keeps saving this material.',
    'Try again in a moment.',
    { kept: 'It was not changed.', status: 409 },
  );
}

/** Each material on its own: what stands in the way of one does not stop the others. */
async function forEach(
  materialIds: readonly string[],
  work: (materialId: string) => Promise<TakenView>,
): Promise<{ taken: TakenView[] }> {
  const taken: TakenView[] = [];
  for (const materialId of new Set(materialIds))
    try {
      taken.push(await work(materialId));
    } catch (error) {
      if (!(error instanceof AppError)) throw error;
      const { message } = describeError(error);
      taken.push({ materialId, name: '', revision: null, lost: [], reason: message });
    }
  return { taken };
}

const versionIn = (document: NetworkDocument, entryId: string): string | undefined =>
  Object.values(document.groups).find(({ release }) => release?.entryId === entryId)?.release
    ?.version;

const notUsed = (): AppError =>
  new AppError('release.not-used', 'This material does not use the group any more.', '', {
    kept: 'It was not changed.',
    status: 409,
  });

/** Why a material keeps the release it has; null where nothing says so. */
function pinReason(document: NetworkDocument, entryId: string): string | null {
  const pinned = placedFrom(document, entryId).flatMap(
    (id) => Object.values(document.groups).find((group) => group.id === id)?.release?.pinned ?? [],
  );
  return pinned[0] ?? null;
}

/** Takes a release in materials. @returns what came of each */
export async function takeIn(
  user: SignedIn,
  entryId: string,
  version: string,
  materialIds: readonly string[],
): Promise<{ taken: TakenView[] }> {
  const release = await readRelease(user, entryId, version);
  if (release.fault !== null || release.state !== 'out')
    throw new AppError(
      'release.unreadable',
      release.fault ?? 'This release is not out yet.',
      'Choose another release.',
      { kept: 'Nothing was changed.', status: 409 },
    );
  const placed: PlacedRelease = { entryId, version, groups: release.groups };
  return forEach(materialIds, (materialId) =>
    changeMaterial(user, materialId, (document) => {
      const from = versionIn(document, entryId);
      if (from === undefined) throw notUsed();
      const pin = pinReason(document, entryId);
      if (pin !== null)
        throw new AppError('release.pinned', `It stays at ${from}: ${pin}`, 'Unpin it first.', {
          kept: 'It was not changed.',
          status: 409,
        });
      const { document: next, lost } = takeEverywhere(document, placed);
      const taking = { materialId, entryId, fromVersion: from, toVersion: version, lost };
      return {
        document: next,
        lost,
        also: (tx, revision) => noteTaking(tx, { ...taking, revision, userId: user.id }),
      };
    }),
  );
}

/** What the taking that is put back gives back. */
async function earlierOf(taking: NewTaking) {
  const before = await findRevision(taking.materialId, taking.revision - 1);
  const after = await findRevision(taking.materialId, taking.revision);
  return { before: before?.document, after: after?.document };
}

/** Puts the release back that materials had before they took the one they have. */
export async function putBack(
  user: SignedIn,
  entryId: string,
  materialIds: readonly string[],
): Promise<{ taken: TakenView[] }> {
  await readEntry(user, entryId);
  return forEach(materialIds, (materialId) =>
    changeMaterial(user, materialId, async (document) => {
      const taking = await findTaking(materialId, entryId);
      if (!taking || versionIn(document, entryId) !== taking.toVersion)
        throw new AppError(
          'release.nothing-to-put-back',
          'No earlier release is kept for this material.',
          'Choose a release by hand.',
          { kept: 'It was not changed.', status: 409 },
        );
      const also = (tx: Executor): Promise<void> => forgetTaking(tx, taking);
      const { before, after } = await earlierOf(taking);
      // Nothing was done since: it is as it was, to the letter.
      if (before && after && (await hashContent(after)) === (await hashContent(document)))
        return { document: { ...before, name: document.name }, lost: [], also };
      const release = await readRelease(user, entryId, taking.fromVersion);
      const placed = { entryId, version: taking.fromVersion, groups: release.groups };
      return { ...takeEverywhere(document, placed, before), also };
    }),
  );
}

/** The gravest class of what came out after a version; null where nothing did. */
function gravest(
  classes: readonly { readonly version: string; readonly releaseClass: ReleaseClass }[],
  from: string,
  to: string | null,
): ReleaseClass | null {
  if (to === null || compareVersions(to, from) <= 0) return null;
  const passed = classes
    .filter(
      ({ version }) => compareVersions(version, from) > 0 && compareVersions(version, to) <= 0,
    )
    .map(({ releaseClass }) => RELEASE_CLASSES.indexOf(releaseClass));
  return RELEASE_CLASSES[Math.max(1, ...passed)] ?? null;
}

/** Where newer releases wait, and where one in use was withdrawn or its entry given up. */
export async function listWaiting(
  user: SignedIn,
  materialId: string | null,
): Promise<{ waiting: WaitingRelease[] }> {
  const rows = await readWaiting(user.id, materialId);
  const classes = await listClasses([...new Set(rows.map(({ entryId }) => entryId))]);
  const waiting = rows.map((row) => {
    const own = classes.filter(({ entryId }) => entryId === row.entryId);
    return { ...row, releaseClass: gravest(own, row.version, row.newest) };
  });
  return {
    waiting: waiting.filter(
      ({ releaseClass, withdrawnReason, deprecatedReason }) =>
        releaseClass !== null || withdrawnReason !== null || deprecatedReason !== null,
    ),
  };
}
