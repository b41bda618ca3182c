import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import type { Zippable } from 'fflate';
import { AppError } from '../base/diagnostic';
import { IMAGE_LIMITS } from './image-types';
import { MODEL_LIMITS } from './model-soup';
import { MATERIAL_FILE_VERSION, MATERIAL_FORMAT } from './material-manifest';
import type { MaterialFile, MaterialManifest } from './material-manifest';

const MEGABYTE = 1048576;
/** How much each part may unfold to, bytes, by its name. */
const PARTS: readonly (readonly [RegExp, number])[] = [
  [/^manifest\.json$/, MEGABYTE],
  [/^document\.json$/, 8 * MEGABYTE],
  [/^model\.(glb|obj)$/, MODEL_LIMITS.bytes],
  [/^images\/[0-9a-f]{64}$/, IMAGE_LIMITS.bytes],
];
const MOST_ENTRIES = 500;
/** All parts together, bytes. */
const MOST_UNFOLDED = 400 * MEGABYTE;
const refused = (code: string, message: string, action: string): AppError =>
  new AppError(`material-file.${code}`, message, action, {
    kept: 'Nothing was brought in.',
    status: 422,
  });
const FOREIGN = 'Choose a file that was saved from a material.';

/** Writes a zip of JSON and originals: what is packed already is not packed again. */
export function packMaterial({ manifest, document, files }: MaterialFile): Uint8Array<ArrayBuffer> {
  const json = (value: unknown): Uint8Array => strToU8(`${JSON.stringify(value, null, 1)}\n`);
  const parts: Zippable = {
    'manifest.json': [json(manifest), { level: 6 }],
    'document.json': [json(document), { level: 6 }],
  };
  for (const [name, bytes] of files) parts[name] = [bytes, { level: 0 }];
  // The same material gives the same file.
  return zipSync(parts, { mtime: new Date(1980, 0, 1) });
}

/**
 * Reads a material's file. Parts are known by name and bounded before they are unfolded; nothing is
 * written anywhere.
 * @throws AppError for what is no such file, leads outside, unfolds to too much or is of a newer
 *   version
 */
export function unpackMaterial(bytes: Uint8Array): MaterialFile {
  const parts = unfold(bytes);
  const manifest = readManifest(parts.get('manifest.json'));
  const files = new Map([...parts].filter(([name]) => !name.endsWith('.json')));
  return { manifest, document: readJson(parts.get('document.json'), 'document.json'), files };
}

function unfold(bytes: Uint8Array): ReadonlyMap<string, Uint8Array<ArrayBuffer>> {
  let [count, total] = [0, 0];
  const sizes = new Map<string, number>();
  let parts: Record<string, Uint8Array<ArrayBuffer>>;
  try {
    parts = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (++count > MOST_ENTRIES)
          throw refused(
            'entries',
            `The file has more than ${String(MOST_ENTRIES)} parts.`,
            FOREIGN,
          );
        if (name.startsWith('/') || name.includes('..') || name.includes('\\'))
          throw refused('path', `A part of the file is called “${name.slice(0, 80)}”.`, FOREIGN);
        const limit = PARTS.find(([pattern]) => pattern.test(name))?.[1];
        if (limit === undefined) return false;
        total += originalSize;
        if (originalSize > limit || total > MOST_UNFOLDED)
          throw refused('unfolds', `“${name}” unfolds to more than such a part may hold.`, FOREIGN);
        sizes.set(name, originalSize);
        return true;
      },
    });
  } catch (error) {
    if (error instanceof AppError) throw error;
    throw refused('not-zip', 'This is not a zip file, or it is cut off.', FOREIGN);
  }
  for (const [name, size] of sizes)
    if (parts[name]?.length !== size)
      throw refused('unfolds', `“${name}” is not as long as the file says.`, FOREIGN);
  return new Map(Object.entries(parts));
}

function readJson(bytes: Uint8Array | undefined, name: string): unknown {
  if (!bytes) throw refused('part', `The file has no “${name}”.`, FOREIGN);
  try {
    return JSON.parse(strFromU8(bytes)) as unknown;
  } catch {
    throw refused('json', `“${name}” is no JSON.`, FOREIGN);
  }
}

const isRecord = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const fileOf = (value: unknown): string | null => (typeof value === 'string' ? value : null);

function readManifest(bytes: Uint8Array | undefined): MaterialManifest {
  const given = readJson(bytes, 'manifest.json');
  if (!isRecord(given) || given['format'] !== MATERIAL_FORMAT)
    throw refused('foreign', 'The file does not hold a material of Bright Loom.', FOREIGN);
  const { version, name, model, images } = given;
  if (typeof version !== 'number' || version > MATERIAL_FILE_VERSION)
    throw refused(
      'newer',
      'The file was saved by a newer release of Bright Loom.',
      'Bring the studio up to date first.',
    );
  if (typeof name !== 'string' || !isRecord(model) || !Array.isArray(images))
    throw refused('manifest', 'The file’s manifest lacks a name, a model or images.', FOREIGN);
  return {
    format: MATERIAL_FORMAT,
    version,
    name: name.slice(0, 120),
    model: {
      name: typeof model['name'] === 'string' ? model['name'].slice(0, 120) : 'Model',
      file: fileOf(model['file']),
      preparation: isRecord(model['preparation']) ? model['preparation'] : {},
    },
    images: images.flatMap((image: unknown) =>
      isRecord(image) && typeof image['hash'] === 'string'
        ? [{ hash: image['hash'], file: fileOf(image['file']) }]
        : [],
    ),
  };
}
