import { topologicalOrder } from '../compile/order';
import type { Network, NodeInstance } from '../graph/document';

const COLUMN = 210;
const ROW = 236;

/** Lays nodes out in columns by how far they are from the end, each near what it feeds. */
export function tidyNodes(network: Network): readonly NodeInstance[] {
  const { order } = topologicalOrder(network);
  const column = new Map<string, number>();
  for (const id of [...order].reverse()) {
    const readers = network.strands
      .filter((strand) => strand.from.node === id)
      .map((strand) => column.get(strand.to.node) ?? -1);
    column.set(id, Math.max(-1, ...readers) + 1);
  }
  const rows = new Map<string, number>();
  const byColumn = new Map<number, string[]>();
  for (const id of [...order].reverse()) {
    const c = column.get(id) ?? 0;
    byColumn.set(c, [...(byColumn.get(c) ?? []), id]);
  }
  for (const [, ids] of [...byColumn].sort(([a], [b]) => a - b)) placeColumn(network, ids, rows);
  const widest = Math.max(0, ...column.values());
  return network.nodes.map((node) => ({
    ...node,
    at: [(widest - (column.get(node.id) ?? 0)) * COLUMN, (rows.get(node.id) ?? 0) * ROW] as const,
  }));
}

/** Rows near the mean of the readers', without two nodes in one place. */
function placeColumn(network: Network, ids: readonly string[], rows: Map<string, number>): void {
  const wanted = ids
    .map((id) => {
      const readers = network.strands.filter(
        (strand) => strand.from.node === id && rows.has(strand.to.node),
      );
      const mean =
        readers.reduce((sum, strand) => sum + (rows.get(strand.to.node) ?? 0), 0) /
        Math.max(1, readers.length);
      return { id, row: mean };
    })
    .sort((a, b) => a.row - b.row);
  let next = -Infinity;
  const placed = wanted.map(({ id, row }) => {
    next = Math.max(row, next);
    const at = next;
    next += 1;
    return { id, at };
  });
  const shift =
    placed.reduce((sum, { at }, k) => sum + ((wanted[k]?.row ?? 0) - at), 0) /
    Math.max(1, placed.length);
  for (const { id, at } of placed) rows.set(id, Math.round((at + shift) * 2) / 2);
}
