import { Unzip, UnzipInflate, strFromU8 } from 'fflate';
import { imagesOf, isGiven } from '../core/exchange/bundle';

/** A manifest stands at the beginning of a file; no further is looked. */
const LOOKED_AT = 2 * 1024 * 1024;
const MANIFEST = 'manifest.json';

/** The manifest of a file, read from its beginning; null where none is found there. */
async function peekManifest(file: Blob): Promise<unknown> {
  const chunks: Uint8Array[] = [];
  let isWhole = false;
  const unzip = new Unzip((part) => {
    if (part.name !== MANIFEST) return;
    part.ondata = (error, chunk, isLast) => {
      if (error) return;
      chunks.push(chunk);
      isWhole ||= isLast;
    };
    part.start();
  });
  unzip.register(UnzipInflate);
  try {
    unzip.push(new Uint8Array(await file.slice(0, LOOKED_AT).arrayBuffer()));
    if (!isWhole) return null;
    return JSON.parse(chunks.map((chunk) => strFromU8(chunk)).join('')) as unknown;
  } catch {
    // What is wrong with it is said when it is brought in.
    return null;
  }
}

/** What a file says it lacks, in words, before it is sent; nothing where it says nothing. */
export async function missingIn(file: Blob): Promise<readonly string[]> {
  const manifest = await peekManifest(file);
  if (!isGiven(manifest)) return [];
  const { model, images } = manifest;
  const lacksModel = isGiven(model) && typeof model['name'] === 'string' && !model['file'];
  return [
    ...(lacksModel ? [`the model “${String(model['name'])}”: it will stand on another`] : []),
    ...imagesOf(images)
      .filter((image) => image.file === null)
      .map(({ hash }) => `the image ${hash.slice(0, 12)}…: it will be grey where it is used`),
  ];
}
