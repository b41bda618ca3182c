import { and, desc, eq, gt, lt, ne, sql } from 'drizzle-orm';
import { database } from '../client';
import { material, presence, revision, user } from '../schema/index';

/** Revisions before a number, the newest first, with what names them. */
export function listRevisions(materialId: string, before: number | null, count: number) {
  const states = sql<readonly string[]>`coalesce((select json_agg(s.name order by s.created_at)
    from kept_state s where s.material_id = ${revision.materialId}
      and s.revision = ${revision.number}), '[]'::json)`;
  const releases = sql<readonly string[]>`coalesce((select json_agg(e.name || ' ' || r.version)
    from release r join entry e on e.id = r.entry_id
    where r.source_material_id = ${revision.materialId}
      and r.source_revision = ${revision.number}), '[]'::json)`;
  return database()
    .select({
      number: revision.number,
      authorName: user.name,
      createdAt: revision.createdAt,
      states,
      releases,
    })
    .from(revision)
    .innerJoin(user, eq(user.id, revision.authorId))
    .where(
      and(
        eq(revision.materialId, materialId),
        before === null ? undefined : lt(revision.number, before),
      ),
    )
    .orderBy(desc(revision.number))
    .limit(count);
}

/** Whose the newest revision is. */
export async function findHead(materialId: string) {
  const [found] = await database()
    .select({ head: material.head, headAuthor: user.name })
    .from(material)
    .innerJoin(
      revision,
      and(eq(revision.materialId, material.id), eq(revision.number, material.head)),
    )
    .innerJoin(user, eq(user.id, revision.authorId))
    .where(eq(material.id, materialId));
  return found;
}

/** Notes that somebody has a material open at a revision. */
export async function keepPresence(
  materialId: string,
  userId: string,
  open: number,
): Promise<void> {
  const seenAt = new Date();
  await database()
    .insert(presence)
    .values({ materialId, userId, revision: open, seenAt })
    .onConflictDoUpdate({
      target: [presence.materialId, presence.userId],
      set: { revision: open, seenAt },
    });
}
export async function dropPresence(materialId: string, userId: string): Promise<void> {
  await database()
    .delete(presence)
    .where(and(eq(presence.materialId, materialId), eq(presence.userId, userId)));
}
/** Who else was heard of within so many seconds; those heard of long ago are forgotten. */
export async function listOthers(materialId: string, userId: string, seconds: number) {
  const since = new Date(Date.now() - seconds * 1000);
  await database().delete(presence).where(lt(presence.seenAt, since));
  return database()
    .select({ name: user.name, revision: presence.revision })
    .from(presence)
    .innerJoin(user, eq(user.id, presence.userId))
    .where(
      and(
        eq(presence.materialId, materialId),
        ne(presence.userId, userId),
        gt(presence.seenAt, since),
      ),
    )
    .orderBy(user.name);
}
