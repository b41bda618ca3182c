import type { NodeId } from '../core/base/ids';
import { boardAt } from '../core/edit/board';
import type { NetworkDocument } from '../core/graph/document';

/** As much of a path as still leads from board to board. */
export function validPath(document: NetworkDocument, path: readonly NodeId[]): readonly NodeId[] {
  const depth = path.findIndex(
    (_, k) => boardAt(document, path.slice(0, k + 1)) === boardAt(document, path.slice(0, k)),
  );
  return depth < 0 ? path : path.slice(0, depth);
}
