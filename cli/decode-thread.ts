/** Runs in a thread of its own, so that a hostile image can be ended. */
import { decodeImage } from '@/core/exchange/images';
import { AppError } from '@/core/base/diagnostic';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import type { DecodedImage } from '@/core/exchange/image-types';

/** Errors thrown across threads lose their kind: what is wrong with a file comes as data. */
export type Decoded = { readonly image: DecodedImage } | { readonly problem: Problem };

export default function decode(bytes: Uint8Array): Decoded {
  try {
    return { image: decodeImage(bytes) };
  } catch (error) {
    if (!(error instanceof AppError)) throw error;
    return { problem: describeError(error) };
  }
}
