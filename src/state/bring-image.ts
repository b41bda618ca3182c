import { listImages, uploadImage } from '../contract/images';
import { AppError } from '../core/base/diagnostic';
import { IMAGE_LIMITS } from '../core/exchange/image-types';
import { assertImage } from '../core/exchange/images';
import type { ImageValue } from '../core/graph/document';
import { decodeApart } from '../workers/decode-apart';
import { call } from './api';
import { read } from './query-client';
import { stores } from './stores';
import { aboutFile } from './upload';

/**
 * Reads a file in a worker first, so that a broken one is refused with its reason, then sends it to
 * the studio.
 */
export async function bringImage(file: File): Promise<ImageValue> {
  if (file.size > IMAGE_LIMITS.bytes) {
    const [size, limit] = [file.size, IMAGE_LIMITS.bytes].map((bytes) =>
      String(Math.ceil(bytes / 1048576)),
    );
    const message = `${file.name} has ${size ?? ''} MB; the limit is ${limit ?? ''} MB.`;
    throw new AppError('image.too-large', message, 'Reduce it or store it compressed.', {
      kept: 'Nothing was changed.',
    });
  }
  const bytes = new Uint8Array(await file.arrayBuffer());
  try {
    assertImage(bytes);
    await decodeApart(bytes);
  } catch (error) {
    throw aboutFile(file, error);
  }
  const { materialId } = stores.document.getState();
  const query = {
    name: file.name.slice(0, 400),
    ...(materialId ? { material: materialId } : {}),
  };
  return call(uploadImage, { query, file: bytes });
}

export const listStudioImages = async (): Promise<readonly { hash: string; name: string }[]> =>
  (await read(listImages)).images;
