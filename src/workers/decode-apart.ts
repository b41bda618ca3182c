import * as Comlink from 'comlink';
import { AppError } from '../core/base/diagnostic';
import type { DecodedImage } from '../core/exchange/image-types';
import { unwrap } from './answer';
import type { ImageWorker } from './image.worker';

/** The largest images take a few seconds; whatever takes longer than this is no honest file. */
const LONGEST_MS = 30_000;

/**
 * Decodes an image in a thread of its own, which is ended when it is done, or when it takes too
 * long.
 * @throws WorkerProblem with what is wrong with the file; AppError where it takes too long
 */
export async function decodeApart(bytes: Uint8Array<ArrayBuffer>): Promise<DecodedImage> {
  const worker = new Worker(new URL('./image.worker.ts', import.meta.url), { type: 'module' });
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<never>((_, reject) => {
    const message = `The image was not decoded within ${String(LONGEST_MS / 1000)} seconds.`;
    const action = 'Save it again, as PNG, JPEG, OpenEXR or Radiance HDR.';
    const fail = (): void => {
      reject(new AppError('image.too-costly', message, action, { kept: 'Nothing was changed.' }));
    };
    timer = setTimeout(fail, LONGEST_MS);
    worker.addEventListener('error', fail);
  });
  try {
    return await Promise.race([unwrap(Comlink.wrap<ImageWorker>(worker).decode(bytes)), late]);
  } finally {
    clearTimeout(timer);
    worker.terminate();
  }
}
