import type { SurfaceMesh } from './surface-mesh';

/**
 * A bounding volume hierarchy over a mesh's triangles (binned surface area heuristic).
 * Source: I. Wald, On Fast Construction of SAH-based Bounding Volume Hierarchies, 2007.
 *
 * Node layout: `bounds` holds low x, y, z, high x, y, z; `links` holds, per node, [first, count]: for a leaf the first
 * place in `order` and the number of triangles; for an inner node its second child and 0 (the first child follows it).
 */
export interface Bvh {
  readonly bounds: Float32Array<ArrayBuffer>;
  readonly links: Uint32Array<ArrayBuffer>;
  readonly order: Uint32Array<ArrayBuffer>;
  /** Per place in `order`: the first corner, then the two edges from it, nine numbers. */
  readonly triangles: Float32Array<ArrayBuffer>;
}

const BINS = 16;
const LEAF = 4;

class BvhBuilder {
  private readonly bounds: Float32Array<ArrayBuffer>;
  private readonly links: Uint32Array<ArrayBuffer>;
  private readonly order: Uint32Array<ArrayBuffer>;
  private readonly boxes: Float32Array;
  private nodes = 0;

  constructor(private readonly mesh: Pick<SurfaceMesh, 'positions' | 'indices'>) {
    const count = mesh.indices.length / 3;
    this.bounds = new Float32Array(Math.max(1, count * 2) * 6);
    this.links = new Uint32Array(Math.max(1, count * 2) * 2);
    this.order = Uint32Array.from({ length: count }, (_, k) => k);
    this.boxes = new Float32Array(count * 6);
    for (let t = 0; t < count; t++) this.boxTriangle(t);
  }

  private boxTriangle(t: number): void {
    const { positions, indices } = this.mesh;
    for (let axis = 0; axis < 3; axis++) {
      const [a, b, c] = [0, 1, 2].map((k) => positions[(indices[t * 3 + k] as number) * 3 + axis] as number) as [number, number, number];
      this.boxes[t * 6 + axis] = Math.min(a, b, c);
      this.boxes[t * 6 + 3 + axis] = Math.max(a, b, c);
    }
  }

  build(): Bvh {
    const count = this.order.length;
    if (count > 0) this.split(0, count);
    const triangles = new Float32Array(count * 9);
    const { positions, indices } = this.mesh;
    this.order.forEach((t, place) => {
      for (let axis = 0; axis < 3; axis++) {
        const [a, b, c] = [0, 1, 2].map((k) => positions[(indices[t * 3 + k] as number) * 3 + axis] as number) as [number, number, number];
        triangles[place * 9 + axis] = a;
        triangles[place * 9 + 3 + axis] = b - a;
        triangles[place * 9 + 6 + axis] = c - a;
      }
    });
    return { bounds: this.bounds.slice(0, this.nodes * 6), links: this.links.slice(0, this.nodes * 2), order: this.order, triangles };
  }

  private split(start: number, end: number): number {
    const node = this.nodes++;
    this.boxNode(node, start, end);
    const cut = end - start <= LEAF ? -1 : this.partition(node, start, end);
    if (cut < 0) {
      this.links[node * 2] = start;
      this.links[node * 2 + 1] = end - start;
      return node;
    }
    this.split(start, cut);
    this.links[node * 2] = this.split(cut, end);
    this.links[node * 2 + 1] = 0;
    return node;
  }

  private boxNode(node: number, start: number, end: number): void {
    for (let axis = 0; axis < 3; axis++) {
      let low = Infinity, high = -Infinity;
      for (let k = start; k < end; k++) {
        const t = this.order[k] as number;
        low = Math.min(low, this.boxes[t * 6 + axis] as number);
        high = Math.max(high, this.boxes[t * 6 + 3 + axis] as number);
      }
      this.bounds[node * 6 + axis] = low;
      this.bounds[node * 6 + 3 + axis] = high;
    }
  }

  private middle(t: number, axis: number): number {
    return (this.boxes[t * 6 + axis] as number) + (this.boxes[t * 6 + 3 + axis] as number);
  }

  /** Splits where the heuristic is least along the axis of widest centres; in halves where it sees no gain. */
  private partition(node: number, start: number, end: number): number {
    let axis = 0, low = 0, width = -1;
    for (let candidate = 0; candidate < 3; candidate++) {
      let a = Infinity, b = -Infinity;
      for (let k = start; k < end; k++) {
        const m = this.middle(this.order[k] as number, candidate);
        a = Math.min(a, m);
        b = Math.max(b, m);
      }
      if (b - a > width) { width = b - a; axis = candidate; low = a; }
    }
    if (width <= 0) return (start + end) >> 1;
    const binOf = (t: number): number => Math.min(BINS - 1, Math.floor((this.middle(t, axis) - low) / width * BINS));
    const cut = this.cheapestCut(start, end, binOf);
    let i = start, j = end - 1;
    while (i <= j) {
      if (binOf(this.order[i] as number) < cut) i++;
      else {
        const swap = this.order[i] as number;
        this.order[i] = this.order[j] as number;
        this.order[j--] = swap;
      }
    }
    return i === start || i === end ? (start + end) >> 1 : i;
  }

  private cheapestCut(start: number, end: number, binOf: (t: number) => number): number {
    const counts = new Float64Array(BINS);
    const boxes = Float64Array.from({ length: BINS * 6 }, (_, k) => (k % 6 < 3 ? Infinity : -Infinity));
    for (let k = start; k < end; k++) {
      const t = this.order[k] as number;
      const bin = binOf(t);
      counts[bin] = (counts[bin] as number) + 1;
      mergeBox(boxes, bin * 6, this.boxes, t * 6);
    }
    const right = new Float64Array(BINS);
    const sweep = Float64Array.from({ length: 6 }, (_, k) => (k < 3 ? Infinity : -Infinity));
    for (let bin = BINS - 1, n = 0; bin > 0; bin--) {
      n += counts[bin] as number;
      mergeBox(sweep, 0, boxes, bin * 6);
      right[bin] = n * halfArea(sweep);
    }
    sweep.fill(Infinity, 0, 3).fill(-Infinity, 3, 6);
    let best = 1, cost = Infinity;
    for (let bin = 1, n = 0; bin < BINS; bin++) {
      n += counts[bin - 1] as number;
      mergeBox(sweep, 0, boxes, (bin - 1) * 6);
      const total = n * halfArea(sweep) + (right[bin] as number);
      if (total < cost) { cost = total; best = bin; }
    }
    return best;
  }
}

function mergeBox(into: Float64Array, at: number, from: Float32Array | Float64Array, start: number): void {
  for (let k = 0; k < 3; k++) {
    into[at + k] = Math.min(into[at + k] as number, from[start + k] as number);
    into[at + 3 + k] = Math.max(into[at + 3 + k] as number, from[start + 3 + k] as number);
  }
}

function halfArea(box: Float64Array): number {
  const [x, y, z] = [0, 1, 2].map((k) => Math.max(0, (box[k + 3] as number) - (box[k] as number))) as [number, number, number];
  return x * y + y * z + z * x;
}

/** Builds the hierarchy. */
export function buildBvh(mesh: Pick<SurfaceMesh, 'positions' | 'indices'>): Bvh {
  return new BvhBuilder(mesh).build();
}
