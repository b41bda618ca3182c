import type { MaterialSummary } from '@/contract/materials';

/** The orders of the list, with the words for each. */
export const ORDERS = {
  lately: 'lately saved',
  name: 'by name',
  model: 'by model',
} as const;
export type Order = keyof typeof ORDERS;

/** What of the list is shown. */
export interface Listing {
  readonly search: string;
  readonly order: Order;
  readonly isArchive: boolean;
}
/** The materials of a project, in the order asked for. */
export interface ProjectMaterials {
  readonly id: string;
  readonly name: string;
  readonly materials: readonly MaterialSummary[];
}

const COMPARE: Readonly<Record<Order, (a: MaterialSummary, b: MaterialSummary) => number>> = {
  lately: (a, b) => b.updatedAt.localeCompare(a.updatedAt),
  name: (a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }),
  model: (a, b) => a.modelName.localeCompare(b.modelName) || a.name.localeCompare(b.name),
};

/** All words of the search are found in name, model, owner or project. */
function isFound(material: MaterialSummary, search: string): boolean {
  const { name, modelName, ownerName, projectName } = material;
  const text = `${name} ${modelName} ${ownerName} ${projectName}`.toLowerCase();
  return search
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}

/** The materials that are asked for, project by project; the one worked on last comes first. */
export function listByProject(
  all: readonly MaterialSummary[],
  { search, order, isArchive }: Listing,
): readonly ProjectMaterials[] {
  const shown = all.filter((each) => each.isArchived === isArchive && isFound(each, search.trim()));
  const projects = new Map<string, MaterialSummary[]>();
  for (const material of shown.toSorted(COMPARE.lately)) {
    const known = projects.get(material.projectId);
    if (known) known.push(material);
    else projects.set(material.projectId, [material]);
  }
  return [...projects].map(([id, materials]) => ({
    id,
    name: materials[0]?.projectName ?? id,
    materials: materials.toSorted(COMPARE[order]),
  }));
}

/** A name for a copy that the project does not have yet. */
export function copyName(name: string, taken: ReadonlySet<string>): string {
  const stem = name.replace(/ \(copy(?: \d+)?\)$/, '');
  for (let k = 1; ; k++) {
    const tried = `${stem} (copy${k === 1 ? '' : ` ${String(k)}`})`;
    if (!taken.has(tried)) return tried;
  }
}
