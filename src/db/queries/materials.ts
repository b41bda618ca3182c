import { and, eq, isNull, ne, sql } from 'drizzle-orm';
import type { NetworkDocument } from '../../core/graph/document';
import { database, transaction } from '../client';
import type { Executor } from '../client';
import { material, project, projectMember, revision, user } from '../schema/index';
import { noteUses } from './entry-uses';
import { isMember } from './members';
import { holdOrigins } from './origins';
import { leaveOtherSets } from './sets';

export async function findMaterial(userId: string, id: string) {
  const [row] = await database()
    .select({
      id: material.id,
      name: material.name,
      projectId: material.projectId,
      ownerId: material.ownerId,
      ownerName: user.name,
      modelId: material.modelId,
      head: material.head,
      swatchHash: material.swatchHash,
    })
    .from(material)
    .innerJoin(user, eq(user.id, material.ownerId))
    .where(and(eq(material.id, id), isMember(userId, material.projectId)));
  return row;
}

export async function findRevision(materialId: string, number: number) {
  const [row] = await database()
    .select({
      number: revision.number,
      document: revision.document,
      contentHash: revision.contentHash,
      authorName: user.name,
      createdAt: revision.createdAt,
    })
    .from(revision)
    .innerJoin(user, eq(user.id, revision.authorId))
    .where(and(eq(revision.materialId, materialId), eq(revision.number, number)));
  return row;
}

export interface NewMaterial {
  id: string;
  projectId: string;
  ownerId: string;
  name: string;
  modelId: string;
  document: NetworkDocument;
  contentHash: string;
}

export async function insertMaterial(given: NewMaterial): Promise<void> {
  await transaction(async (tx) => {
    await tx.insert(material).values({
      id: given.id,
      projectId: given.projectId,
      ownerId: given.ownerId,
      name: given.name,
      modelId: given.modelId,
      head: 1,
    });
    await tx.insert(revision).values({
      materialId: given.id,
      number: 1,
      document: given.document,
      contentHash: given.contentHash,
      authorId: given.ownerId,
    });
    await noteUses(tx, given.id, given.document);
    await holdOrigins(tx, given.document);
  });
}

export type SaveOutcome =
  | { readonly saved: true; readonly revision: number; readonly isNew: boolean }
  | { readonly saved: false; readonly head: number };

export interface NewRevision {
  readonly materialId: string;
  readonly base: number;
  readonly name: string;
  readonly modelId: string;
  readonly document: NetworkDocument;
  readonly contentHash: string;
  readonly authorId: string;
}

/**
 * Adds a revision if `base` is still the newest; the row is locked meanwhile, so of two savers one
 * is told of the other. What is saved already is not saved again: a document equal to the newest,
 * and one whose answer was lost on the way (same base, author and content), answer with the
 * revision that holds it.
 * @param also what is written with a new revision, or not at all
 */
export async function saveRevision(
  given: NewRevision,
  also: (tx: Executor, revision: number) => Promise<void> = () => Promise.resolve(),
): Promise<SaveOutcome> {
  return transaction(async (tx) => {
    const [row] = await tx
      .select({ head: material.head, modelId: material.modelId })
      .from(material)
      .where(eq(material.id, given.materialId))
      .for('update');
    const head = row?.head ?? 0;
    if (head === given.base || head === given.base + 1) {
      const [newest] = await tx
        .select({ contentHash: revision.contentHash, authorId: revision.authorId })
        .from(revision)
        .where(and(eq(revision.materialId, given.materialId), eq(revision.number, head)));
      const isSame = newest?.contentHash === given.contentHash && row?.modelId === given.modelId;
      if (isSame && (head === given.base || newest.authorId === given.authorId))
        return { saved: true, revision: head, isNew: false };
    }
    if (head !== given.base) return { saved: false, head };
    const number = given.base + 1;
    await tx.insert(revision).values({
      materialId: given.materialId,
      number,
      document: given.document,
      contentHash: given.contentHash,
      authorId: given.authorId,
    });
    await tx
      .update(material)
      .set({ head: number, name: given.name, modelId: given.modelId, updatedAt: new Date() })
      .where(eq(material.id, given.materialId));
    await noteUses(tx, given.materialId, given.document);
    await holdOrigins(tx, given.document);
    await also(tx, number);
    return { saved: true, revision: number, isNew: true };
  });
}

export async function setSwatch(materialId: string, hash: string): Promise<void> {
  await database().update(material).set({ swatchHash: hash }).where(eq(material.id, materialId));
}

export async function listProjects(userId: string) {
  return database()
    .select({ id: project.id, name: project.name })
    .from(project)
    .innerJoin(
      projectMember,
      and(eq(projectMember.projectId, project.id), eq(projectMember.userId, userId)),
    )
    .orderBy(project.name);
}

/** Whether a project has another material of this name that is not archived. */
export async function isNameTaken(projectId: string, name: string, but: string): Promise<boolean> {
  const found = await database()
    .select({ id: material.id })
    .from(material)
    .where(
      and(
        eq(material.projectId, projectId),
        eq(material.name, name),
        ne(material.id, but),
        isNull(material.archivedAt),
      ),
    )
    .limit(1);
  return found.length > 0;
}

/** The names of a project's materials, not archived, that begin so. */
export async function namesBeginning(
  projectId: string,
  beginning: string,
): Promise<readonly string[]> {
  const found = await database()
    .select({ name: material.name })
    .from(material)
    .where(
      and(
        eq(material.projectId, projectId),
        isNull(material.archivedAt),
        sql`starts_with(${material.name}, ${beginning})`,
      ),
    );
  return found.map(({ name }) => name);
}

/** Moves a material to a project, archives or restores it; what is left out stays. */
export async function placeMaterial(
  id: string,
  { projectId, isArchived }: { readonly projectId?: string; readonly isArchived?: boolean },
): Promise<void> {
  const set = {
    ...(projectId === undefined ? {} : { projectId }),
    ...(isArchived === undefined ? {} : { archivedAt: isArchived ? new Date() : null }),
  };
  if (Object.keys(set).length === 0) return;
  await transaction(async (tx) => {
    await tx.update(material).set(set).where(eq(material.id, id));
    if (projectId !== undefined) await leaveOtherSets(tx, id, projectId);
  });
}

/** A material of a project, not archived, whose newest revision has this content. */
export async function findSameMaterial(
  projectId: string,
  contentHash: string,
): Promise<{ readonly id: string; readonly name: string } | undefined> {
  const [found] = await database()
    .select({ id: material.id, name: material.name })
    .from(material)
    .innerJoin(
      revision,
      and(eq(revision.materialId, material.id), eq(revision.number, material.head)),
    )
    .where(
      and(
        eq(material.projectId, projectId),
        eq(revision.contentHash, contentHash),
        isNull(material.archivedAt),
      ),
    )
    .limit(1);
  return found;
}
