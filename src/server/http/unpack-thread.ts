/**
 * Runs in a thread of its own: unfolds and judges a material's file, so that no file holds up other
 * requests.
 */
import { AppError } from '@/core/base/diagnostic';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import { unpackMaterial } from '@/core/exchange/material-file';
import type { MaterialFile } from '@/core/exchange/material-manifest';

/** What came of it, as data. */
export type Unpacked = { readonly file: MaterialFile } | { readonly problem: Problem };

export default function unpack(bytes: Uint8Array): Unpacked {
  try {
    return { file: unpackMaterial(bytes) };
  } catch (error) {
    if (error instanceof AppError) return { problem: describeError(error) };
    throw error;
  }
}
