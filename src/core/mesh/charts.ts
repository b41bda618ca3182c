import { doubledAreas } from './surface-mesh';
import { findEdges, weldNearly } from './topology';

const { hypot, sqrt } = Math;

/** Triangles to be grouped into charts. */
export interface ChartedMesh {
  readonly positions: Float32Array;
  readonly indices: Uint32Array;
}
/**
 * Which chart each triangle belongs to, counted from 0, each chart's mean direction (unit, three
 * numbers), and for each corner the one that begins the same edge in the neighbouring triangle
 * (−1: none).
 */
export interface Charts {
  readonly of: Int32Array<ArrayBuffer>;
  readonly directions: Float64Array<ArrayBuffer>;
  readonly across: Int32Array;
  readonly count: number;
}

/**
 * Triangles join a chart while they face its mean direction within `joins`; those that end up
 * beyond `leaves` begin anew.
 */
const CONE = {
  joins: Math.cos((50 * Math.PI) / 180),
  leaves: Math.cos((66 * Math.PI) / 180),
  merges: Math.cos((72 * Math.PI) / 180),
} as const;
/**
 * How far a chart may reach from where it began, in sides of a square of the whole area: long cords
 * would make everything else small.
 */
const REACH = 1.45;
/** Charts of fewer triangles are given to a neighbour that faces alike. */
const SMALL = 6;

/**
 * Parts a mesh into charts that can be laid flat by looking at them from one side: grown from
 * triangle to triangle across shared edges. Linear in the number of triangles, so that it also
 * serves where conformal unwrapping takes minutes.
 */
export function growCharts(mesh: ChartedMesh): Charts {
  return new ChartGrower(mesh).grow();
}

class ChartGrower {
  private readonly triangles: number;
  /** Normal times twice the area of each triangle. */
  private readonly areas: Float64Array;
  private readonly across: Int32Array;
  private readonly chart: Int32Array<ArrayBuffer>;
  private readonly queue: Int32Array;
  private readonly sums: number[] = [];
  private readonly reach: number;

  constructor(private readonly mesh: ChartedMesh) {
    const { positions, indices } = mesh;
    this.triangles = indices.length / 3;
    this.areas = doubledAreas(mesh);
    let area = 0;
    for (let t = 0; t < this.areas.length; t += 3)
      area +=
        hypot(this.areas[t] as number, this.areas[t + 1] as number, this.areas[t + 2] as number) /
        2;
    this.reach = sqrt(area) * REACH;
    this.across = findEdges(indices, weldNearly(positions)).across;
    this.chart = new Int32Array(this.triangles).fill(-1);
    this.queue = new Int32Array(this.triangles);
  }

  grow(): Charts {
    // A chart may leave triangles behind that came before its seed: they begin anew until none is
    // left.
    for (let isLeft = true; isLeft;) {
      isLeft = false;
      for (let t = 0; t < this.triangles; t++)
        if ((this.chart[t] as number) < 0) {
          this.growFrom(t);
          isLeft = true;
        }
    }
    this.mergeSmall();
    return this.numbered();
  }

  private growFrom(seed: number): void {
    const { queue, chart, across, areas, sums } = this;
    const id = sums.length / 3;
    let head = 0,
      tail = 0;
    let x = areas[seed * 3] as number,
      y = areas[seed * 3 + 1] as number,
      z = areas[seed * 3 + 2] as number;
    queue[tail++] = seed;
    chart[seed] = id;
    while (head < tail) {
      const t = queue[head++] as number;
      for (let k = t * 3; k < t * 3 + 3; k++) {
        const other = across[k] as number;
        const next = other < 0 ? -1 : (other - (other % 3)) / 3;
        if (
          next < 0 ||
          (chart[next] as number) >= 0 ||
          !this.faces(next, x, y, z, CONE.joins) ||
          !this.isNear(next, seed)
        )
          continue;
        chart[next] = id;
        queue[tail++] = next;
        x += areas[next * 3] as number;
        y += areas[next * 3 + 1] as number;
        z += areas[next * 3 + 2] as number;
      }
    }
    sums.push(x, y, z);
    for (let k = 0; k < tail; k++) {
      const t = queue[k] as number;
      if (t !== seed && !this.faces(t, x, y, z, CONE.leaves)) chart[t] = -1;
    }
  }

  /**
   * Whether a triangle faces a direction (of any length) within a cone; those without area face
   * all.
   */
  private faces(t: number, x: number, y: number, z: number, cosine: number): boolean {
    const nx = this.areas[t * 3] as number,
      ny = this.areas[t * 3 + 1] as number,
      nz = this.areas[t * 3 + 2] as number;
    const own = nx * nx + ny * ny + nz * nz,
      length = x * x + y * y + z * z;
    if (own === 0 || length === 0) return true;
    const along = nx * x + ny * y + nz * z;
    return along > 0 && along * along >= cosine * cosine * own * length;
  }

  private isNear(t: number, seed: number): boolean {
    const { positions, indices } = this.mesh;
    const a = (indices[t * 3] as number) * 3,
      b = (indices[seed * 3] as number) * 3;
    const x = (positions[a] as number) - (positions[b] as number),
      y = (positions[a + 1] as number) - (positions[b + 1] as number),
      z = (positions[a + 2] as number) - (positions[b + 2] as number);
    return x * x + y * y + z * z <= this.reach * this.reach;
  }

  /** Gives the triangles of small charts to the neighbour they face, one after the other. */
  private mergeSmall(): void {
    const { chart, across, sums } = this;
    const sizes = new Int32Array(sums.length / 3);
    for (const id of chart) sizes[id] = (sizes[id] as number) + 1;
    for (let t = 0; t < this.triangles; t++) {
      const own = chart[t] as number;
      if ((sizes[own] as number) >= SMALL) continue;
      for (let k = t * 3; k < t * 3 + 3; k++) {
        const other = across[k] as number;
        const id = other < 0 ? own : (chart[(other - (other % 3)) / 3] as number);
        if (
          id === own ||
          (sizes[id] as number) < SMALL ||
          !this.faces(
            t,
            sums[id * 3] as number,
            sums[id * 3 + 1] as number,
            sums[id * 3 + 2] as number,
            CONE.merges,
          )
        )
          continue;
        chart[t] = id;
        sizes[own] = (sizes[own] as number) - 1;
        break;
      }
    }
  }

  private numbered(): Charts {
    const numbers = new Int32Array(this.sums.length / 3).fill(-1);
    let count = 0;
    for (let t = 0; t < this.triangles; t++) {
      const id = this.chart[t] as number;
      if ((numbers[id] as number) < 0) numbers[id] = count++;
      this.chart[t] = numbers[id] as number;
    }
    const directions = new Float64Array(count * 3);
    for (let t = 0; t < this.triangles; t++)
      for (let axis = 0; axis < 3; axis++) {
        const at = (this.chart[t] as number) * 3 + axis;
        directions[at] = (directions[at] as number) + (this.areas[t * 3 + axis] as number);
      }
    for (let c = 0; c < directions.length; c += 3) {
      const length = hypot(
        directions[c] as number,
        directions[c + 1] as number,
        directions[c + 2] as number,
      );
      if (length === 0) directions[c + 1] = 1;
      else
        for (let axis = 0; axis < 3; axis++)
          directions[c + axis] = (directions[c + axis] as number) / length;
    }
    return { of: this.chart, directions, across: this.across, count };
  }
}
