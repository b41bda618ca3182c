import { and, asc, desc, eq, sql } from 'drizzle-orm';
import { database, transaction } from '../client';
import { consequence, material, outlook, project } from '../schema/index';

type NewOutlook = Omit<typeof outlook.$inferInsert, 'createdAt'>;

/** Keeps what is looked at and the materials it concerns, together or not at all. */
export async function insertOutlook(
  given: NewOutlook,
  materials: readonly string[],
): Promise<void> {
  await transaction(async (tx) => {
    await tx.insert(outlook).values(given);
    for (let k = 0; k < materials.length; k += 500)
      await tx
        .insert(consequence)
        .values(
          materials.slice(k, k + 500).map((materialId) => ({ outlookId: given.id, materialId })),
        );
  });
}

export async function findOutlook(id: string) {
  const [row] = await database().select().from(outlook).where(eq(outlook.id, id));
  return row;
}

/** The consequences of one, those that change most first, those not looked at yet last. */
export async function listConsequences(outlookId: string) {
  return database()
    .select({
      materialId: consequence.materialId,
      name: material.name,
      projectName: project.name,
      state: consequence.state,
      fromVersion: consequence.fromVersion,
      share: consequence.share,
      mean: consequence.mean,
      beforeHash: consequence.beforeHash,
      afterHash: consequence.afterHash,
      changes: consequence.changes,
      lost: consequence.lost,
      reason: consequence.reason,
    })
    .from(consequence)
    .innerJoin(material, eq(material.id, consequence.materialId))
    .innerJoin(project, eq(project.id, material.projectId))
    .where(eq(consequence.outlookId, outlookId))
    .orderBy(sql`${desc(consequence.mean)} nulls last`, asc(material.name));
}

/** Whether a material of an outlook is still to be looked at. */
export async function isWaiting(outlookId: string, materialId: string): Promise<boolean> {
  const [row] = await database()
    .select({ state: consequence.state })
    .from(consequence)
    .where(and(eq(consequence.outlookId, outlookId), eq(consequence.materialId, materialId)));
  return row?.state === 'waiting';
}

export type Consequence = Omit<
  typeof consequence.$inferInsert,
  'outlookId' | 'materialId' | 'state'
> & { readonly state: 'done' | 'failed' };

/** Keeps what was seen of one material; what is kept already stays. */
export async function keepConsequence(
  outlookId: string,
  materialId: string,
  given: Consequence,
): Promise<void> {
  await database()
    .update(consequence)
    .set(given)
    .where(
      and(
        eq(consequence.outlookId, outlookId),
        eq(consequence.materialId, materialId),
        eq(consequence.state, 'waiting'),
      ),
    );
}
