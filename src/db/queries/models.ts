import { and, eq, isNotNull, isNull, ne, or, sql } from 'drizzle-orm';
import type { ModelPreparation } from '../../core/exchange/prepare';
import { canonicalJson } from '../../core/graph/canonical';
import { database } from '../client';
import type { Executor } from '../client';
import { material, meshMap, model, user } from '../schema/index';
import { isMember } from './members';

const mayRead = (userId: string) => or(isNull(model.projectId), isMember(userId, model.projectId));
/** What is needed to read a model. */
const COLUMNS = {
  id: model.id,
  name: model.name,
  projectId: model.projectId,
  blobHash: model.blobHash,
  preparation: model.preparation,
};
export interface StoredModel {
  readonly id: string;
  readonly name: string;
  readonly projectId: string | null;
  readonly blobHash: string;
  readonly preparation: ModelPreparation;
}

export async function listModels(userId: string) {
  return database()
    .select({
      id: model.id,
      name: model.name,
      projectId: model.projectId,
      ownerName: user.name,
      archivedAt: model.archivedAt,
      formerBlobHash: model.formerBlobHash,
    })
    .from(model)
    .leftJoin(user, eq(user.id, model.ownerId))
    .where(mayRead(userId))
    .orderBy(model.createdAt);
}

export async function findModel(userId: string, id: string): Promise<StoredModel | undefined> {
  const [row] = await database()
    .select(COLUMNS)
    .from(model)
    .where(and(eq(model.id, id), mayRead(userId)));
  return row;
}

/** Whether there is a model of this id, whoever may see it. */
export async function hasModel(id: string): Promise<boolean> {
  const found = await database().select({ id: model.id }).from(model).where(eq(model.id, id));
  return found.length > 0;
}

export async function insertModel(
  given: {
    id: string;
    name: string;
    projectId: string | null;
    blobHash: string;
    ownerId: string | null;
    preparation?: ModelPreparation;
  },
  on: Executor = database(),
): Promise<void> {
  await on.insert(model).values(given);
}

/** Changes what is corrected in a model if it still is `before`; tells whether it was. */
export async function savePreparation(
  id: string,
  before: ModelPreparation,
  preparation: ModelPreparation,
): Promise<boolean> {
  const changed = await database()
    .update(model)
    .set({ preparation })
    .where(and(eq(model.id, id), sql`${model.preparation} = ${JSON.stringify(before)}::jsonb`))
    .returning({ id: model.id });
  return changed.length > 0;
}

/** Renames a model, moves it to a project, archives or restores it; what is left out stays. */
export async function arrangeModel(
  id: string,
  {
    name,
    projectId,
    isArchived,
  }: { readonly name?: string; readonly projectId?: string; readonly isArchived?: boolean },
  on: Executor = database(),
): Promise<void> {
  const set = {
    ...(name === undefined ? {} : { name }),
    ...(projectId === undefined ? {} : { projectId }),
    ...(isArchived === undefined ? {} : { archivedAt: isArchived ? new Date() : null }),
  };
  if (Object.keys(set).length > 0) await on.update(model).set(set).where(eq(model.id, id));
}

/** Whether a material of another project than this one is looked at on the model. */
export async function isUsedOutside(id: string, projectId: string): Promise<boolean> {
  const found = await database()
    .select({ id: material.id })
    .from(material)
    .where(and(eq(material.modelId, id), ne(material.projectId, projectId)))
    .limit(1);
  return found.length > 0;
}

/** Puts another file in the place of a model's, which is remembered as the one before. */
export async function replaceModelFile(
  id: string,
  blobHash: string,
  on: Executor = database(),
): Promise<void> {
  await on
    .update(model)
    .set({ blobHash, formerBlobHash: sql`${model.blobHash}` })
    .where(and(eq(model.id, id), ne(model.blobHash, blobHash)));
}

/** Exchanges a model's file with the one before. @returns whether there was one */
export async function swapModelFile(id: string): Promise<boolean> {
  const changed = await database()
    .update(model)
    .set({ blobHash: sql`${model.formerBlobHash}`, formerBlobHash: sql`${model.blobHash}` })
    .where(and(eq(model.id, id), isNotNull(model.formerBlobHash)))
    .returning({ id: model.id });
  return changed.length > 0;
}

/** A mesh map by what it was measured of and how: deflated 32-bit values of the covered texels. */
export interface MeshMapName {
  readonly modelKey: string;
  readonly mapKey: string;
  readonly size: number;
}
const named = ({ modelKey, mapKey, size }: MeshMapName) =>
  and(eq(meshMap.modelKey, modelKey), eq(meshMap.mapKey, mapKey), eq(meshMap.size, size));

export async function findMeshMap(name: MeshMapName): Promise<Uint8Array | undefined> {
  const [row] = await database().select({ bytes: meshMap.bytes }).from(meshMap).where(named(name));
  return row?.bytes;
}

export async function hasMeshMap(name: MeshMapName): Promise<boolean> {
  const found = await database().select({ size: meshMap.size }).from(meshMap).where(named(name));
  return found.length > 0;
}

export async function insertMeshMap(name: MeshMapName, bytes: Uint8Array): Promise<void> {
  await database()
    .insert(meshMap)
    .values({ ...name, bytes: Buffer.from(bytes) })
    .onConflictDoNothing();
}

/** A model of this file, corrected in this way, of a project or of everybody. */
export async function findModelOfFile(
  projectId: string,
  blobHash: string,
  preparation: ModelPreparation,
): Promise<string | undefined> {
  const seen = await database()
    .select({ id: model.id, preparation: model.preparation })
    .from(model)
    .where(
      and(
        eq(model.blobHash, blobHash),
        isNull(model.archivedAt),
        or(eq(model.projectId, projectId), isNull(model.projectId)),
      ),
    )
    .orderBy(model.createdAt);
  const wanted = canonicalJson(preparation);
  return seen.find((each) => canonicalJson(each.preparation) === wanted)?.id;
}
