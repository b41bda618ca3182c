import { eq } from 'drizzle-orm';
import { database } from '../client';
import { material } from '../schema/index';

/** Who owns a material, for work done on its behalf. */
export async function findOwner(materialId: string): Promise<string | undefined> {
  const [row] = await database()
    .select({ ownerId: material.ownerId })
    .from(material)
    .where(eq(material.id, materialId));
  return row?.ownerId;
}
