import { createHash } from 'node:crypto';
import { readFile, readdir } from 'node:fs/promises';
import path from 'node:path';
import { AppError, messageOf } from '@/core/base/diagnostic';
import { imagesIn } from '@/core/compile/images';
import { threadImages } from '@/core/evaluate/image-store';
import type { NetworkDocument } from '@/core/graph/document';

/** Finds the images a document names, by content, among the files of a folder; tells which are missing: they read as grey. */
export async function readImages(document: NetworkDocument, folder: unknown, complain: (text: string) => void): Promise<void> {
  const wanted = new Set(imagesIn(document));
  if (wanted.size > 0 && typeof folder === 'string') await readFolder(folder, wanted);
  for (const hash of wanted) if (!threadImages.has(hash)) complain(`The image ${hash.slice(0, 12)}… is not ${typeof folder === 'string' ? `in ${folder}` : 'at hand (see --images)'}; grey stands in for it.`);
}

async function readFolder(folder: string, wanted: ReadonlySet<string>): Promise<void> {
  let names: readonly string[];
  try {
    names = await readdir(folder);
  } catch (cause) {
    throw new AppError('file.unreadable', `${folder} cannot be read: ${messageOf(cause)}.`, '', { cause });
  }
  for (const name of names) {
    const bytes = await readFile(path.join(folder, name)).catch(() => null);
    const hash = bytes && createHash('sha256').update(bytes).digest('hex');
    if (bytes && hash && wanted.has(hash)) threadImages.add(hash, new Uint8Array(bytes));
  }
}
