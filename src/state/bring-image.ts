import { IMAGE_LIMITS } from '../core/exchange/image-types';
import { assertImage } from '../core/exchange/images';
import { AppError } from '../core/base/diagnostic';
import type { ImageValue } from '../core/graph/document';
import { WorkerProblem, settled } from '../workers/answer';
import { WorkerPool } from '../workers/pool';
import { getJson, sendBytes } from './api';

/** An image that could not be taken, with what to do. */
export class ImageRefused extends Error {}

/** Reads a file in a worker first, so that a broken one is refused with its reason, then sends it to the studio. */
export async function bringImage(file: File): Promise<ImageValue> {
  if (file.size > IMAGE_LIMITS.bytes) throw new ImageRefused(`${file.name} has ${String(Math.ceil(file.size / 1048576))} MB; the limit is ${String(IMAGE_LIMITS.bytes / 1048576)} MB. Nothing was changed.`);
  const bytes = new Uint8Array(await file.arrayBuffer());
  const pool = new WorkerPool(2);
  try {
    assertImage(bytes);
    await settled(pool.evaluator.loadImage('upload', bytes));
  } catch (error) {
    if (error instanceof AppError || error instanceof WorkerProblem) throw new ImageRefused(`${file.name}: ${error.message} ${error.action}`.trim());
    throw error;
  } finally {
    pool.close();
  }
  return sendBytes<ImageValue>(`/api/images?name=${encodeURIComponent(file.name)}`, bytes);
}

export const listStudioImages = async (): Promise<readonly { hash: string; name: string }[]> => (await getJson<{ images: readonly { hash: string; name: string }[] }>('/api/images')).images;
