import { createHash } from 'node:crypto';
import { eq, sql } from 'drizzle-orm';
import { database } from '../client';
import type { Executor } from '../client';
import { blob } from '../schema/index';

/** Stores bytes once; gives back their hash. What is there already counts as stored anew. */
export async function storeBlob(
  bytes: Uint8Array,
  mediaType: string,
  on: Executor = database(),
): Promise<string> {
  const hash = createHash('sha256').update(bytes).digest('hex');
  await on
    .insert(blob)
    .values({ hash, mediaType, bytes: Buffer.from(bytes) })
    .onConflictDoUpdate({ target: blob.hash, set: { createdAt: sql`now()` } });
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
