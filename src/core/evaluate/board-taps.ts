import type { NodeId, ResultKey } from '../base/ids';
import { describePorts, findGroupDefinition } from '../compile/catalogue';
import { findNode } from '../compile/uniforms';
import { EMPTY_NETWORK } from '../graph/document';
import type { GroupDefinition, Network, NetworkDocument, NodeInstance } from '../graph/document';
import { outputKey } from '../graph/result-key';
import { watchedKeys } from '../advice/watched';

interface KnownTaps {
  readonly path: string;
  readonly group: GroupDefinition | undefined;
  readonly taps: readonly ResultKey[];
}
const known = new WeakMap<NodeInstance, KnownTaps>();

/** What the card of a node shows: its first output, and what its advice looks at. */
export function cardTaps(
  document: NetworkDocument,
  path: readonly NodeId[],
  node: NodeInstance,
): readonly ResultKey[] {
  const group = findGroupDefinition(document, node);
  const key = path.join('/');
  const before = known.get(node);
  if (before?.path === key && before.group === group) return before.taps;
  const output = describePorts(document, node)?.outputs[0];
  const arriving = watchedKeys({ document, network: networkAt(document, path), path, node });
  const taps = output ? [outputKey([...path, node.id], output.id), ...arriving] : arriving;
  known.set(node, { path: key, group, taps });
  return taps;
}

/** The board that a path of group nodes leads to; an empty one where it leads nowhere. */
export function networkAt(document: NetworkDocument, path: readonly NodeId[]): Network {
  if (path.length === 0) return document.network;
  const node = findNode(document, path);
  return (node && findGroupDefinition(document, node)?.network) ?? EMPTY_NETWORK;
}

/** What all cards of a board show. */
export const boardTaps = (
  document: NetworkDocument,
  path: readonly NodeId[],
): readonly ResultKey[] =>
  networkAt(document, path).nodes.flatMap((node) => cardTaps(document, path, node));
