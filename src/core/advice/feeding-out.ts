import { OUTPUT_EDGE } from '../graph/document';
import type { Network } from '../graph/document';
import type { NodeId } from '../base/ids';

const known = new WeakMap<Network, ReadonlySet<NodeId>>();

/** The nodes that something going out of a board depends on. */
export function feedingOut(network: Network): ReadonlySet<NodeId> {
  const before = known.get(network);
  if (before) return before;
  const arriving = new Map<NodeId, NodeId[]>();
  for (const { from, to } of network.strands)
    arriving.set(to.node, [...(arriving.get(to.node) ?? []), from.node]);
  const needed = new Set<NodeId>();
  const waiting: NodeId[] = [OUTPUT_EDGE];
  for (let id = waiting.pop(); id !== undefined; id = waiting.pop())
    for (const from of arriving.get(id) ?? [])
      if (!needed.has(from)) {
        needed.add(from);
        waiting.push(from);
      }
  known.set(network, needed);
  return needed;
}
