import { AppError } from '@/core/base/diagnostic';
import { imagesIn } from '@/core/compile/images';
import { readStoredGroups } from '@/core/compile/upgrade';
import { BUNDLE_BYTES, bundleRefused } from '@/core/exchange/bundle';
import { GROUP_FILE_VERSION, GROUP_FORMAT, readGroupFile } from '@/core/exchange/group-manifest';
import type { BundledRelease, GroupFile, GroupManifest } from '@/core/exchange/group-manifest';
import { hashContent } from '@/core/graph/canonical';
import { DOCUMENT_VERSION, emptyDocument } from '@/core/graph/document';
import type { ProofModel } from '@/core/evaluate/proof';
import { compareReleases } from '@/core/releases/release-class';
import type { ReleasedGroups } from '@/core/releases/release-groups';
import { showcase } from '@/core/releases/showcase';
import { nextVersion } from '@/core/releases/versions';
import { randomUUID } from 'node:crypto';
import { findBlob, storeBlob } from '@/db/queries/blobs';
import { hasImage } from '@/db/queries/images';
import {
  findEntryByName,
  findRelease as readRelease,
  insertRelease,
  listReleases,
} from '@/db/queries/library';
import type { SignedIn } from './authentication';
import { openBundle, writeBundle } from './bundle';
import type { WrittenBundle } from './bundle';
import type { SpooledFile } from './http/spool';
import { prepareImages } from './images';
import type { JobContext } from './jobs/define-job';
import { enqueue } from './jobs/enqueue';
import { GROUP_FILE } from './jobs/lanes';
import { readEntry } from './library';
import { bundleImages, judgeImages, keepImages } from './material-files';
import { SHOWN_ON, referenceModels } from './reference-models';
import { renderSwatch } from './render';
import { personRack } from './rights';
import { reshelve } from './shelving';

const NOTHING = 'Nothing was brought in.';
const withGroups = ({ definitions }: ReleasedGroups) => ({
  ...emptyDocument(''),
  groups: definitions,
});

/** An entry with all its releases that are out, and the images they name, as a file. */
export async function saveEntryFile(
  user: SignedIn,
  id: string,
): Promise<{ name: string; written: WrittenBundle }> {
  const { name, description, tags } = await readEntry(user, id);
  const out = (await listReleases(id)).filter(({ state }) => state === 'out').toReversed();
  const releases: BundledRelease[] = [];
  const hashes = new Set<string>();
  for (const { version } of out) {
    const found = await readRelease(id, version);
    if (!found) continue;
    const { groups, documentVersion, notes } = found;
    for (const hash of imagesIn(withGroups(groups))) hashes.add(hash);
    releases.push({ version, documentVersion, ...groups, notes });
  }
  const { images, stored } = await bundleImages(hashes);
  const format = { format: GROUP_FORMAT, version: GROUP_FILE_VERSION } as const;
  const manifest: GroupManifest = { ...format, name, description, tags, images };
  const json = { 'manifest.json': manifest, 'releases.json': releases };
  return { name, written: await writeBundle(json, stored) };
}

/** The groups of a release in a file, of this release. @throws AppError where they are none */
function groupsOf({ root, definitions, documentVersion, version }: BundledRelease): ReleasedGroups {
  const { groups, diagnostics } = readStoredGroups(definitions, documentVersion);
  if (groups?.[root]) return { root, definitions: groups };
  throw bundleRefused(
    'release',
    `The release ${version} in the file cannot be read: ` +
      (diagnostics[0]?.message ?? 'its group is missing.'),
    'Save the file anew, or bring the studio up to date.',
  );
}

/**
 * Takes a file with a group and its releases. All of it is judged here; a job compares the releases
 * with each other and puts them on one's own rack.
 * @returns the job, and which images are missing
 */
export async function startBringing(
  user: SignedIn,
  spoolFile: (limit: number) => Promise<SpooledFile>,
): Promise<{ id: string; missing: string[] }> {
  const file = await spoolFile(BUNDLE_BYTES);
  try {
    const bundle = await openBundle(file);
    const named = ['manifest.json', 'releases.json'] as const;
    const parts = new Map<string, Uint8Array>();
    for (const name of named)
      if (bundle.names.includes(name)) parts.set(name, await bundle.read(name));
    const { manifest, releases } = readGroupFile((name) => parts.get(name));
    const hashes = new Set(releases.flatMap((each) => [...imagesIn(withGroups(groupsOf(each)))]));
    const images = await judgeImages(bundle, manifest.images);
    await keepImages(user, { from: manifest.name, projectId: null }, bundle, images);
    const missing: string[] = [];
    for (const hash of hashes)
      if (!(await hasImage(hash))) missing.push(`the image ${hash.slice(0, 12)}…`);
    const told: GroupFile = { manifest, releases };
    const blobHash = await storeBlob(Buffer.from(JSON.stringify(told)), 'application/json');
    const title = `Bringing in ${manifest.name}`;
    const key = `${user.id} ${blobHash}`;
    return {
      id: await enqueue(GROUP_FILE, { blobHash }, { title, userId: user.id, key }),
      missing,
    };
  } finally {
    await file.handle.close();
  }
}

