import { and, eq, exists, isNull, like, or, sql } from 'drizzle-orm';
import { database } from '../client';
import {
  blob,
  consequence,
  entry,
  keptState,
  material,
  outlook,
  preset,
  projectMember,
  release,
} from '../schema/index';
import { isMember } from './members';

const one = { one: sql`1` };

/** That a person sees a rack. */
const isSeen = (userId: string, rack: typeof entry.rack | typeof preset.rack) =>
  or(
    eq(rack, 'studio'),
    eq(rack, `person:${userId}`),
    exists(
      database()
        .select(one)
        .from(projectMember)
        .where(
          and(
            eq(projectMember.userId, userId),
            eq(rack, sql`'project:' || ${projectMember.projectId}`),
          ),
        ),
    ),
  );

/**
 * A picture by its hash, where it shows a material of a person's projects or a kept state of one, a
 * release on a rack
 * they see, the cover of an entry or a preset there, or consequences that they asked for.
 */
export async function findPicture(
  userId: string,
  hash: string,
): Promise<{ mediaType: string; bytes: Buffer } | undefined> {
  const ofMaterial = database()
    .select(one)
    .from(material)
    .where(and(eq(material.swatchHash, blob.hash), isMember(userId, material.projectId)));
  const ofState = database()
    .select(one)
    .from(keptState)
    .innerJoin(material, eq(material.id, keptState.materialId))
    .where(and(eq(keptState.pictureHash, blob.hash), isMember(userId, material.projectId)));
  const isOnRack = isSeen(userId, entry.rack);
  const ofRelease = database()
    .select(one)
    .from(release)
    .innerJoin(entry, eq(entry.id, release.entryId))
    .where(
      and(
        or(eq(release.swatchHash, blob.hash), eq(release.sheetHash, blob.hash)),
        isNull(release.withdrawnAt),
        isOnRack,
      ),
    );
  const ofCover = database()
    .select(one)
    .from(entry)
    .where(and(eq(entry.coverHash, blob.hash), isNull(entry.withdrawnReason), isOnRack));
  const ofPreset = database()
    .select(one)
    .from(preset)
    .where(and(eq(preset.swatchHash, blob.hash), isSeen(userId, preset.rack)));
  const ofConsequence = database()
    .select(one)
    .from(consequence)
    .innerJoin(outlook, eq(outlook.id, consequence.outlookId))
    .where(
      and(
        eq(outlook.userId, userId),
        or(eq(consequence.beforeHash, blob.hash), eq(consequence.afterHash, blob.hash)),
      ),
    );
  const [row] = await database()
    .select({ mediaType: blob.mediaType, bytes: blob.bytes })
    .from(blob)
    .where(
      and(
        eq(blob.hash, hash),
        like(blob.mediaType, 'image/%'),
        or(
          ...[ofMaterial, ofState, ofRelease, ofCover, ofPreset, ofConsequence].map((each) =>
            exists(each),
          ),
        ),
      ),
    );
  return row;
}
