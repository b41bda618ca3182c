import type { Network } from '../graph/document';

/** The nodes of a network, each after all it reads; and, when there is one, the ids of a circle. */
export function topologicalOrder(network: Network): {
  order: readonly string[];
  cycle: readonly string[];
} {
  const ids = new Set(network.nodes.map((node) => node.id));
  const waiting = new Map<string, number>(network.nodes.map((node) => [node.id, 0]));
  const readers = new Map<string, string[]>();
  for (const { from, to } of network.strands) {
    if (!ids.has(from.node) || !ids.has(to.node)) continue;
    waiting.set(to.node, (waiting.get(to.node) ?? 0) + 1);
    readers.set(from.node, [...(readers.get(from.node) ?? []), to.node]);
  }
  const ready = network.nodes.filter((node) => waiting.get(node.id) === 0).map((node) => node.id);
  const order: string[] = [];
  for (let k = 0; k < ready.length; k++) {
    const id = ready[k] as string;
    order.push(id);
    for (const reader of readers.get(id) ?? []) {
      const left = (waiting.get(reader) ?? 0) - 1;
      waiting.set(reader, left);
      if (left === 0) ready.push(reader);
    }
  }
  return { order, cycle: order.length === ids.size ? [] : findCycle(network, new Set(order)) };
}

function findCycle(network: Network, done: ReadonlySet<string>): readonly string[] {
  const left = new Set(network.nodes.map((node) => node.id).filter((id) => !done.has(id)));
  const sourceOf = (id: string): string | undefined =>
    network.strands.find((s) => s.to.node === id && left.has(s.from.node))?.from.node;
  const trail: string[] = [];
  for (let at = [...left][0]; at !== undefined; at = sourceOf(at)) {
    const seen = trail.indexOf(at);
    if (seen >= 0) return trail.slice(seen).reverse();
    trail.push(at);
  }
  return trail.reverse();
}