/** Where the releases of a file go on a rack. */
interface Place {
  readonly entryId: string;
  readonly name: string;
  /** The versions that are there already, by their content. */
  readonly there: ReadonlyMap<string, string>;
}

/** The entry that the file was brought in as before, or a new one under a name that is free. */
async function findPlace(rack: string, given: string, firstHash: string): Promise<Place> {
  for (let k = 1; ; k++) {
    const name = k === 1 ? given : `${given.slice(0, 74)} ${String(k)}`;
    const known = await findEntryByName(rack, name);
    if (!known) return { entryId: randomUUID(), name, there: new Map() };
    const there = new Map(
      (await listReleases(known.id)).map(({ contentHash, version }) => [contentHash, version]),
    );
    if (there.has(firstHash)) return { entryId: known.id, name, there };
  }
}

/** What came of a file that was brought in. */
interface Brought extends Readonly<Record<string, unknown>> {
  readonly entryId: string;
  readonly name: string;
  /** Releases that were not there before. */
  readonly added: number;
}

/**
 * Puts the releases of a file on a person's own rack, one after the other: each is compared with
 * the one before, which gives its class and its version, whatever the file says. Doing it twice
 * changes nothing.
 * @throws AppError where it is refused
 */
export async function bringReleases(
  userId: string,
  { blobHash }: { readonly blobHash: string },
  report: JobContext['report'] = () => Promise.resolve(),
): Promise<Brought> {
  const { manifest, releases } = await readTold(blobHash);
  const all = releases.map((each) => ({ groups: groupsOf(each), notes: each.notes }));
  const hashes = await Promise.all(all.map(({ groups }) => hashContent(groups)));
  const rack = personRack(userId);
  const { entryId, name, there } = await findPlace(rack, manifest.name, hashes[0] ?? '');
  const models = await referenceModels(userId, SHOWN_ON);
  const { description, tags } = manifest;
  const entry = { id: entryId, rack, name, description, tags: [...tags], authorId: userId };
  let added = 0;
  let before: Before | null = null;
  for (const [k, { groups, notes }] of all.entries()) {
    await report(k / all.length, `Release ${String(k + 1)} of ${String(all.length)}`);
    const contentHash = hashes[k] ?? '';
    const known = there.get(contentHash);
    const version: string =
      known ?? (await addRelease(entry, { groups, contentHash, notes, before, models }));
    if (known === undefined) added++;
    before = { groups, version };
  }
  await reshelve(entryId);
  return { entryId, name, added };
}

interface Before {
  readonly groups: ReleasedGroups;
  readonly version: string;
}

async function addRelease(
  entry: Parameters<typeof insertRelease>[0],
  {
    groups,
    contentHash,
    notes,
    before,
    models,
  }: {
    readonly groups: ReleasedGroups;
    readonly contentHash: string;
    readonly notes: string;
    readonly before: Before | null;
    readonly models: readonly ProofModel[];
  },
): Promise<string> {
  await prepareImages(withGroups(groups));
  const comparison = before && compareReleases(before.groups, groups, models);
  const releaseClass = comparison?.releaseClass ?? 'first';
  const [study] = models;
  if (!study) throw new AppError('proof.no-model', 'There is no reference model.');
  const swatchHash = await storeBlob(renderSwatch(showcase(groups), study), 'image/png');
  const made = await insertRelease(
    entry,
    {
      entryId: entry.id,
      groups,
      documentVersion: DOCUMENT_VERSION,
      contentHash,
      // It was packaged elsewhere: no material here is its source, and nothing proves it.
      sourceMaterialId: '',
      sourceRevision: 0,
      comparison,
      releaseClass,
      baseVersion: before?.version ?? null,
      notes,
      state: 'out',
      swatchHash,
      authorId: entry.authorId,
    },
    ({ versions }) => nextVersion(before?.version ?? null, releaseClass, versions),
  );
  return made.version;
}

async function readTold(blobHash: string): Promise<GroupFile> {
  const file = await findBlob(blobHash);
  if (!file)
    throw new AppError('file.gone', 'The file is not there any more.', 'Bring it once more.', {
      kept: NOTHING,
    });
  return JSON.parse(file.bytes.toString('utf8')) as GroupFile;
}
