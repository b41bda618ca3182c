import { own } from '../base/own';
import type { NodeId } from '../base/ids';
import type {
  BoardId,
  GroupDefinition,
  Network,
  NetworkDocument,
  NodeInstance,
} from '../graph/document';

export type { BoardId } from '../graph/document';

/** The network of a board; an empty one where the group does not exist. */
export function getNetwork(document: NetworkDocument, board: BoardId): Network {
  if (board === null) return document.network;
  return own(document.groups, board)?.network ?? { nodes: [], strands: [], regions: [], notes: [] };
}

/** The board at the end of a path of group nodes; the deepest that exists. */
export function boardAt(document: NetworkDocument, path: readonly NodeId[]): BoardId {
  let board: BoardId = null;
  for (const id of path) {
    const network: Network = getNetwork(document, board);
    const group: string | undefined = network.nodes.find((node) => node.id === id)?.group;
    if (group === undefined || !own(document.groups, group)) return board;
    board = group;
  }
  return board;
}

/** The document with another network on a board. */
export function withNetwork(
  document: NetworkDocument,
  board: BoardId,
  network: Network,
): NetworkDocument {
  if (board === null) return { ...document, network };
  return withGroup(document, board, (group) => ({ ...group, network }));
}

/** The document with a group changed; the same document where it does not exist. */
export function withGroup(
  document: NetworkDocument,
  id: string,
  change: (group: GroupDefinition) => GroupDefinition,
): NetworkDocument {
  const group = own(document.groups, id);
  return group ? { ...document, groups: { ...document.groups, [id]: change(group) } } : document;
}

/** The document with one node of a board changed. */
export function changeNode(
  document: NetworkDocument,
  board: BoardId,
  id: string,
  change: (node: NodeInstance) => NodeInstance,
): NetworkDocument {
  const network = getNetwork(document, board);
  return withNetwork(document, board, {
    ...network,
    nodes: network.nodes.map((node) => (node.id === id ? change(node) : node)),
  });
}

/** The first of `stem1`, `stem2`, … that is not taken. */
export function freshId(stem: string, taken: ReadonlySet<string>): string {
  for (let k = 1; ; k++) if (!taken.has(`${stem}${String(k)}`)) return `${stem}${String(k)}`;
}

/** The ids of all nodes of a network. */
export const nodeIds = (network: Network): Set<string> =>
  new Set(network.nodes.map((node) => node.id));
/** The ids of all strands of a network. */
export const strandIds = (network: Network): Set<string> =>
  new Set(network.strands.map((strand) => strand.id));

/** Group definitions a network needs, directly and through others. */
export function neededGroups(
  document: NetworkDocument,
  network: Network,
): Record<string, GroupDefinition> {
  const needed = new Map<string, GroupDefinition>();
  const visit = (nodes: readonly NodeInstance[]): void => {
    for (const { group: id } of nodes) {
      const group = id === undefined ? undefined : own(document.groups, id);
      if (!group || needed.has(group.id)) continue;
      needed.set(group.id, group);
      visit(group.network.nodes);
    }
  };
  visit(network.nodes);
  return Object.fromEntries(needed);
}
