import { and, desc, eq, inArray, isNull } from 'drizzle-orm';
import type { ProofSheet } from '@/core/evaluate/proof-sheet';
import { database } from '../client';
import { entry, release, user } from '../schema/index';

/** Entries on the given racks with their newest release that is not withdrawn. */
export async function listEntries(racks: readonly string[]) {
  const rows = await database()
    .select({
      id: entry.id,
      rack: entry.rack,
      name: entry.name,
      description: entry.description,
      tags: entry.tags,
      authorName: user.name,
      version: release.version,
      swatchHash: release.swatchHash,
      withdrawnAt: release.withdrawnAt,
      releasedAt: release.createdAt,
    })
    .from(entry)
    .innerJoin(user, eq(user.id, entry.authorId))
    .innerJoin(release, eq(release.entryId, entry.id))
    .where(inArray(entry.rack, [...racks]))
    .orderBy(entry.name, desc(release.createdAt));
  const seen = new Set<string>();
  return rows.filter((row) => row.withdrawnAt === null && !seen.has(row.id) && seen.add(row.id));
}

export async function findEntry(id: string) {
  const [row] = await database()
    .select({
      id: entry.id,
      rack: entry.rack,
      name: entry.name,
      description: entry.description,
      tags: entry.tags,
      authorName: user.name,
    })
    .from(entry)
    .innerJoin(user, eq(user.id, entry.authorId))
    .where(eq(entry.id, id));
  return row;
}

export async function findEntryByName(rack: string, name: string) {
  const [row] = await database()
    .select({ id: entry.id })
    .from(entry)
    .where(and(eq(entry.rack, rack), eq(entry.name, name)));
  return row;
}

export async function listReleases(entryId: string) {
  return database()
    .select({
      version: release.version,
      contentHash: release.contentHash,
      groups: release.groups,
      documentVersion: release.documentVersion,
      proof: release.proof,
      swatchHash: release.swatchHash,
      sheet: release.sheet,
      sheetHash: release.sheetHash,
      authorName: user.name,
      createdAt: release.createdAt,
      withdrawnAt: release.withdrawnAt,
      withdrawnReason: release.withdrawnReason,
    })
    .from(release)
    .innerJoin(user, eq(user.id, release.authorId))
    .where(eq(release.entryId, entryId))
    .orderBy(desc(release.createdAt));
}

export type NewRelease = Omit<
  typeof release.$inferInsert,
  'createdAt' | 'withdrawnAt' | 'withdrawnReason' | 'sheet' | 'sheetHash'
>;

/** Adds an entry if it is new, and its release, together or not at all. */
export async function insertRelease(
  newEntry: typeof entry.$inferInsert,
  given: NewRelease,
): Promise<void> {
  await database().transaction(async (tx) => {
    await tx
      .insert(entry)
      .values(newEntry)
      .onConflictDoUpdate({
        target: entry.id,
        set: { description: newEntry.description, tags: newEntry.tags },
      });
    await tx.insert(release).values(given);
  });
}

/** Keeps the proof sheet of a release; the one it has, if it has one, stays. */
export async function keepSheet(
  { entryId, version }: { readonly entryId: string; readonly version: string },
  sheet: ProofSheet,
  sheetHash: string,
): Promise<void> {
  await database()
    .update(release)
    .set({ sheet, sheetHash })
    .where(
      and(eq(release.entryId, entryId), eq(release.version, version), isNull(release.sheetHash)),
    );
}

export async function withdrawRelease(
  entryId: string,
  version: string,
  reason: string,
): Promise<boolean> {
  const rows = await database()
    .update(release)
    .set({ withdrawnAt: new Date(), withdrawnReason: reason })
    .where(and(eq(release.entryId, entryId), eq(release.version, version)))
    .returning({ version: release.version });
  return rows.length > 0;
}
