import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { releasesUsed } from '../../core/releases/take-release';
import type { NetworkDocument } from '../../core/graph/document';
import type { LostSetting } from '../../core/releases/take-release';
import { database } from '../client';
import type { Executor } from '../client';
import { entry, entryUse, material, project, release, taking } from '../schema/index';
import { isMember } from './members';

/** Notes which releases the newest revision of a material uses; counts follow. */
export async function noteUses(
  tx: Executor,
  materialId: string,
  document: NetworkDocument,
): Promise<void> {
  const now = releasesUsed(document);
  const before = await tx.select().from(entryUse).where(eq(entryUse.materialId, materialId));
  const text = (use: { entryId: string; version: string; pinned: string | null }): string =>
    JSON.stringify([use.entryId, use.version, use.pinned]);
  if (before.map(text).sort().join() === now.map(text).sort().join()) return;
  await tx.delete(entryUse).where(eq(entryUse.materialId, materialId));
  if (now.length > 0) await tx.insert(entryUse).values(now.map((use) => ({ materialId, ...use })));
  const touched = [...new Set([...before, ...now].map(({ entryId }) => entryId))].sort();
  // In one order, so that two savers never wait for each other.
  for (const id of touched)
    await tx
      .update(entry)
      .set({
        uses: sql`(select count(distinct ${entryUse.materialId}) from ${entryUse}
          where ${entryUse.entryId} = ${id})`,
      })
      .where(eq(entry.id, id));
}

/** The materials that use an entry and that a person may see, by name. */
export async function listUsers(userId: string, entryId: string) {
  return database()
    .select({
      materialId: material.id,
      name: material.name,
      projectId: material.projectId,
      projectName: project.name,
      modelId: material.modelId,
      head: material.head,
      swatchHash: material.swatchHash,
      version: entryUse.version,
      pinned: entryUse.pinned,
    })
    .from(entryUse)
    .innerJoin(material, eq(material.id, entryUse.materialId))
    .innerJoin(project, eq(project.id, material.projectId))
    .where(
      and(
        eq(entryUse.entryId, entryId),
        isNull(material.archivedAt),
        isMember(userId, material.projectId),
      ),
    )
    .orderBy(asc(material.name), asc(material.id));
}

/** How many materials use an entry, whoever may see them. */
export async function countUsers(entryId: string): Promise<number> {
  const [row] = await database()
    .select({ count: sql<number>`count(distinct ${entryUse.materialId})::int` })
    .from(entryUse)
    .innerJoin(material, eq(material.id, entryUse.materialId))
    .where(and(eq(entryUse.entryId, entryId), isNull(material.archivedAt)));
  return row?.count ?? 0;
}

/** Releases in use in a person's materials where the entry has a newer one, or withdrew it. */
export async function listWaiting(userId: string, materialId: string | null) {
  return database()
    .select({
      materialId: material.id,
      materialName: material.name,
      projectId: material.projectId,
      projectName: project.name,
      entryId: entry.id,
      entryName: entry.name,
      version: entryUse.version,
      newest: entry.version,
      pinned: entryUse.pinned,
      withdrawnReason: sql<string | null>`coalesce(${entry.withdrawnReason},
        ${release.withdrawnReason})`,
      deprecatedReason: entry.deprecatedReason,
      successorId: entry.successorId,
    })
    .from(entryUse)
    .innerJoin(entry, eq(entry.id, entryUse.entryId))
    .innerJoin(material, eq(material.id, entryUse.materialId))
    .innerJoin(project, eq(project.id, material.projectId))
    .leftJoin(
      release,
      and(eq(release.entryId, entryUse.entryId), eq(release.version, entryUse.version)),
    )
    .where(
      and(
        isNull(material.archivedAt),
        isMember(userId, material.projectId),
        ...(materialId === null ? [] : [eq(material.id, materialId)]),
        sql`(${entry.version} is distinct from ${entryUse.version}
          or ${entry.withdrawnReason} is not null or ${release.withdrawnAt} is not null
          or ${entry.deprecatedReason} is not null)`,
      ),
    )
    .orderBy(entry.name, material.name)
    .limit(2000);
}

/** The classes of an entry's releases, for what lies between two of them. */
export async function listClasses(entryIds: readonly string[]) {
  if (entryIds.length === 0) return [];
  return database()
    .select({
      entryId: release.entryId,
      version: release.version,
      releaseClass: release.releaseClass,
    })
    .from(release)
    .where(and(inArray(release.entryId, [...entryIds]), eq(release.state, 'out')));
}

export interface NewTaking {
  readonly materialId: string;
  readonly entryId: string;
  readonly revision: number;
  readonly fromVersion: string;
  readonly toVersion: string;
  readonly lost: readonly LostSetting[];
  readonly userId: string;
}

/** Notes how a release was taken; the same revision is noted once. */
export async function noteTaking(tx: Executor, given: NewTaking): Promise<void> {
  await tx.insert(taking).values(given).onConflictDoNothing();
}

/** How a material took the release of an entry that it uses, the last time. */
export async function findTaking(materialId: string, entryId: string) {
  const [row] = await database()
    .select()
    .from(taking)
    .where(and(eq(taking.materialId, materialId), eq(taking.entryId, entryId)))
    .orderBy(sql`${taking.revision} desc`)
    .limit(1);
  return row;
}

/** Forgets a taking that was put back. */
export async function forgetTaking(tx: Executor, given: NewTaking): Promise<void> {
  await tx
    .delete(taking)
    .where(
      and(
        eq(taking.materialId, given.materialId),
        eq(taking.entryId, given.entryId),
        eq(taking.revision, given.revision),
      ),
    );
}
