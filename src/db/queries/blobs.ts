import { createHash } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { database } from '../client';
import type { Executor } from '../client';
import { blob } from '../schema/index';

/** Stores bytes once; gives back their hash. */
export async function storeBlob(
  bytes: Uint8Array,
  mediaType: string,
  on: Executor = database(),
): Promise<string> {
  const hash = createHash('sha256').update(bytes).digest('hex');
  await on
    .insert(blob)
    .values({ hash, mediaType, bytes: Buffer.from(bytes) })
    .onConflictDoNothing();
  return hash;
}

export async function findBlob(
  hash: string,
): Promise<{ mediaType: string; bytes: Buffer } | undefined> {
  const [row] = await database()
    .select({ mediaType: blob.mediaType, bytes: blob.bytes })
    .from(blob)
    .where(eq(blob.hash, hash));
  return row;
}
