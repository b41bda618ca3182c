import { freshId } from '@/core/edit/board';
import type { GroupDefinition, NetworkDocument, NodeInstance } from '@/core/graph/document';
import type { ReleaseView } from '@/contract/library';

/**
 * Adds a release's groups to a document under ids of its own, so that nothing there is replaced.
 * Gives back the id of the group.
 */
export function bringIn(
  document: NetworkDocument,
  entryId: string,
  release: ReleaseView,
): { document: NetworkDocument; groupId: string } {
  const known = Object.values(document.groups).find(
    (group) => group.release?.entryId === entryId && group.release.version === release.version,
  );
  if (known) return { document, groupId: known.id };
  const taken = new Set(Object.keys(document.groups));
  const renamed = new Map(
    Object.keys(release.groups.definitions).map((id): [string, string] => {
      const fresh = taken.has(id) ? freshId('g', taken) : id;
      taken.add(fresh);
      return [id, fresh];
    }),
  );
  const rename = (node: NodeInstance): NodeInstance =>
    node.group === undefined ? node : { ...node, group: renamed.get(node.group) ?? node.group };
  const groups = Object.fromEntries(
    Object.entries(release.groups.definitions).map(([id, group]): [string, GroupDefinition] => {
      const fresh = renamed.get(id) ?? id;
      const { origin: _origin, ...rest } = group;
      return [
        fresh,
        {
          ...rest,
          id: fresh,
          network: { ...group.network, nodes: group.network.nodes.map(rename) },
          ...(id === release.groups.root ? { release: { entryId, version: release.version } } : {}),
        },
      ];
    }),
  );
  return {
    document: { ...document, groups: { ...document.groups, ...groups } },
    groupId: renamed.get(release.groups.root) ?? release.groups.root,
  };
}
