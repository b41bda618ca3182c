import { bundleRefused, imagesOf, isGiven, readJsonPart, readManifestOf } from './bundle';
import type { BundledImage } from './bundle';

/** What a file of a group, or of an entry with its releases, says it is. */
export const GROUP_FORMAT = 'bright-loom-group';
/** Raised when what a file holds changes. */
export const GROUP_FILE_VERSION = 1;
/** Most releases of an entry that travel. */
const MOST_RELEASES = 200;

/** What a group's file says of itself: `manifest.json`. */
export interface GroupManifest {
  readonly format: typeof GROUP_FORMAT;
  readonly version: number;
  readonly name: string;
  readonly description: string;
  readonly tags: readonly string[];
  readonly images: readonly BundledImage[];
}

/** A state of the group, in `releases.json`, the oldest first; not checked yet. */
export interface BundledRelease {
  readonly version: string;
  /** Of the network document that the groups are written in. */
  readonly documentVersion: number;
  readonly root: string;
  /** The group and the groups it uses, by id. */
  readonly definitions: unknown;
  readonly notes: string;
}

/** A group as it travels: one release, or all of an entry. */
export interface GroupFile {
  readonly manifest: GroupManifest;
  readonly releases: readonly BundledRelease[];
}

const textOf = (value: unknown, most: number): string =>
  typeof value === 'string' ? value.slice(0, most) : '';

function readRelease(given: unknown): BundledRelease {
  if (!isGiven(given) || typeof given['root'] !== 'string' || !isGiven(given['definitions']))
    throw bundleRefused('release', 'A release in the file has no group.');
  const version = given['documentVersion'];
  return {
    version: textOf(given['version'], 14),
    documentVersion: typeof version === 'number' ? version : 1,
    root: given['root'],
    definitions: given['definitions'],
    notes: textOf(given['notes'], 4000),
  };
}

/**
 * Reads a group's file out of its JSON parts.
 * @throws AppError for what is none
 */
export function readGroupFile(
  part: (name: 'manifest.json' | 'releases.json') => Uint8Array | undefined,
): GroupFile {
  const raw = readJsonPart(part('manifest.json'), 'manifest.json');
  const version = GROUP_FILE_VERSION;
  const given = readManifestOf(raw, { format: GROUP_FORMAT, version, what: 'a group' });
  const listed = readJsonPart(part('releases.json'), 'releases.json');
  const name = textOf(given['name'], 80).trim();
  if (name === '' || !Array.isArray(listed) || listed.length === 0)
    throw bundleRefused('manifest', 'The file lacks a name or a release.');
  if (listed.length > MOST_RELEASES)
    throw bundleRefused('entries', `The file has more than ${String(MOST_RELEASES)} releases.`);
  const tags = Array.isArray(given['tags']) ? given['tags'] : [];
  return {
    manifest: {
      format: GROUP_FORMAT,
      version,
      name,
      description: textOf(given['description'], 2000),
      tags: tags
        .map((tag) => textOf(tag, 40))
        .filter(Boolean)
        .slice(0, 20),
      images: imagesOf(given['images']),
    },
    releases: listed.map(readRelease),
  };
}
