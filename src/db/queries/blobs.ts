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

/** How many bytes a file has; null where there is none. */
export async function findBlobSize(hash: string): Promise<number | null> {
  const [row] = await database()
    .select({ size: sql<number>`octet_length(${blob.bytes})` })
    .from(blob)
    .where(eq(blob.hash, hash));
  return row?.size ?? null;
}

/** Bytes of a file that are read or written at a time. */
const PIECE = 1024 * 1024;

/** A file piece by piece. */
export async function* readBlobChunks(hash: string, size: number): AsyncGenerator<Buffer> {
  for (let from = 0; from < size; from += PIECE) {
    const [row] = await database()
      .select({ piece: sql<Buffer>`substring(${blob.bytes} from ${from + 1} for ${PIECE})` })
      .from(blob)
      .where(eq(blob.hash, hash));
    if (!row) throw new Error(`the file ${hash} went while it was read`);
    yield row.piece;
  }
}

/**
 * Stores a file piece by piece, within a transaction; the database puts it together.
 * @returns its hash
 */
export async function storeBlobChunks(
  chunks: AsyncIterable<Uint8Array>,
  mediaType: string,
  tx: Executor,
): Promise<string> {
  await tx.execute(sql`create temporary table if not exists blob_piece
    (number int primary key, bytes bytea) on commit drop`);
  await tx.execute(sql`truncate blob_piece`);
  const hash = createHash('sha256');
  let [number, held] = [0, 0];
  let waiting: Uint8Array[] = [];
  const write = async (): Promise<void> => {
    const piece = Buffer.concat(waiting);
    await tx.execute(sql`insert into blob_piece values (${number++}, ${piece})`);
    [waiting, held] = [[], 0];
  };
  for await (const chunk of chunks) {
    hash.update(chunk);
    waiting.push(chunk);
    held += chunk.length;
    if (held >= PIECE) await write();
  }
  await write();
  const named = hash.digest('hex');
  await tx.execute(sql`insert into blob (hash, media_type, bytes)
    select ${named}, ${mediaType}, coalesce(string_agg(bytes, ''::bytea order by number), ''::bytea)
    from blob_piece on conflict (hash) do update set created_at = now()`);
  return named;
}

/** The first bytes of a file. */
export async function findBlobHead(
  hash: string,
  count: number,
): Promise<{ mediaType: string; bytes: Buffer } | undefined> {
  const [row] = await database()
    .select({
      mediaType: blob.mediaType,
      bytes: sql<Buffer>`substring(${blob.bytes} from 1 for ${count})`,
    })
    .from(blob)
    .where(eq(blob.hash, hash));
  return row;
}
