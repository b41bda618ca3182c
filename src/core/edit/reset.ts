import type { BoardId, NetworkDocument, NodeInstance } from '../graph/document';
import { changeNode, getNetwork } from './board';
import { setValue } from './nodes';

const nodeAt = (document: NetworkDocument, board: BoardId, id: string): NodeInstance | undefined =>
  getNetwork(document, board).nodes.find((node) => node.id === id);

/** Puts values of a node back to their defaults; strands and drives stay. */
export function resetInputs(
  document: NetworkDocument,
  board: BoardId,
  id: string,
  inputs: readonly string[],
): NetworkDocument {
  const typed = Object.keys(nodeAt(document, board, id)?.values ?? {});
  return typed
    .filter((input) => inputs.includes(input))
    .reduce((current, input) => setValue(current, board, id, input, undefined), document);
}

/** Puts all values and modes of a node back to what it came with; strands and drives stay. */
export function resetNode(document: NetworkDocument, board: BoardId, id: string): NetworkDocument {
  const node = nodeAt(document, board, id);
  if (!node) return document;
  const values = resetInputs(document, board, id, Object.keys(node.values));
  if (Object.keys(node.options).length === 0 && !node.limited) return values;
  return changeNode(values, board, id, ({ limited: _limited, ...rest }) => ({
    ...rest,
    options: {},
  }));
}
