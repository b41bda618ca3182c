import { findNodeDefinition } from '../compile/catalogue';
import { TYPED_ONLY } from '../nodes/define';
import { topologicalOrder } from '../compile/order';
import type { Network, NodeInstance } from '../graph/document';

/** Distances of cards, pixels of the board: a card is 132 wide and mostly 190 high. */
const COLUMN = 184;
const ROW = 236;
/** Ports stand so far apart, and need so much beside themselves. */
const [PITCH, AROUND] = [16, 64];

/** How many rows a card fills, in halves: one with many inputs is taller than others. */
function rowsOf(node: NodeInstance | undefined): number {
  const ports = Object.values((node && findNodeDefinition(node)?.inputs) ?? {}).filter(
    ({ kind, section }) => section === undefined && !TYPED_ONLY.has(kind),
  );
  return Math.max(1, Math.ceil((2 * (ports.length * PITCH + AROUND)) / ROW) / 2);
}

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
    next += rowsOf(network.nodes.find((node) => node.id === id));
    return { id, at };
  });
  const shift =
    placed.reduce((sum, { at }, k) => sum + ((wanted[k]?.row ?? 0) - at), 0) /
    Math.max(1, placed.length);
  for (const { id, at } of placed) rows.set(id, Math.round((at + shift) * 2) / 2);
}
