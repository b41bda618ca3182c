import type { NodeId } from '../core/base/ids';
import { own } from '../core/base/own';
import { getNetwork } from '../core/edit/board';
import type { BoardId, Network, NetworkDocument } from '../core/graph/document';

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

/** As much of a path as still leads from board to board. */
export function validPath(document: NetworkDocument, path: readonly NodeId[]): readonly NodeId[] {
  const depth = path.findIndex(
    (_, k) => boardAt(document, path.slice(0, k + 1)) === boardAt(document, path.slice(0, k)),
  );
  return depth < 0 ? path : path.slice(0, depth);
}
