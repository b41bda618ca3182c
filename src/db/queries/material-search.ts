import { and, asc, count, desc, eq, ilike, inArray, isNotNull, isNull, or, sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import { database } from '../client';
import { material, materialSet, materialSetMember, model, project, user } from '../schema/index';
import { isMember } from './members';

/** How materials are listed: saved last first, by name, or by the name of their model. */
export type MaterialOrder = 'lately' | 'name' | 'model';

export interface MaterialSearch {
  /** Words all of which stand in the name of the material, its model, owner or project. */
  readonly words: readonly string[];
  /** The whole name. */
  readonly name: string | null;
  /** This one alone. */
  readonly id: string | null;
  readonly projectId: string | null;
  readonly setId: string | null;
  readonly isArchive: boolean;
  readonly order: MaterialOrder;
  readonly first: number;
  readonly count: number;
}

const COLUMNS = {
  id: material.id,
  name: material.name,
  projectId: material.projectId,
  projectName: project.name,
  ownerName: user.name,
  modelId: material.modelId,
  modelName: model.name,
  head: material.head,
  swatchHash: material.swatchHash,
  updatedAt: material.updatedAt,
  archivedAt: material.archivedAt,
};

/** Materials with the names of what they belong to. */
const selectMaterials = () =>
  database()
    .select(COLUMNS)
    .from(material)
    .innerJoin(project, eq(project.id, material.projectId))
    .innerJoin(user, eq(user.id, material.ownerId))
    .innerJoin(model, eq(model.id, material.modelId));

/** Digits count as numbers: 9 comes before 10. */
const byName = sql`${material.name} collate "en-u-kn-true"`;
const ORDERS: Readonly<Record<MaterialOrder, readonly SQL[]>> = {
  lately: [desc(material.updatedAt)],
  name: [asc(byName)],
  model: [asc(model.name), asc(byName)],
};

const quoted = (word: string): string => `%${word.replace(/[\\%_]/g, '\\$&')}%`;
const hasWord = (word: string): SQL | undefined =>
  or(
    ...[material.name, model.name, user.name, project.name].map((column) =>
      ilike(column, quoted(word)),
    ),
  );

const isIn = (setId: string): SQL =>
  inArray(
    material.id,
    database()
      .select({ id: materialSetMember.materialId })
      .from(materialSetMember)
      .where(eq(materialSetMember.setId, setId)),
  );

function matches(userId: string, search: MaterialSearch): SQL | undefined {
  const { words, name, id, projectId, setId, isArchive } = search;
  return and(
    isMember(userId, material.projectId),
    isArchive ? isNotNull(material.archivedAt) : isNull(material.archivedAt),
    name === null ? undefined : eq(material.name, name),
    id === null ? undefined : eq(material.id, id),
    projectId === null ? undefined : eq(material.projectId, projectId),
    setId === null ? undefined : isIn(setId),
    ...words.map(hasWord),
  );
}

/** Materials of a person's projects: as many as are asked for, and one more where there is one. */
export async function searchMaterials(userId: string, search: MaterialSearch) {
  return selectMaterials()
    .where(matches(userId, search))
    .orderBy(...ORDERS[search.order], material.id)
    .offset(search.first)
    .limit(search.count + 1);
}

/** How many materials each of a person's projects has, archived or not. */
export async function countByProject(userId: string, isArchive: boolean) {
  return database()
    .select({ projectId: material.projectId, materials: count() })
    .from(material)
    .where(
      and(
        isMember(userId, material.projectId),
        isArchive ? isNotNull(material.archivedAt) : isNull(material.archivedAt),
      ),
    )
    .groupBy(material.projectId);
}

/** The sets of a person's projects, with how many materials that are not archived each has. */
export async function listSets(userId: string) {
  return database()
    .select({
      id: materialSet.id,
      projectId: materialSet.projectId,
      name: materialSet.name,
      materials: count(material.id),
    })
    .from(materialSet)
    .leftJoin(materialSetMember, eq(materialSetMember.setId, materialSet.id))
    .leftJoin(
      material,
      and(eq(material.id, materialSetMember.materialId), isNull(material.archivedAt)),
    )
    .where(isMember(userId, materialSet.projectId))
    .groupBy(materialSet.id)
    .orderBy(asc(materialSet.name));
}
