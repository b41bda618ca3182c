import { and, desc, eq, inArray, isNull } from 'drizzle-orm';
import type { ProofSheet } from '@/core/evaluate/proof-sheet';
import { database, transaction } from '../client';
import { entry, release, user } from '../schema/index';

export async function findEntry(id: string) {
  const [row] = await database()
    .select({
      id: entry.id,
      rack: entry.rack,
      name: entry.name,
      description: entry.description,
      tags: entry.tags,
      authorId: entry.authorId,
      authorName: user.name,
      coverHash: entry.coverHash,
      version: entry.version,
      deprecatedReason: entry.deprecatedReason,
      successorId: entry.successorId,
      withdrawnReason: entry.withdrawnReason,
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

const SUMMARY = {
  version: release.version,
  state: release.state,
  releaseClass: release.releaseClass,
  baseVersion: release.baseVersion,
  comparison: release.comparison,
  notes: release.notes,
  remarks: release.remarks,
  swatchHash: release.swatchHash,
  contentHash: release.contentHash,
  authorId: release.authorId,
  authorName: user.name,
  createdAt: release.createdAt,
  withdrawnAt: release.withdrawnAt,
  withdrawnReason: release.withdrawnReason,
};

/** What is known of the releases of an entry, newest first, without their groups. */
export async function listReleases(entryId: string) {
  return database()
    .select(SUMMARY)
    .from(release)
    .innerJoin(user, eq(user.id, release.authorId))
    .where(eq(release.entryId, entryId))
    .orderBy(desc(release.createdAt));
}

/** One release with all that it holds. */
export async function findRelease(entryId: string, version: string) {
  const [row] = await database()
    .select({
      ...SUMMARY,
      groups: release.groups,
      documentVersion: release.documentVersion,
      proof: release.proof,
      sheet: release.sheet,
      sheetHash: release.sheetHash,
      sourceMaterialId: release.sourceMaterialId,
      sourceRevision: release.sourceRevision,
    })
    .from(release)
    .innerJoin(user, eq(user.id, release.authorId))
    .where(and(eq(release.entryId, entryId), eq(release.version, version)));
  return row;
}

export type NewEntry = Pick<
  typeof entry.$inferInsert,
  'id' | 'rack' | 'name' | 'description' | 'tags' | 'authorId'
>;
export type NewRelease = Omit<
  typeof release.$inferInsert,
  'createdAt' | 'withdrawnAt' | 'withdrawnReason' | 'sheet' | 'sheetHash' | 'version'
>;
interface Released {
  readonly version: string;
  /** Equal content was there already: an earlier try of the same. */
  readonly isNew: boolean;
}
/** What stands of an entry at the moment a release of it is to be added. */
export interface Standing {
  readonly versions: readonly string[];
  readonly newest: { readonly version: string; readonly contentHash: string } | null;
}

/**
 * Adds a release, and its entry where that is new, together or not at all. The entry is locked
 * meanwhile: of two who publish at once, the second sees what the first made.
 * @param choose the version, from what stands there; what it throws leaves all as it was
 */
export async function insertRelease(
  newEntry: NewEntry,
  given: NewRelease,
  choose: (standing: Standing) => string,
): Promise<Released> {
  return transaction(async (tx) => {
    await tx.insert(entry).values(newEntry).onConflictDoNothing({ target: entry.id });
    await tx.select({ id: entry.id }).from(entry).where(eq(entry.id, newEntry.id)).for('update');
    const all = await tx
      .select({
        version: release.version,
        contentHash: release.contentHash,
        state: release.state,
        withdrawnAt: release.withdrawnAt,
      })
      .from(release)
      .where(eq(release.entryId, newEntry.id))
      .orderBy(desc(release.createdAt));
    const same = all.find(
      ({ contentHash, state, withdrawnAt }) =>
        contentHash === given.contentHash && state !== 'returned' && withdrawnAt === null,
    );
    const newest = all.find(({ state, withdrawnAt }) => state === 'out' && withdrawnAt === null);
    if (same && (same === newest || same.state === 'proposed'))
      return { version: same.version, isNew: false };
    const version = choose({
      versions: all.map((each) => each.version),
      newest: newest ?? null,
    });
    await tx.insert(release).values({ ...given, version });
    return { version, isNew: true };
  });
}

/** The newest release of an entry that is out and not withdrawn. */
export async function findNewest(entryId: string) {
  const [row] = await database()
    .select({
      version: release.version,
      swatchHash: release.swatchHash,
      createdAt: release.createdAt,
    })
    .from(release)
    .where(and(eq(release.entryId, entryId), eq(release.state, 'out'), isNull(release.withdrawnAt)))
    .orderBy(desc(release.createdAt))
    .limit(1);
  return row;
}

export type EntryChange = Partial<
  Pick<
    typeof entry.$inferInsert,
    | 'name'
    | 'description'
    | 'tags'
    | 'rack'
    | 'coverHash'
    | 'deprecatedReason'
    | 'successorId'
    | 'withdrawnReason'
  >
>;
export async function changeEntry(id: string, set: EntryChange): Promise<void> {
  if (Object.keys(set).length > 0) await database().update(entry).set(set).where(eq(entry.id, id));
}

/** Decides on a proposed release. @returns whether it was still proposed */
export async function decide(
  entryId: string,
  version: string,
  decision: Pick<typeof release.$inferInsert, 'state' | 'remarks' | 'decidedBy'>,
): Promise<boolean> {
  const rows = await database()
    .update(release)
    .set({ ...decision, decidedAt: new Date() })
    .where(
      and(
        eq(release.entryId, entryId),
        eq(release.version, version),
        eq(release.state, 'proposed'),
      ),
    )
    .returning({ version: release.version });
  return rows.length > 0;
}

/** Releases that wait for a librarian on some racks, the oldest first. */
export async function listProposed(racks: readonly string[]) {
  return database()
    .select({
      entryId: entry.id,
      entryName: entry.name,
      rack: entry.rack,
      version: release.version,
      releaseClass: release.releaseClass,
      authorName: user.name,
      notes: release.notes,
    })
    .from(release)
    .innerJoin(entry, eq(entry.id, release.entryId))
    .innerJoin(user, eq(user.id, release.authorId))
    .where(and(eq(release.state, 'proposed'), inArray(entry.rack, [...racks])))
    .orderBy(release.createdAt)
    .limit(1000);
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
