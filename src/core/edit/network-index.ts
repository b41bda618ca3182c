import type { Network, NodeInstance, Strand } from '../graph/document';

/** The nodes and strands of a network by the node they belong to, in the order of the network. */
export interface NetworkIndex {
  readonly network: Network;
  readonly nodes: ReadonlyMap<string, NodeInstance>;
  readonly arriving: ReadonlyMap<string, readonly Strand[]>;
  readonly leaving: ReadonlyMap<string, readonly Strand[]>;
}

const isSame = (a: readonly Strand[] | undefined, b: readonly Strand[]): boolean =>
  a?.length === b.length && a.every((strand, k) => strand === b[k]);

function byEnd(
  strands: readonly Strand[],
  end: 'from' | 'to',
  before: ReadonlyMap<string, readonly Strand[]> | undefined,
): ReadonlyMap<string, readonly Strand[]> {
  const lists = new Map<string, Strand[]>();
  for (const strand of strands) {
    const list = lists.get(strand[end].node);
    if (list) list.push(strand);
    else lists.set(strand[end].node, [strand]);
  }
  const steady = new Map<string, readonly Strand[]>();
  for (const [node, list] of lists) {
    const old = before?.get(node);
    steady.set(node, old && isSame(old, list) ? old : list);
  }
  return steady;
}

/**
 * Indexes a network in linear time. Lists that are as in `before` are the same objects, so that
 * whoever follows one node's strands sees a change only where there is one.
 */
export function indexNetwork(network: Network, before?: NetworkIndex): NetworkIndex {
  if (before?.network === network) return before;
  const isRewired = before?.network.strands !== network.strands;
  return {
    network,
    nodes: new Map(network.nodes.map((node) => [node.id, node])),
    arriving:
      before && !isRewired ? before.arriving : byEnd(network.strands, 'to', before?.arriving),
    leaving:
      before && !isRewired ? before.leaving : byEnd(network.strands, 'from', before?.leaving),
  };
}
