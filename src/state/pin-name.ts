import type { NodeId, ResultKey } from '../core/base/ids';
import { describePorts, getNodeTitle } from '../core/compile/catalogue';
import { findNode } from '../core/compile/uniforms';
import type { NetworkDocument } from '../core/graph/document';
import { parseResultKey } from '../core/graph/result-key';

/** An output that is shown, in words: the groups it is in, its node, and the output. */
export function pinName(document: NetworkDocument, key: ResultKey): string {
  const { path, port: output } = parseResultKey(key);
  const names = path.map((_, k) => nameAt(document, path.slice(0, k + 1)));
  const node = findNode(document, path);
  const outputs = (node && describePorts(document, node)?.outputs) ?? [];
  const title = outputs.find(({ id }) => id === output)?.title ?? output;
  return `${names.join(' › ')}, ${title}`;
}

function nameAt(document: NetworkDocument, path: readonly NodeId[]): string {
  const node = findNode(document, path);
  if (!node) return 'a node that is gone';
  return getNodeTitle(document, node);
}

/** Whether the node whose output is shown is still there. */
export const isPinThere = (document: NetworkDocument, key: ResultKey): boolean =>
  findNode(document, parseResultKey(key).path) !== undefined;
