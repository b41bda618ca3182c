import { and, count, eq, inArray, notInArray } from 'drizzle-orm';
import { database, isAlreadyThere, transaction } from '../client';
import type { Executor } from '../client';
import { material, materialSet, materialSetMember } from '../schema/index';
import { isMember } from './members';

/** A set of one of a person's projects. */
export async function findSet(userId: string, id: string) {
  const [row] = await database()
    .select({ id: materialSet.id, projectId: materialSet.projectId, name: materialSet.name })
    .from(materialSet)
    .where(and(eq(materialSet.id, id), isMember(userId, materialSet.projectId)));
  return row;
}

export async function countSets(projectId: string): Promise<number> {
  const [row] = await database()
    .select({ sets: count() })
    .from(materialSet)
    .where(eq(materialSet.projectId, projectId));
  return row?.sets ?? 0;
}

/** @returns false where the project has a set of that name */
export async function insertSet(set: {
  readonly id: string;
  readonly projectId: string;
  readonly name: string;
}): Promise<boolean> {
  const made = await database()
    .insert(materialSet)
    .values(set)
    .onConflictDoNothing()
    .returning({ id: materialSet.id });
  return made.length > 0;
}

/** @returns false where the project has another set of that name */
export async function renameSet(id: string, name: string): Promise<boolean> {
  try {
    await database().update(materialSet).set({ name }).where(eq(materialSet.id, id));
    return true;
  } catch (error) {
    if (isAlreadyThere(error)) return false;
    throw error;
  }
}

/** Takes a set apart; its materials stay. */
export async function removeSet(id: string): Promise<void> {
  await database().delete(materialSet).where(eq(materialSet.id, id));
}

/**
 * Puts materials of its project into a set and takes others out; what is there already stays, and
 * those of other projects are passed over.
 */
export async function fillSet(
  { id, projectId }: { readonly id: string; readonly projectId: string },
  add: readonly string[],
  remove: readonly string[],
): Promise<void> {
  await transaction(async (tx) => {
    if (add.length > 0) {
      const own = await tx
        .select({ materialId: material.id })
        .from(material)
        .where(and(inArray(material.id, [...add]), eq(material.projectId, projectId)))
        .for('share');
      if (own.length > 0)
        await tx
          .insert(materialSetMember)
          .values(own.map(({ materialId }) => ({ setId: id, materialId })))
          .onConflictDoNothing();
    }
    if (remove.length > 0)
      await tx
        .delete(materialSetMember)
        .where(
          and(eq(materialSetMember.setId, id), inArray(materialSetMember.materialId, [...remove])),
        );
  });
}

/** Takes a material out of the sets of projects it no longer belongs to. */
export async function leaveOtherSets(
  tx: Executor,
  materialId: string,
  projectId: string,
): Promise<void> {
  const own = tx
    .select({ id: materialSet.id })
    .from(materialSet)
    .where(eq(materialSet.projectId, projectId));
  await tx
    .delete(materialSetMember)
    .where(
      and(eq(materialSetMember.materialId, materialId), notInArray(materialSetMember.setId, own)),
    );
}
