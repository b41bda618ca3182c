import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import type { Zippable } from 'fflate';
import { AppError } from '../base/diagnostic';
import { IMAGE_LIMITS } from './image-types';
import { MODEL_LIMITS } from './model-soup';

const MEGABYTE = 1048576;
/** How much each part may unfold to, bytes, by its name. */
const PARTS: readonly (readonly [RegExp, number])[] = [
  [/^manifest\.json$/, MEGABYTE],
  [/^document\.json$/, 8 * MEGABYTE],
  [/^releases\.json$/, 32 * MEGABYTE],
  [/^model\.(glb|obj)$/, MODEL_LIMITS.bytes],
  [/^images\/[0-9a-f]{64}$/, IMAGE_LIMITS.bytes],
];
const MOST_ENTRIES = 500;
/** All parts together, bytes. */
const MOST_UNFOLDED = 400 * MEGABYTE;
/** A file as it is sent, bytes at most. */
export const BUNDLE_BYTES = 200 * MEGABYTE;
/** The header that says about how long a file will be: it is written as it is sent. */
export const BUNDLE_BYTES_HEADER = 'X-Bundle-Bytes';
/** The moment that stands for all parts of a file: the same content gives the same file. */
export const BUNDLE_MOMENT = new Date(1980, 0, 1);

const FOREIGN = 'Choose a file that was saved from a material, a group or the library.';
/** What a file is refused with, by a code of its own; nothing of it is kept. */
export const bundleRefused = (code: string, message: string, action = FOREIGN): AppError =>
  new AppError(`file.${code}`, message, action, { kept: 'Nothing was brought in.', status: 422 });
/** What is no zip, or ends before its end. */
export const notZip = (): AppError =>
  bundleRefused('not-zip', 'This is not a zip file, or it is cut off.');

/** Judges the parts of a file by what the zip states of them, before any is unfolded. */
export class BundleGuard {
  private count = 0;
  private total = 0;

  /**
   * @returns whether the part is known, and read
   * @throws AppError where its name leads outside, or it is too large
   */
  admit(name: string, size: number): boolean {
    if (++this.count > MOST_ENTRIES)
      throw bundleRefused('entries', `The file has more than ${String(MOST_ENTRIES)} parts.`);
    if (name.startsWith('/') || name.includes('..') || name.includes('\\'))
      throw leadsOutside(name);
    const limit = PARTS.find(([pattern]) => pattern.test(name))?.[1];
    if (limit === undefined) return false;
    this.total += size;
    if (size > limit || this.total > MOST_UNFOLDED)
      throw bundleRefused('unfolds', `“${name}” unfolds to more than such a part may hold.`);
    return true;
  }
}

/** A part whose name leads outside of the file. */
export const leadsOutside = (name: string): AppError =>
  bundleRefused('path', `A part of the file is called “${name.slice(0, 80)}”.`);
/** A part that is not as long as the file states. */
export const notAsLong = (name: string): AppError =>
  bundleRefused('unfolds', `“${name}” is not as long as the file says.`);

/** The bytes of a JSON part. */
export const jsonBytes = (value: unknown): Uint8Array =>
  strToU8(`${JSON.stringify(value, null, 1)}\n`);

/** Writes a zip of JSON and originals: what is packed already is not packed again. */
export function packBundle(
  json: Readonly<Record<string, unknown>>,
  files: ReadonlyMap<string, Uint8Array>,
): Uint8Array<ArrayBuffer> {
  const parts: Zippable = {};
  for (const [name, value] of Object.entries(json)) parts[name] = [jsonBytes(value), { level: 6 }];
  for (const [name, bytes] of files) parts[name] = [bytes, { level: 0 }];
  return zipSync(parts, { mtime: BUNDLE_MOMENT });
}

/**
 * Reads a zip in memory. Parts are known by name and bounded before they are unfolded.
 * @throws AppError for what is no such file, leads outside or unfolds to too much
 */
export function unfoldBundle(bytes: Uint8Array): ReadonlyMap<string, Uint8Array<ArrayBuffer>> {
  const guard = new BundleGuard();
  const sizes = new Map<string, number>();
  let parts: Record<string, Uint8Array<ArrayBuffer>>;
  try {
    parts = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        const isKnown = guard.admit(name, originalSize);
        if (isKnown) sizes.set(name, originalSize);
        return isKnown;
      },
    });
  } catch (error) {
    if (error instanceof AppError) throw error;
    throw notZip();
  }
  for (const [name, size] of sizes) if (parts[name]?.length !== size) throw notAsLong(name);
  return new Map(Object.entries(parts));
}

/** The value of a JSON part. @throws AppError where there is none, or it is no JSON */
export function readJsonPart(bytes: Uint8Array | undefined, name: string): unknown {
  if (!bytes) throw bundleRefused('part', `The file has no “${name}”.`);
  try {
    return JSON.parse(strFromU8(bytes)) as unknown;
  } catch {
    throw bundleRefused('json', `“${name}” is no JSON.`);
  }
}

type Given = Readonly<Record<string, unknown>>;
/** Whether a value is an object of JSON. */
export const isGiven = (value: unknown): value is Given =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * What a file says it is, of a format and of a version this release reads.
 * @param what the format holds, in words: “a material”
 * @throws AppError where it is another
 */
export function readManifestOf(
  given: unknown,
  { format, version, what }: { readonly format: string; readonly version: number; what: string },
): Given {
  if (!isGiven(given) || given['format'] !== format)
    throw bundleRefused('foreign', `The file does not hold ${what} of Bright Loom.`);
  const stated = given['version'];
  if (typeof stated !== 'number' || stated > version)
    throw bundleRefused(
      'newer',
      'The file was saved by a newer release of Bright Loom.',
      'Bring the studio up to date first.',
    );
  return given;
}

/** An image that a file names, by the SHA-256 of its bytes; `file` is null where it is missing. */
export interface BundledImage {
  readonly hash: string;
  readonly file: string | null;
}
const isFileName = (value: unknown): value is string => typeof value === 'string';
/** The name of a part, where one is given. */
export const fileNameOf = (value: unknown): string | null => (isFileName(value) ? value : null);
/** The images a manifest lists; what is none is left out. */
export const imagesOf = (given: unknown): readonly BundledImage[] =>
  (Array.isArray(given) ? given : []).flatMap((image: unknown) =>
    isGiven(image) && typeof image['hash'] === 'string'
      ? [{ hash: image['hash'], file: fileNameOf(image['file']) }]
      : [],
  );
