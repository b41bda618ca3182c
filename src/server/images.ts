import { AppError } from '@/core/base/diagnostic';
import { threadImages } from '@/core/evaluate/image-store';
import { imagesIn } from '@/core/compile/images';
import { MEDIA_TYPES, checkImageHeader } from '@/core/exchange/images';
import type { NetworkDocument } from '@/core/graph/document';
import { findImage, insertImage, listImages as readImages } from '@/db/queries/images';
import type { Executor } from '@/db/client';
import { storeBlob } from '@/db/queries/blobs';
import { findMaterial } from '@/db/queries/materials';
import type { SignedIn } from './authentication';
import { log } from './log';
import { materialNotFound } from './not-found';
import { assertRoom, bringInto } from './storage';

/** Unpacked images this process keeps between pictures. */
const MOST_IMAGES = 64;

/** The images of the studio, the newest first. */
export const listImages = readImages;

const KEPT = 'The image was not kept; the material is as it was.';

/**
 * Takes an image, into the room of a material's project where one is named. Its header is checked
 * here; it is unpacked only in workers.
 */
export async function uploadImage(
  user: SignedIn,
  { name: given = '', material }: { readonly name?: string; readonly material?: string },
  readFile: () => Promise<Uint8Array<ArrayBuffer>>,
  sentBytes = 0,
): Promise<{ image: string; name: string }> {
  const name = given.trim().slice(0, 120) || 'Image';
  const projectId = material && (await findMaterial(user.id, material))?.projectId;
  if (material !== undefined && !projectId) throw materialNotFound();
  if (projectId) await assertRoom(projectId, sentBytes, KEPT);
  const bytes = await readFile();
  const store = async (on?: Executor): Promise<string> => {
    const hash = await storeBlob(bytes, MEDIA_TYPES[checkImageHeader(bytes)], on);
    await insertImage({ hash, name, ownerId: user.id, projectId: projectId ?? null }, on);
    return hash;
  };
  return { image: await (projectId ? bringInto(projectId, KEPT, store) : store()), name };
}

/** Everyone in the studio may read an image; nothing else that is stored can be had this way. */
export async function imageFile(
  hash: string,
): Promise<{ bytes: Uint8Array<ArrayBuffer>; mediaType: string }> {
  const file = /^[0-9a-f]{64}$/.test(hash) ? await findImage(hash) : undefined;
  if (!file)
    throw new AppError(
      'image.not-found',
      'There is no such image.',
      'Choose another, or upload it again.',
      { status: 404 },
    );
  return { bytes: new Uint8Array(file.bytes), mediaType: file.mediaType };
}

/**
 * Makes the images of a document known to this process, for pictures and proofs. One that cannot be
 * read stays grey.
 */
export async function prepareImages(...documents: readonly NetworkDocument[]): Promise<void> {
  const needed = new Set(documents.flatMap((document) => imagesIn(document)));
  // This process runs for months; what one picture needed it need not keep.
  threadImages.keepOnly(needed, MOST_IMAGES);
  for (const hash of needed) {
    if (threadImages.has(hash)) continue;
    const file = await findImage(hash);
    if (!file) continue;
    try {
      threadImages.add(hash, new Uint8Array(file.bytes));
    } catch (error) {
      if (!(error instanceof AppError)) throw error;
      log().warn({ image: hash, code: error.code }, 'an image cannot be read');
    }
  }
}
