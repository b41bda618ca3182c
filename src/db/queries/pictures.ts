import { and, eq, exists, isNull, like, or, sql } from 'drizzle-orm';
import { database } from '../client';
import { blob, entry, material, projectMember, release } from '../schema/index';
import { isMember } from './members';

const one = { one: sql`1` };

/**
 * A picture by its hash, where it shows a material of a person's projects or a release on a rack
 * they see.
 */
export async function findPicture(
  userId: string,
  hash: string,
): Promise<{ mediaType: string; bytes: Buffer } | undefined> {
  const ofMaterial = database()
    .select(one)
    .from(material)
    .where(and(eq(material.swatchHash, blob.hash), isMember(userId, material.projectId)));
  const ofProjectRack = database()
    .select(one)
    .from(projectMember)
    .where(
      and(
        eq(projectMember.userId, userId),
        eq(entry.rack, sql`'project:' || ${projectMember.projectId}`),
      ),
    );
  const ofRelease = database()
    .select(one)
    .from(release)
    .innerJoin(entry, eq(entry.id, release.entryId))
    .where(
      and(
        or(eq(release.swatchHash, blob.hash), eq(release.sheetHash, blob.hash)),
        isNull(release.withdrawnAt),
        or(eq(entry.rack, 'studio'), exists(ofProjectRack)),
      ),
    );
  const [row] = await database()
    .select({ mediaType: blob.mediaType, bytes: blob.bytes })
    .from(blob)
    .where(
      and(
        eq(blob.hash, hash),
        like(blob.mediaType, 'image/%'),
        or(exists(ofMaterial), exists(ofRelease)),
      ),
    );
  return row;
}
