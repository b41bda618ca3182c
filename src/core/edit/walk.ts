import { describePorts } from '../compile/catalogue';
import type { NetworkDocument } from '../graph/document';
import { outputKey, parseResultKey } from '../graph/result-key';
import type { ResultKey } from '../base/ids';
import { getNetwork } from './board';
import type { BoardId } from './board';

/**
 * The result one step up or down from an output along its strands, on the same board: what feeds
 * its node's first wired input, or the first output of what it feeds. Null at the ends.
 */
export function walkStrand(
  document: NetworkDocument,
  board: BoardId,
  key: ResultKey,
  way: 'up' | 'down',
): ResultKey | null {
  const { path, port } = parseResultKey(key);
  const id = path.at(-1);
  const { nodes, strands } = getNetwork(document, board);
  const node = nodes.find((each) => each.id === id);
  if (!node) return null;
  const above = path.slice(0, -1);
  if (way === 'up') {
    const inputs = describePorts(document, node)?.inputs ?? [];
    const feeding = inputs.flatMap((input) =>
      strands.filter(({ to }) => to.node === id && to.input === input.id),
    );
    const from = feeding.find((strand) => nodes.some((each) => each.id === strand.from.node))?.from;
    return from ? outputKey([...above, from.node], from.output) : null;
  }
  const leaving = strands.filter(({ from }) => from.node === id);
  const strand = leaving.find(({ from }) => from.output === port) ?? leaving[0];
  const next = nodes.find((each) => each.id === strand?.to.node);
  const [output] = (next && describePorts(document, next)?.outputs) ?? [];
  return next && output ? outputKey([...above, next.id], output.id) : null;
}
