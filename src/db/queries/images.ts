import { desc, eq } from 'drizzle-orm';
import { database } from '../client';
import type { Executor } from '../client';
import { blob, image } from '../schema/index';

/** The newest first. */
export async function listImages(
  limit = 500,
): Promise<readonly { hash: string; name: string; mediaType: string }[]> {
  return database()
    .select({ hash: image.hash, name: image.name, mediaType: blob.mediaType })
    .from(image)
    .innerJoin(blob, eq(blob.hash, image.hash))
    .orderBy(desc(image.createdAt))
    .limit(limit);
}

/** Keeps the first name an image was given. */
export async function insertImage(
  given: {
    hash: string;
    name: string;
    ownerId: string;
    projectId: string | null;
  },
  on: Executor = database(),
): Promise<void> {
  await on.insert(image).values(given).onConflictDoNothing();
}

export async function findImage(
  hash: string,
): Promise<{ mediaType: string; bytes: Buffer } | undefined> {
  const [row] = await database()
    .select({ mediaType: blob.mediaType, bytes: blob.bytes })
    .from(image)
    .innerJoin(blob, eq(blob.hash, image.hash))
    .where(eq(image.hash, hash));
  return row;
}

export async function hasImage(hash: string): Promise<boolean> {
  const found = await database()
    .select({ hash: image.hash })
    .from(image)
    .where(eq(image.hash, hash));
  return found.length > 0;
}
