import { MATERIAL_PAGE } from '@/contract/materials';
import type { FoundMaterials, MaterialPlaces, MaterialQuery } from '@/contract/materials';
import { countByProject, listSets, searchMaterials } from '@/db/queries/material-search';
import { listProjects } from '@/db/queries/materials';
import type { SignedIn } from './authentication';
import { toSummary } from './materials';

/** What is typed beyond so many words is not looked for. */
const MOST_WORDS = 8;

/** A page of the materials that are asked for, of a person's projects. */
export async function findMaterials(
  user: SignedIn,
  { query, name, id, project, set, order, archived, first }: MaterialQuery,
): Promise<FoundMaterials> {
  const found = await searchMaterials(user.id, {
    words: (query ?? '').trim().split(/\s+/).filter(Boolean).slice(0, MOST_WORDS),
    name: name ?? null,
    id: id ?? null,
    projectId: project ?? null,
    setId: set ?? null,
    isArchive: archived === 'yes',
    order: order ?? 'lately',
    first: Number(first ?? 0),
    count: MATERIAL_PAGE,
  });
  return {
    materials: found.slice(0, MATERIAL_PAGE).map(toSummary),
    hasMore: found.length > MATERIAL_PAGE,
  };
}

/** A person's projects with their sets, and how many materials each has. */
export async function listPlaces(
  user: SignedIn,
  { archived }: Pick<MaterialQuery, 'archived'>,
): Promise<MaterialPlaces> {
  const [projects, counts, sets] = await Promise.all([
    listProjects(user.id),
    countByProject(user.id, archived === 'yes'),
    listSets(user.id),
  ]);
  const counted = new Map(counts.map(({ projectId, materials }) => [projectId, materials]));
  return {
    projects: projects.map(({ id, name }) => ({ id, name, materials: counted.get(id) ?? 0 })),
    sets,
  };
}
