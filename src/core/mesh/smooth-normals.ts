import { weldNearly } from './topology';

const { acos, cos, hypot, min, max, round } = Math;

/** Triangles by their vertices: three numbers a vertex. */
export interface IndexedTriangles {
  readonly positions: Float32Array;
  readonly indices: Uint32Array;
}
/** Triangles with unit normals: three numbers a vertex. */
export interface ShadedTriangles {
  readonly positions: Float32Array<ArrayBuffer>;
  readonly normals: Float32Array<ArrayBuffer>;
  readonly indices: Uint32Array<ArrayBuffer>;
  /** The vertex each new vertex was made from. */
  readonly sources: Uint32Array<ArrayBuffer>;
}

/**
 * Of more corners than this at one place every second, third … is looked at: a model shrunk to a
 * point would take minutes.
 */
const MOST_AROUND = 1024;
/** Normals of one vertex that differ by less than this are one. */
const ALIKE = 1 / 4096;

/** Vertices split so that each has one normal, as they come. */
class SplitVertices {
  readonly sources: Uint32Array<ArrayBuffer>;
  readonly normals: Float32Array<ArrayBuffer>;
  count = 0;
  /** The vertices made from each vertex, as a chain. */
  private readonly newest: Int32Array;
  private readonly older: Int32Array;

  constructor(vertices: number, corners: number) {
    this.sources = new Uint32Array(corners);
    this.normals = new Float32Array(corners * 3);
    this.newest = new Int32Array(vertices).fill(-1);
    this.older = new Int32Array(corners);
  }

  /** The vertex made from `vertex` with a unit normal, or one that is as good as the same. */
  find(vertex: number, x: number, y: number, z: number): number {
    const { normals, older } = this;
    // As coarse as they are told apart, so that which corner came first changes nothing.
    const qx = round(x / ALIKE),
      qy = round(y / ALIKE),
      qz = round(z / ALIKE);
    for (let index = this.newest[vertex] as number; index >= 0; index = older[index] as number)
      if (
        round((normals[index * 3] as number) / ALIKE) === qx &&
        round((normals[index * 3 + 1] as number) / ALIKE) === qy &&
        round((normals[index * 3 + 2] as number) / ALIKE) === qz
      )
        return index;
    const index = this.count++;
    older[index] = this.newest[vertex] as number;
    this.newest[vertex] = index;
    this.sources[index] = vertex;
    normals[index * 3] = x;
    normals[index * 3 + 1] = y;
    normals[index * 3 + 2] = z;
    return index;
  }
}

/**
 * Shades smoothly across edges flatter than `creaseRad` and keeps the others hard, splitting
 * vertices there. Corners are weighted by their angle. Source: G. Thürmer and C. Wüthrich,
 * Computing Vertex Normals from Polygonal Facets, 1998.
 */
export function smoothNormals(mesh: IndexedTriangles, creaseRad: number): ShadedTriangles {
  const { positions, indices } = mesh;
  const { faces, weights } = facesOf(mesh);
  const { starts, corners } = cornersAround(indices, weldNearly(positions));
  const limit = cos(creaseRad);
  const split = new SplitVertices(positions.length / 3, indices.length);
  const made = new Uint32Array(indices.length);
  for (let c = 0; c < indices.length; c++) {
    const vertex = indices[c] as number,
      own = c - (c % 3);
    const ox = faces[own] as number,
      oy = faces[own + 1] as number,
      oz = faces[own + 2] as number;
    let x = 0,
      y = 0,
      z = 0;
    const around = corners.of[vertex] as number;
    const until = starts[around + 1] as number;
    const step = Math.ceil((until - (starts[around] as number)) / MOST_AROUND);
    for (let k = starts[around] as number; k < until; k += step) {
      const other = corners.list[k] as number,
        face = other - (other % 3);
      const fx = faces[face] as number,
        fy = faces[face + 1] as number,
        fz = faces[face + 2] as number;
      if (ox * fx + oy * fy + oz * fz < limit) continue;
      const weight = weights[other] as number;
      x += fx * weight;
      y += fy * weight;
      z += fz * weight;
    }
    const length = hypot(x, y, z);
    made[c] =
      length > 0
        ? split.find(vertex, x / length, y / length, z / length)
        : split.find(vertex, ox, oy, oz);
  }
  return { indices: made, ...placeVertices(positions, split) };
}

function placeVertices(
  positions: Float32Array,
  { sources, normals, count }: SplitVertices,
): Omit<ShadedTriangles, 'indices'> {
  const placed = new Float32Array(count * 3);
  for (let v = 0; v < count; v++)
    for (let axis = 0; axis < 3; axis++)
      placed[v * 3 + axis] = positions[(sources[v] as number) * 3 + axis] as number;
  return {
    positions: placed,
    normals: normals.slice(0, count * 3),
    sources: sources.slice(0, count),
  };
}

/** Unit normals of all triangles, and the angle at each corner. */
function facesOf({ positions, indices }: IndexedTriangles): {
  readonly faces: Float64Array;
  readonly weights: Float64Array;
} {
  const faces = new Float64Array(indices.length),
    weights = new Float64Array(indices.length);
  for (let t = 0; t < indices.length; t += 3) {
    for (let k = 0; k < 3; k++) {
      const a = (indices[t + k] as number) * 3,
        b = (indices[t + ((k + 1) % 3)] as number) * 3,
        c = (indices[t + ((k + 2) % 3)] as number) * 3;
      const ux = (positions[b] as number) - (positions[a] as number),
        uy = (positions[b + 1] as number) - (positions[a + 1] as number),
        uz = (positions[b + 2] as number) - (positions[a + 2] as number);
      const vx = (positions[c] as number) - (positions[a] as number),
        vy = (positions[c + 1] as number) - (positions[a + 1] as number),
        vz = (positions[c + 2] as number) - (positions[a + 2] as number);
      const product = hypot(ux, uy, uz) * hypot(vx, vy, vz);
      weights[t + k] =
        product > 0 ? acos(max(-1, min(1, (ux * vx + uy * vy + uz * vz) / product))) : 0;
      if (k > 0) continue;
      const nx = uy * vz - uz * vy,
        ny = uz * vx - ux * vz,
        nz = ux * vy - uy * vx,
        length = hypot(nx, ny, nz);
      faces[t] = length > 0 ? nx / length : 0;
      faces[t + 1] = length > 0 ? ny / length : 1;
      faces[t + 2] = length > 0 ? nz / length : 0;
    }
  }
  return { faces, weights };
}

/**
 * The corners at each place: `list` from `starts[w]` to before `starts[w + 1]`, w the welded
 * vertex.
 */
function cornersAround(
  indices: Uint32Array,
  welded: Uint32Array,
): {
  readonly starts: Uint32Array;
  readonly corners: { readonly of: Uint32Array; readonly list: Uint32Array };
} {
  const starts = new Uint32Array(welded.length + 1);
  for (const vertex of indices) {
    const w = (welded[vertex] as number) + 1;
    starts[w] = (starts[w] as number) + 1;
  }
  for (let w = 0; w < welded.length; w++)
    starts[w + 1] = (starts[w + 1] as number) + (starts[w] as number);
  const next = starts.slice(),
    list = new Uint32Array(indices.length);
  for (let c = 0; c < indices.length; c++) {
    const w = welded[indices[c] as number] as number,
      at = next[w] as number;
    list[at] = c;
    next[w] = at + 1;
  }
  return { starts, corners: { of: welded, list } };
}
