import { and, asc, count, eq } from 'drizzle-orm';
import { database } from '../client';
import { keptState, material, model, user } from '../schema/index';
import { isMember } from './members';

const COLUMNS = {
  id: keptState.id,
  materialId: keptState.materialId,
  revision: keptState.revision,
  modelId: keptState.modelId,
  modelName: model.name,
  camera: keptState.camera,
  name: keptState.name,
  note: keptState.note,
  about: keptState.about,
  amount: keptState.amount,
  authorId: keptState.authorId,
  authorName: user.name,
  pictureHash: keptState.pictureHash,
  createdAt: keptState.createdAt,
};
const states = () =>
  database()
    .select(COLUMNS)
    .from(keptState)
    .innerJoin(user, eq(user.id, keptState.authorId))
    .innerJoin(model, eq(model.id, keptState.modelId));

/** The states of a material, the earliest first. */
export const listStates = (materialId: string) =>
  states().where(eq(keptState.materialId, materialId)).orderBy(asc(keptState.createdAt));

/** A state of a material that a person may see. */
export async function findState(userId: string, materialId: string, id: string) {
  const [row] = await states()
    .innerJoin(material, eq(material.id, keptState.materialId))
    .where(
      and(
        eq(keptState.id, id),
        eq(keptState.materialId, materialId),
        isMember(userId, material.projectId),
      ),
    );
  return row;
}

export async function countStates(materialId: string): Promise<number> {
  const [row] = await database()
    .select({ kept: count() })
    .from(keptState)
    .where(eq(keptState.materialId, materialId));
  return row?.kept ?? 0;
}

export type NewState = Omit<typeof keptState.$inferInsert, 'createdAt' | 'pictureHash'>;
export async function insertState(given: NewState): Promise<void> {
  await database().insert(keptState).values(given);
}

export async function changeState(
  id: string,
  set: Partial<Pick<typeof keptState.$inferInsert, 'name' | 'note' | 'pictureHash'>>,
): Promise<void> {
  if (Object.keys(set).length === 0) return;
  await database().update(keptState).set(set).where(eq(keptState.id, id));
}

export async function removeState(id: string): Promise<void> {
  await database().delete(keptState).where(eq(keptState.id, id));
}
