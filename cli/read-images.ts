import { createHash } from 'node:crypto';
import { readFile, readdir } from 'node:fs/promises';
import path from 'node:path';
import { Piscina } from 'piscina';
import { AppError, errorMessage } from '@/core/base/diagnostic';
import { imagesIn } from '@/core/compile/images';
import { threadImages } from '@/core/evaluate/image-store';
import type { DecodedImage } from '@/core/exchange/image-types';
import type { NetworkDocument } from '@/core/graph/document';
import type { Decoded } from './decode-thread';

/** An honest image takes seconds at most. */
const LONGEST_MS = 60_000;

/**
 * Finds the images a document names, by content, among the files of a folder; tells which are
 * missing: they read as grey.
 */
export async function readImages(
  document: NetworkDocument,
  folder: unknown,
  complain: (text: string) => void,
): Promise<void> {
  const wanted = new Set(imagesIn(document));
  if (wanted.size > 0 && typeof folder === 'string') await readFolder(folder, wanted);
  for (const hash of wanted)
    if (!threadImages.has(hash))
      complain(
        `The image ${hash.slice(0, 12)}… is not ` +
          `${typeof folder === 'string' ? `in ${folder}` : 'at hand (see --images)'}; grey ` +
          'stands in for it.',
      );
}

async function readFolder(folder: string, wanted: ReadonlySet<string>): Promise<void> {
  let names: readonly string[];
  try {
    names = await readdir(folder);
  } catch (cause) {
    throw new AppError('file.unreadable', `${folder} cannot be read: ${errorMessage(cause)}.`, '', {
      cause,
    });
  }
  const threads = new Piscina({
    filename: path.join(import.meta.dirname, 'decode-thread.ts'),
    execArgv: ['--import', 'tsx'],
    maxThreads: 1,
  });
  try {
    for (const name of names) {
      const bytes = await readFile(path.join(folder, name)).catch(() => null);
      const hash = bytes && createHash('sha256').update(bytes).digest('hex');
      if (bytes && hash && wanted.has(hash))
        threadImages.put(hash, await decode(threads, name, bytes));
    }
  } finally {
    await threads.destroy();
  }
}

/**
 * Decodes an image where it can be ended. @throws AppError that names the file and what is wrong
 * with it
 */
async function decode(threads: Piscina, name: string, bytes: Uint8Array): Promise<DecodedImage> {
  let decoded: Decoded;
  try {
    decoded = (await threads.run(new Uint8Array(bytes), {
      signal: AbortSignal.timeout(LONGEST_MS),
    })) as Decoded;
  } catch (cause) {
    throw new AppError(
      'image.too-costly',
      `${name} was not decoded within ${String(LONGEST_MS / 1000)} seconds.`,
      'Save the image again.',
      { cause },
    );
  }
  if ('image' in decoded) return decoded.image;
  const { code, message, action, kept } = decoded.problem;
  throw new AppError(code, `${name}: ${message}`, action, { kept });
}
