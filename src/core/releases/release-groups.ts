import { freshId } from '../edit/board';
import type { GroupDefinition, NetworkDocument, NodeInstance } from '../graph/document';

/** A group with the groups it uses, as a release holds them. */
export interface ReleasedGroups {
  /** The id of the group that was published. */
  readonly root: string;
  readonly definitions: Readonly<Record<string, GroupDefinition>>;
}
/** A release as it is placed. */
export interface PlacedRelease {
  readonly entryId: string;
  readonly version: string;
  readonly groups: ReleasedGroups;
}

/** The group with its inner groups called by other ids. */
function renamedGroups(
  { groups, entryId, version }: PlacedRelease,
  names: ReadonlyMap<string, string>,
): Record<string, GroupDefinition> {
  const rename = (node: NodeInstance): NodeInstance =>
    node.group === undefined ? node : { ...node, group: names.get(node.group) ?? node.group };
  return Object.fromEntries(
    Object.entries(groups.definitions).map(([id, { origin: _origin, ...rest }]) => {
      const name = names.get(id) ?? id;
      const network = { ...rest.network, nodes: rest.network.nodes.map(rename) };
      const group: GroupDefinition = { ...rest, id: name, network };
      return [name, id === groups.root ? { ...group, release: { entryId, version } } : group];
    }),
  );
}

/**
 * Adds a release's groups to a document under ids of its own, so that nothing there is replaced.
 * A release that is there already is used again.
 */
export function bringIn(
  document: NetworkDocument,
  placed: PlacedRelease,
): { readonly document: NetworkDocument; readonly groupId: string } {
  const { groups, entryId, version } = placed;
  const known = Object.values(document.groups).find(
    ({ release }) => release?.entryId === entryId && release.version === version,
  );
  if (known) return { document, groupId: known.id };
  const names = chooseNames(placed, new Set(Object.keys(document.groups)), new Map());
  return {
    document: { ...document, groups: { ...document.groups, ...renamedGroups(placed, names) } },
    groupId: names.get(groups.root) ?? groups.root,
  };
}

/** An id for each group of a release: the one it is given, its own where that is free, or a new. */
function chooseNames(
  { groups }: PlacedRelease,
  taken: Set<string>,
  given: ReadonlyMap<string, string>,
): ReadonlyMap<string, string> {
  for (const name of given.values()) taken.add(name);
  return new Map(
    Object.keys(groups.definitions).map((id): [string, string] => {
      const name = given.get(id) ?? (taken.has(id) ? freshId('g', taken) : id);
      taken.add(name);
      return [id, name];
    }),
  );
}

/** The groups that only this one uses, directly or through others; those of its inside. */
export function innerGroups(document: NetworkDocument, groupId: string): ReadonlySet<string> {
  const usedBy = (network: NetworkDocument['network']): readonly string[] =>
    network.nodes.flatMap(({ group }) => group ?? []);
  const reach = (from: readonly string[], but: string | null): Set<string> => {
    const seen = new Set<string>();
    const waiting = [...from];
    for (let id = waiting.pop(); id !== undefined; id = waiting.pop()) {
      const group = document.groups[id as GroupDefinition['id']];
      if (!group || seen.has(id) || id === but) continue;
      seen.add(id);
      waiting.push(...usedBy(group.network));
    }
    return seen;
  };
  const own = document.groups[groupId as GroupDefinition['id']];
  const inside = reach(own ? usedBy(own.network) : [], null);
  const elsewhere = reach(
    [
      ...usedBy(document.network),
      ...Object.values(document.groups)
        .filter(({ id }) => id !== groupId && !inside.has(id))
        .flatMap(({ network }) => usedBy(network)),
    ],
    groupId,
  );
  return new Set([...inside].filter((id) => !elsewhere.has(id)));
}

/**
 * Puts a release in the place of a group of the document, which keeps its id; inner groups of the
 * same name keep theirs, those that are not used any more go.
 */
export function putInPlace(
  document: NetworkDocument,
  groupId: string,
  placed: PlacedRelease,
): NetworkDocument {
  const gone = innerGroups(document, groupId);
  const kept = Object.fromEntries(
    Object.entries(document.groups).filter(([id]) => id !== groupId && !gone.has(id)),
  );
  const free = new Map(
    [...gone].map((id) => [document.groups[id as GroupDefinition['id']]?.name ?? '', id]),
  );
  const given = new Map([[placed.groups.root, groupId]]);
  for (const { id, name } of Object.values(placed.groups.definitions)) {
    const old = free.get(name);
    if (id === placed.groups.root || old === undefined) continue;
    given.set(id, old);
    free.delete(name);
  }
  const names = chooseNames(placed, new Set(Object.keys(kept)), given);
  return { ...document, groups: { ...kept, ...renamedGroups(placed, names) } };
}
