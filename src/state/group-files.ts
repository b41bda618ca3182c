import { bringGroupFile, saveEntryFile } from '../contract/group-files';
import { readImage, uploadImage } from '../contract/images';
import { AppError } from '../core/base/diagnostic';
import { own } from '../core/base/own';
import { imagesIn } from '../core/compile/images';
import { readStoredGroups } from '../core/compile/upgrade';
import { getNetwork, neededGroups } from '../core/edit/board';
import { addNode } from '../core/edit/nodes';
import { BUNDLE_BYTES, packBundle, unfoldBundle } from '../core/exchange/bundle';
import { GROUP_FILE_VERSION, GROUP_FORMAT, readGroupFile } from '../core/exchange/group-manifest';
import type { BundledRelease, GroupManifest } from '../core/exchange/group-manifest';
import { DOCUMENT_VERSION } from '../core/graph/document';
import type { NetworkDocument } from '../core/graph/document';
import { bringIn } from '../core/releases/release-groups';
import { bytesOf, call } from './api';
import { commit, select } from './editing';
import { readWithProgress, sendWithProgress } from './file-transfer';
import type { TransferProgress } from './file-transfer';
import { stores } from './stores';

/** An entry with all its releases as a file. @throws ApiFailure */
export const readEntryFile = async (id: string, onProgress: TransferProgress): Promise<Blob> =>
  readWithProgress(await call(saveEntryFile, { params: { id } }), onProgress);

/** Brings a group's file onto one's own rack, by a job. @throws ApiFailure, AppError */
export function bringGroupToRack(
  file: File,
  onProgress: TransferProgress,
): Promise<{ readonly id: string; readonly missing: readonly string[] }> {
  assertBundleSize(file);
  return sendWithProgress(bringGroupFile, { file }, onProgress);
}

/** @throws AppError for a file that the server would refuse for its length */
export function assertBundleSize(file: File): void {
  if (file.size > BUNDLE_BYTES)
    throw new AppError(
      'file.too-large',
      `${file.name} has ${String(Math.ceil(file.size / 1048576))} MB; the limit is 200 MB.`,
      'Save it without its model.',
      { kept: 'Nothing was brought in.' },
    );
}

/** A group of the open material, with the groups and images it needs, as a file. */
export async function packGroup(groupId: string): Promise<{ name: string; file: Blob }> {
  const { document } = stores.document.getState();
  const group = own(document.groups, groupId);
  if (!group) throw new AppError('group.gone', 'This group is not there any more.', '');
  const { release: _release, ...alone } = group;
  const definitions = { ...neededGroups(document, group.network), [groupId]: alone };
  const images: { hash: string; file: string | null }[] = [];
  const files = new Map<string, Uint8Array>();
  for (const hash of new Set(imagesIn({ ...document, ...NO_NETWORK, groups: definitions }))) {
    const answer = await call(readImage, { params: { hash } }).catch(() => null);
    const file = answer ? `images/${hash}` : null;
    if (answer && file) files.set(file, await bytesOf(answer));
    images.push({ hash, file });
  }
  const { name, description } = group;
  const format = { format: GROUP_FORMAT, version: GROUP_FILE_VERSION } as const;
  const manifest: GroupManifest = { ...format, name, description, tags: [], images };
  const release: BundledRelease = {
    version: '1.0.0',
    documentVersion: DOCUMENT_VERSION,
    root: groupId,
    definitions,
    notes: '',
  };
  const json = { 'manifest.json': manifest, 'releases.json': [release] };
  return { name, file: new Blob([packBundle(json, files)], { type: 'application/zip' }) };
}
const NO_NETWORK = { network: { nodes: [], strands: [], regions: [], notes: [] } };

/**
 * Puts the newest group of a file on the open board as one step; its images go to the studio.
 * @returns its name, and what the file did not hold
 * @throws AppError for what is no such file; ApiFailure
 */
export async function placeGroupFile(
  file: File,
): Promise<{ readonly name: string; readonly missing: readonly string[] }> {
  assertBundleSize(file);
  const parts = unfoldBundle(new Uint8Array(await file.arrayBuffer()));
  const { manifest, releases } = readGroupFile((name) => parts.get(name));
  const newest = releases.at(-1);
  const read = newest && readStoredGroups(newest.definitions, newest.documentVersion);
  if (!newest || !read?.groups?.[newest.root])
    throw new AppError(
      'file.release',
      `The group in the file cannot be read: ${read?.diagnostics[0]?.message ?? 'it is none.'}`,
      'Save the file anew, or bring the studio up to date.',
      { kept: 'Nothing was placed.' },
    );
  const missing: string[] = [];
  for (const { hash, file: part } of manifest.images) {
    const bytes = part === null ? undefined : parts.get(part);
    const query = { name: `From ${manifest.name}`.slice(0, 120) };
    if (bytes) await call(uploadImage, { query, file: bytes });
    else missing.push(`the image ${hash.slice(0, 12)}…`);
  }
  place(manifest.name, { root: newest.root, definitions: read.groups });
  return { name: manifest.name, missing };
}

function place(name: string, groups: Parameters<typeof bringIn>[1]['groups']): void {
  let id = '';
  commit(`Placed ${name}`, (document, board) => {
    const brought = bringIn(document, { entryId: FROM_FILE, version: '1.0.0', groups });
    const { nodes } = getNetwork(brought.document, board);
    const right = Math.max(0, ...nodes.map((node) => node.at[0]));
    const added = addNode(
      withoutRelease(brought.document, brought.groupId),
      board,
      'group',
      [right, Math.min(0, ...nodes.map((node) => node.at[1])) - 240],
      brought.groupId,
    );
    id = added.id;
    return added.document;
  });
  select([id]);
}
/** A file belongs to no entry of this studio. */
const FROM_FILE = 'file';
function withoutRelease(document: NetworkDocument, groupId: string): NetworkDocument {
  const group = own(document.groups, groupId);
  if (!group) return document;
  const { release: _release, ...alone } = group;
  return { ...document, groups: { ...document.groups, [groupId]: alone } };
}
