import type { SamplePoints } from './sample-points';

const { floor, imul, max } = Math;

/** Points looked at around each: more add nothing but time. */
const NEIGHBOURS = 160;

/**
 * Points by the cells of a grid as wide as the radius that is looked around: `starts` by slot; nine
 * numbers a point (place, normal, difference).
 */
interface Grid {
  readonly cell: number;
  readonly starts: Int32Array;
  readonly packed: Float32Array;
}
const slotOf = (x: number, y: number, z: number, slots: number): number =>
  (imul(x, 73856093) ^ imul(y, 19349663) ^ imul(z, 83492791)) & (slots - 1);

/** Normals that a network supplies at points of a surface, in place of the surface's own. */
export class DetailNormals {
  private bending: { readonly radius: number; readonly bend: DetailBend } | null = null;

  /**
   * @param name differs for each network's normals; @param normals unit, three numbers a
   *   point
   */
  constructor(
    readonly name: string,
    private readonly points: SamplePoints,
    readonly normals: Float32Array<ArrayBuffer>,
  ) {}

  bend(radius: number): DetailBend {
    if (this.bending?.radius !== radius)
      this.bending = { radius, bend: new DetailBend(this.points, this.normals, radius) };
    return this.bending.bend;
  }
}

/**
 *  What supplied normals add to ρ·H around each point: half the divergence of their difference δ
 *  from the surface's normals, fitted over the points within ρ as Σ(δ_q − δ_x)·(q − x) / Σ|q
 * − x|². That is exact where δ changes evenly, whatever the spread of the points; for supplied
 * normals that are those of a sphere it is ρ/R.
 */
export class DetailBend {
  private readonly grid: Grid;
  private readonly difference: Float32Array;
  private readonly slots = new Int32Array(27);

  constructor(
    private readonly points: SamplePoints,
    supplied: Float32Array,
    private readonly radius: number,
  ) {
    this.difference = Float32Array.from(
      supplied,
      (value, k) => value - (points.normals[k] as number),
    );
    this.grid = makeGrid(points, this.difference, radius);
  }

  /** Adds to values of the points from `first` on. */
  addTo(values: Float32Array<ArrayBuffer>, first: number): Float32Array<ArrayBuffer> {
    for (let k = 0; k < values.length; k++)
      values[k] = (values[k] as number) + this.around(first + k) * this.radius;
    return values;
  }

  /** The slots of the cells around a place, each once: cells may share one. */
  private slotsAround(x: number, y: number, z: number): number {
    const {
      slots,
      grid: { cell, starts },
    } = this;
    const cx = floor(x / cell),
      cy = floor(y / cell),
      cz = floor(z / cell);
    let found = 0;
    for (let k = 0; k < 27; k++) {
      const slot = slotOf(
        cx + (k % 3) - 1,
        cy + (floor(k / 3) % 3) - 1,
        cz + floor(k / 9) - 1,
        starts.length - 1,
      );
      let known = starts[slot] === starts[slot + 1];
      for (let other = 0; other < found && !known; other++) known = slots[other] === slot;
      if (!known) slots[found++] = slot;
    }
    return found;
  }

  private around(point: number): number {
    const {
      points: { positions, normals },
      difference,
      radius,
      slots,
      grid: { starts, packed },
    } = this;
    const p = point * 3,
      most = radius * radius;
    const x = positions[p] as number,
      y = positions[p + 1] as number,
      z = positions[p + 2] as number;
    const nx = normals[p] as number,
      ny = normals[p + 1] as number,
      nz = normals[p + 2] as number;
    const ex = difference[p] as number,
      ey = difference[p + 1] as number,
      ez = difference[p + 2] as number;
    let spread = 0,
      squares = 0;
    for (let k = this.slotsAround(x, y, z) - 1; k >= 0; k--) {
      const slot = slots[k] as number,
        end = (starts[slot + 1] as number) * 9;
      for (let q = (starts[slot] as number) * 9; q < end; q += 9) {
        const dx = (packed[q] as number) - x,
          dy = (packed[q + 1] as number) - y,
          dz = (packed[q + 2] as number) - z;
        const squared = dx * dx + dy * dy + dz * dz;
        // The other side of a thin wall does not count.
        if (
          squared > most ||
          (packed[q + 3] as number) * nx +
            (packed[q + 4] as number) * ny +
            (packed[q + 5] as number) * nz <=
            0
        )
          continue;
        spread +=
          ((packed[q + 6] as number) - ex) * dx +
          ((packed[q + 7] as number) - ey) * dy +
          ((packed[q + 8] as number) - ez) * dz;
        squares += squared;
      }
    }
    return squares > 0 ? spread / squares : 0;
  }
}

/** All points, or an even choice of them where a radius holds too many. */
function makeGrid(
  { positions, normals, count }: SamplePoints,
  difference: Float32Array,
  cell: number,
): Grid {
  let slots = 1024;
  while (slots < count * 2) slots *= 2;
  const slotAt = (k: number): number =>
    slotOf(
      floor((positions[k * 3] as number) / cell),
      floor((positions[k * 3 + 1] as number) / cell),
      floor((positions[k * 3 + 2] as number) / cell),
      slots,
    );
  const cellsUsed = new Set<number>();
  for (let k = 0; k < count; k++) cellsUsed.add(slotAt(k));
  // About three cells lie on the surface within a radius of it.
  const stride = max(1, floor(((count / max(1, cellsUsed.size)) * 3) / NEIGHBOURS));
  const chosen: number[] = [];
  for (let k = 0; k < count; k++)
    if (stride === 1 || (imul(k, 0x9e3779b1) >>> 16) % stride === 0) chosen.push(k);
  const starts = new Int32Array(slots + 1);
  for (const k of chosen) {
    const slot = slotAt(k);
    starts[slot + 1] = (starts[slot + 1] as number) + 1;
  }
  for (let slot = 0; slot < slots; slot++)
    starts[slot + 1] = (starts[slot + 1] as number) + (starts[slot] as number);
  const packed = new Float32Array(chosen.length * 9),
    filled = starts.slice();
  for (const k of chosen) {
    const slot = slotAt(k),
      at = filled[slot] as number;
    filled[slot] = at + 1;
    packed.set(positions.subarray(k * 3, k * 3 + 3), at * 9);
    packed.set(normals.subarray(k * 3, k * 3 + 3), at * 9 + 3);
    packed.set(difference.subarray(k * 3, k * 3 + 3), at * 9 + 6);
  }
  return { cell, starts, packed };
}
