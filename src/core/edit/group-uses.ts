import { own } from '../base/own';
import type { BoardId, GroupDefinition, NetworkDocument } from '../graph/document';
import type { GroupId, NodeId } from '../base/ids';
import { changeNode, freshId, getNetwork } from './board';

/** A card that stands for a group, and the board it is on. */
export interface GroupUse {
  readonly board: BoardId;
  readonly node: NodeId;
}

/** Every card that stands for a group, on the material's board and inside groups. */
export function listUses(document: NetworkDocument, groupId: GroupId): readonly GroupUse[] {
  const boards: readonly BoardId[] = [null, ...(Object.keys(document.groups) as GroupId[])];
  return boards.flatMap((board) =>
    getNetwork(document, board)
      .nodes.filter(({ group }) => group === groupId)
      .map(({ id }) => ({ board, node: id })),
  );
}

/** The nodes that lead to the first card of a group from the material's board, it included. */
export function findCardPath(
  document: NetworkDocument,
  groupId: GroupId,
): readonly NodeId[] | undefined {
  const seen = new Set<string>();
  const waiting: { readonly board: BoardId; readonly path: readonly NodeId[] }[] = [
    { board: null, path: [] },
  ];
  for (let next = waiting.shift(); next; next = waiting.shift())
    for (const { id, group } of getNetwork(document, next.board).nodes) {
      if (group === undefined) continue;
      const path = [...next.path, id];
      if (group === groupId) return path;
      if (!seen.has(group)) waiting.push({ board: group, path });
      seen.add(group);
    }
  return undefined;
}

/** A copy's name: the first of “Name 2”, “Name 3”, … that no group has. */
function copyName(document: NetworkDocument, name: string): string {
  const names = new Set(Object.values(document.groups).map((group) => group.name));
  for (let k = 2; ; k++) if (!names.has(`${name} ${String(k)}`)) return `${name} ${String(k)}`;
}

/**
 * Gives one card a group of its own, a copy of the one it shares; the others keep theirs. The same
 * document where it shares with nobody.
 */
export function makeOwn(
  document: NetworkDocument,
  board: BoardId,
  nodeId: NodeId,
): NetworkDocument {
  const node = getNetwork(document, board).nodes.find(({ id }) => id === nodeId);
  const group = node?.group === undefined ? undefined : own(document.groups, node.group);
  if (!group || listUses(document, group.id).length < 2) return document;
  const id: GroupId = freshId('g', new Set(Object.keys(document.groups)));
  const { release: _release, ...kept } = group;
  const copy: GroupDefinition = { ...kept, id, name: copyName(document, group.name) };
  return changeNode(
    { ...document, groups: { ...document.groups, [id]: copy } },
    board,
    nodeId,
    (each) => ({
      ...each,
      group: id,
    }),
  );
}
