import { AppError } from '@/core/base/diagnostic';
import { threadImages } from '@/core/evaluate/image-store';
import { imagesIn } from '@/core/compile/images';
import { IMAGE_LIMITS } from '@/core/exchange/image-types';
import { MEDIA_TYPES, assertImage } from '@/core/exchange/images';
import type { NetworkDocument } from '@/core/graph/document';
import { findImage, insertImage } from '@/db/queries/images';
import { storeBlob } from '@/db/queries/blobs';
import type { SignedIn } from './authentication';
import { readBytes } from './http';

/** Unpacked images this process keeps between pictures. */
const MOST_IMAGES = 64;

/** Takes an image. Its first bytes are checked here; it is unpacked only in workers. */
export async function uploadImage(user: SignedIn, request: Request): Promise<{ image: string; name: string }> {
  const name = (new URL(request.url).searchParams.get('name') ?? '').trim().slice(0, 120) || 'Image';
  const bytes = await readBytes(request, IMAGE_LIMITS.bytes);
  const hash = await storeBlob(bytes, MEDIA_TYPES[assertImage(bytes)]);
  await insertImage({ hash, name, ownerId: user.id });
  return { image: hash, name };
}

/** Everyone in the studio may read an image; nothing else that is stored can be had this way. */
export async function imageFile(hash: string): Promise<{ bytes: Uint8Array<ArrayBuffer>; mediaType: string }> {
  const file = /^[0-9a-f]{64}$/.test(hash) ? await findImage(hash) : undefined;
  if (!file) throw new AppError('image.not-found', 'There is no such image.', 'Choose another, or bring it in again.', { status: 404 });
  return { bytes: new Uint8Array(file.bytes), mediaType: file.mediaType };
}

/** Makes the images of a document known to this process, for pictures and proofs. One that cannot be read stays grey. */
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
      console.warn(`image ${hash}: ${error.message}`);
    }
  }
}
