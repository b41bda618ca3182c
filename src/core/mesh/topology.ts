import type { SurfaceMesh } from './surface-mesh';

/** Vertices closer than this share of the object's size count as one where edges are looked for. */
export const WELD_SHARE = 1e-6;

/** A table of places for whole numbers, open addressing; −1 where there is none. */
function emptyTable(entries: number): Int32Array {
  return new Int32Array(2 ** Math.ceil(Math.log2(Math.max(8, entries * 2)))).fill(-1);
}
const scramble = (h: number): number => {
  const a = Math.imul(h ^ (h >>> 16), 0x7feb352d);
  const b = Math.imul(a ^ (a >>> 15), 0x846ca68b);
  return (b ^ (b >>> 16)) >>> 0;
};

/**
 * For each vertex, the first vertex in the same cell of a grid; with a cell of 0, at the same place
 * to the bit.
 * @param cell the grid's spacing, metres
 */
export function weldVertices(positions: Float32Array, cell: number): Uint32Array<ArrayBuffer> {
  const count = positions.length / 3;
  const keys = new Int32Array(count * 3);
  if (cell > 0)
    for (let k = 0; k < keys.length; k++) keys[k] = Math.round((positions[k] as number) / cell);
  else {
    const exact = new Float32Array(positions.length);
    // −0 becomes 0
    for (let k = 0; k < exact.length; k++) exact[k] = (positions[k] as number) + 0;
    keys.set(new Int32Array(exact.buffer));
  }
  return weldTriples(keys);
}

/**
 * Welds what lies in one place but for roundings of the file: within a millionth of the widest
 * extent.
 */
export function weldNearly(positions: Float32Array): Uint32Array<ArrayBuffer> {
  const low = [Infinity, Infinity, Infinity],
    high = [-Infinity, -Infinity, -Infinity];
  for (let k = 0; k < positions.length; k++) {
    const value = positions[k] as number,
      axis = k % 3;
    if (value < (low[axis] as number)) low[axis] = value;
    if (value > (high[axis] as number)) high[axis] = value;
  }
  const extent = Math.max(0, ...high.map((value, axis) => value - (low[axis] as number)));
  return weldVertices(positions, Number.isFinite(extent) ? extent * WELD_SHARE : 0);
}

/** For each three numbers, the first three that are equal. */
export function weldTriples(keys: Int32Array): Uint32Array<ArrayBuffer> {
  const count = keys.length / 3;
  const table = emptyTable(count);
  const mask = table.length - 1;
  const welded = new Uint32Array(count);
  for (let v = 0; v < count; v++) {
    const x = keys[v * 3] as number,
      y = keys[v * 3 + 1] as number,
      z = keys[v * 3 + 2] as number;
    let slot =
      scramble(Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca6b) ^ Math.imul(z, 0xc2b2ae35)) &
      mask;
    for (;;) {
      const other = table[slot] as number;
      if (other < 0) {
        table[slot] = v;
        welded[v] = v;
        break;
      }
      if (keys[other * 3] === x && keys[other * 3 + 1] === y && keys[other * 3 + 2] === z) {
        welded[v] = other;
        break;
      }
      slot = (slot + 1) & mask;
    }
  }
  return welded;
}

/**
 * Which edges triangles share. An edge is named by its corner: corner k of a triangle begins the
 * edge to its next corner.
 */
export interface EdgeTopology {
  /** The corner that begins the same edge in the neighbouring triangle, or −1. */
  readonly across: Int32Array<ArrayBuffer>;
  /**
   * Edges that only one triangle has, that more than two have, and that two have in the same
   * direction (one of them is flipped).
   */
  readonly open: number;
  readonly nonManifold: number;
  readonly flipped: number;
}

/** The corner after this one in its triangle. */
export const nextCorner = (corner: number): number => (corner % 3 === 2 ? corner - 2 : corner + 1);

/** Whether two corners of the triangle of a corner are one vertex. */
function isCollapsed(indices: Uint32Array, welded: Uint32Array, corner: number): boolean {
  const first = corner - (corner % 3);
  const a = welded[indices[first] as number],
    b = welded[indices[first + 1] as number],
    c = welded[indices[first + 2] as number];
  return a === b || b === c || c === a;
}

/**
 * Finds the neighbours of all edges by welded vertices. Triangles that have collapsed have none.
 */
export function findEdges(indices: Uint32Array, welded: Uint32Array): EdgeTopology {
  const corners = indices.length;
  const across = new Int32Array(corners).fill(-1);
  const uses = new Uint8Array(corners);
  const table = emptyTable(corners);
  const mask = table.length - 1;
  let flipped = 0;
  for (let k = 0; k < corners; k++) {
    const from = welded[indices[k] as number] as number,
      to = welded[indices[nextCorner(k)] as number] as number;
    if (isCollapsed(indices, welded, k)) continue;
    const low = Math.min(from, to),
      high = Math.max(from, to);
    let slot = scramble(Math.imul(low, 0x9e3779b1) ^ Math.imul(high, 0x85ebca6b)) & mask;
    for (;;) {
      const other = table[slot] as number;
      if (other < 0) {
        table[slot] = k;
        uses[k] = 1;
        break;
      }
      const a = welded[indices[other] as number] as number,
        b = welded[indices[nextCorner(other)] as number] as number;
      if (Math.min(a, b) === low && Math.max(a, b) === high) {
        uses[other] = Math.min(255, (uses[other] as number) + 1);
        if (uses[other] === 2) {
          across[k] = other;
          across[other] = k;
          if (a === from) flipped++;
        }
        break;
      }
      slot = (slot + 1) & mask;
    }
  }
  let open = 0,
    nonManifold = 0;
  for (let k = 0; k < corners; k++) {
    if (uses[k] === 1) open++;
    else if ((uses[k] as number) > 2) nonManifold++;
  }
  return { across, open, nonManifold, flipped };
}

const kept = new WeakMap<Uint32Array, EdgeTopology>();
/** The edges of a mesh; found once. */
export function getEdges(mesh: Pick<SurfaceMesh, 'positions' | 'indices' | 'size'>): EdgeTopology {
  let edges = kept.get(mesh.indices);
  if (!edges) {
    edges = findEdges(mesh.indices, weldVertices(mesh.positions, mesh.size * WELD_SHARE));
    kept.set(mesh.indices, edges);
  }
  return edges;
}
