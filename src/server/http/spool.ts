import { open, unlink } from 'node:fs/promises';
import type { FileHandle } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { tooLarge } from './read-body';

/** A file that was sent, on the disk without a name: it is gone once it is closed. */
export interface SpooledFile {
  readonly handle: FileHandle;
  readonly size: number;
}

/**
 * Writes what arrives to the disk as it comes, at most `limit` bytes: however large it is, little
 * of it is in memory. Its name is taken away at once, so that nothing is left behind.
 */
export async function spool(
  chunks: AsyncIterable<Uint8Array>,
  limit: number,
): Promise<SpooledFile> {
  const name = path.join(tmpdir(), `bright-loom-${randomUUID()}`);
  const handle = await open(name, 'wx+', 0o600);
  await unlink(name);
  let size = 0;
  try {
    for await (const chunk of chunks) {
      size += chunk.length;
      if (size > limit) throw tooLarge(limit);
      await handle.write(chunk);
    }
    return { handle, size };
  } catch (error) {
    await handle.close();
    throw error;
  }
}

/** The chunks of a request's body. */
export const bodyOf = (request: Request): AsyncIterable<Uint8Array> =>
  (request.body ?? []) as AsyncIterable<Uint8Array>;
