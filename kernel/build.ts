// Building the hierarchy: top-down over boxes of triangles, by the surface area heuristic in bins
// along all three axes, four children to a node. Source: I. Wald, On Fast Construction of SAH-based
// Bounding Volume Hierarchies, 2007; four children after H. Dammertz, J. Hanika, A. Keller, Shallow
// Bounding Volume Hierarchies for Fast SIMD Ray Tracing, 2008.
//
// A reference is the box of a triangle: low x, y, z and the triangle's number, then high x, y, z
// (32 bytes). A node is low x of its four children, high x, low y, high y, low z, high z, then
// their links (112 bytes). A link of 0 or more is a node, a negative one the complement of a group
// of triangles; both are byte offsets divided by 16. A group is up to four triangles: the x, y, z
// of their first corners, second, third, then their numbers (160 bytes).

const BINS: i32 = 16;
const FEW_BINS: i32 = 8;
const LEAF: i32 = 4;
const REFERENCE: i32 = 32;
const CHILD: i32 = 80;
const LEVEL: i32 = 512;
const DEPTH: i32 = 128;

let positions: usize = 0;
let indices: usize = 0;
let references: usize = 0;
let end: usize = 0;
let bins: usize = 0;
let areas: usize = 0;
let levels: usize = 0;

const FAR: v128 = f32x4.splat(Infinity);
const NEAR: v128 = f32x4.splat(-Infinity);

@inline
function pad(at: usize): usize {
  return (at + 15) & ~15;
}

/** Takes bytes at the end of memory, which grows as needed. */
function take(bytes: usize): usize {
  const at = end;
  end += bytes;
  const pages = <i32>((end + 65535) >>> 16);
  if (pages > memory.size()) memory.grow(max(pages - memory.size(), 256));
  return at;
}

/** Bytes of memory that building needs before the hierarchy itself. */
export function scratchBytes(triangles: i32): usize {
  return <usize>triangles * REFERENCE + <usize>(BINS * 3 * 48 + BINS * 4 + LEVEL * DEPTH + 64);
}

/**
 * Builds the hierarchy behind `scratch`, and returns the root's link.
 * @param vertices x, y, z each, with four bytes to spare behind the last
 */
export function build(vertices: usize, corners: usize, triangles: i32, scratch: usize): i32 {
  positions = vertices;
  indices = corners;
  references = pad(scratch);
  bins = references + <usize>triangles * REFERENCE;
  areas = bins + BINS * 3 * 48;
  levels = pad(areas + BINS * 4);
  end = levels + LEVEL * DEPTH;
  take(0);
  const root = levels;
  boxAll(triangles, root);
  return buildNode(root, root + CHILD);
}

/**
 * Boxes of all triangles; the whole becomes the range at `child`: start, end, then its box and the
 * box of its middles.
 */
function boxAll(triangles: i32, child: usize): void {
  let low = FAR,
    high = NEAR,
    lowMiddle = FAR,
    highMiddle = NEAR;
  for (let t = 0; t < triangles; t++) {
    const c = indices + <usize>t * 12;
    const a = v128.load(positions + <usize>load<u32>(c) * 12),
      b = v128.load(positions + <usize>load<u32>(c, 4) * 12),
      d = v128.load(positions + <usize>load<u32>(c, 8) * 12);
    const least = f32x4.pmin(f32x4.pmin(a, b), d),
      most = f32x4.pmax(f32x4.pmax(a, b), d);
    const at = references + <usize>t * REFERENCE;
    v128.store(at, i32x4.replace_lane(least, 3, t));
    v128.store(at, f32x4.replace_lane(most, 3, 0), 16);
    low = f32x4.pmin(low, least);
    high = f32x4.pmax(high, most);
    const middle = f32x4.add(least, most);
    lowMiddle = f32x4.pmin(lowMiddle, middle);
    highMiddle = f32x4.pmax(highMiddle, middle);
  }
  storeChild(child, 0, triangles, low, high, lowMiddle, highMiddle);
}

@inline
function storeChild(
  at: usize,
  start: i32,
  until: i32,
  low: v128,
  high: v128,
  lowMiddle: v128,
  highMiddle: v128,
): void {
  v128.store(at, low);
  v128.store(at, high, 16);
  v128.store(at, lowMiddle, 32);
  v128.store(at, highMiddle, 48);
  store<i32>(at, start, 64);
  store<i32>(at, until, 68);
}

@inline
function halfArea(low: v128, high: v128): f32 {
  const e = f32x4.sub(high, low);
  const x = f32x4.extract_lane(e, 0),
    y = f32x4.extract_lane(e, 1),
    z = f32x4.extract_lane(e, 2);
  return x * y + y * z + z * x;
}

/**
 * Splits the range at `range` into up to four, writes the node, and goes on in each. `frame` is
 * free memory for their ranges.
 */
function buildNode(range: usize, frame: usize): i32 {
  memory.copy(frame, range, CHILD);
  let count = 1;
  while (count < 4) {
    let widest = -1,
      most: f32 = -1;
    for (let k = 0; k < count; k++) {
      const child = frame + <usize>k * CHILD;
      if (load<i32>(child, 68) - load<i32>(child, 64) <= LEAF) continue;
      const area = halfArea(v128.load(child), v128.load(child, 16));
      // An area that is not a number is divided, too.
      if (area > most || widest < 0) {
        most = area;
        widest = k;
      }
    }
    if (widest < 0) break;
    split(frame + <usize>widest * CHILD, frame + <usize>count * CHILD);
    count++;
  }
  const node = take(112);
  for (let k = 0; k < 4; k++) {
    const lane = <usize>k * 4;
    const child = frame + <usize>k * CHILD;
    for (let axis = 0; axis < 3; axis++) {
      const at = node + <usize>axis * 32 + lane;
      store<f32>(at, k < count ? load<f32>(child + <usize>axis * 4) : Infinity);
      store<f32>(at, k < count ? load<f32>(child + <usize>axis * 4, 16) : -Infinity, 16);
    }
    store<i32>(node + lane, 0, 96);
  }
  for (let k = 0; k < count; k++) {
    const child = frame + <usize>k * CHILD;
    const few = load<i32>(child, 68) - load<i32>(child, 64) <= LEAF;
    const link = few
      ? makeGroup(load<i32>(child, 64), load<i32>(child, 68))
      : buildNode(child, frame + 4 * CHILD);
    store<i32>(node + <usize>k * 4, link, 96);
  }
  return <i32>(node >>> 4);
}

/** Divides a range: the first part stays at `left`, the second goes to `right`. */
function split(left: usize, right: usize): void {
  const start = load<i32>(left, 64),
    until = load<i32>(left, 68);
  const low = v128.load(left, 32),
    high = v128.load(left, 48);
  const number = until - start < 48 ? FEW_BINS : BINS;
  const extent = f32x4.sub(high, low);
  // Axes without extent have one bin.
  const scale = v128.and(
    f32x4.div(f32x4.splat(<f32>number * 0.99999), extent),
    f32x4.gt(extent, f32x4.splat(1e-30)),
  );
  fillBins(start, until, low, scale, number);
  let axis = -1,
    cut = 0,
    cost: f32 = Infinity;
  for (let candidate = 0; candidate < 3; candidate++) {
    const found = sweep(bins + <usize>(candidate * BINS * 48), number);
    if (found < cost) {
      cost = found;
      axis = candidate;
      cut = bestCut;
    }
  }
  divide(left, right, axis, cut, low, scale);
}

function fillBins(start: i32, until: i32, low: v128, scale: v128, number: i32): void {
  for (let axis = 0; axis < 3; axis++)
    for (let bin = 0; bin < number; bin++) {
      const at = bins + <usize>((axis * BINS + bin) * 48);
      v128.store(at, FAR);
      v128.store(at, NEAR, 16);
      store<i32>(at, 0, 32);
    }
  for (let k = start; k < until; k++) {
    const at = references + <usize>k * REFERENCE;
    const least = v128.load(at),
      most = v128.load(at, 16);
    const place = i32x4.trunc_sat_f32x4_s(f32x4.mul(f32x4.sub(f32x4.add(least, most), low), scale));
    enlarge(bins + <usize>i32x4.extract_lane(place, 0) * 48, least, most);
    enlarge(bins + <usize>(BINS + i32x4.extract_lane(place, 1)) * 48, least, most);
    enlarge(bins + <usize>(2 * BINS + i32x4.extract_lane(place, 2)) * 48, least, most);
  }
}

@inline
function enlarge(bin: usize, least: v128, most: v128): void {
  v128.store(bin, f32x4.pmin(v128.load(bin), least));
  v128.store(bin, f32x4.pmax(v128.load(bin, 16), most), 16);
  store<i32>(bin, load<i32>(bin, 32) + 1, 32);
}

let bestCut: i32 = 0;
/**
 * The least cost of a cut between bins of one axis; Infinity where all lies in one bin. The cut is
 * left in `bestCut`.
 */
function sweep(axis: usize, number: i32): f32 {
  let low = FAR,
    high = NEAR,
    count = 0;
  for (let bin = number - 1; bin > 0; bin--) {
    const at = axis + <usize>bin * 48;
    low = f32x4.pmin(low, v128.load(at));
    high = f32x4.pmax(high, v128.load(at, 16));
    count += load<i32>(at, 32);
    store<f32>(
      areas + <usize>bin * 4,
      count === 0 ? Infinity : halfArea(low, high) * <f32>((count + 3) >> 2),
    );
  }
  low = FAR;
  high = NEAR;
  count = 0;
  let least: f32 = Infinity;
  for (let bin = 1; bin < number; bin++) {
    const at = axis + <usize>(bin - 1) * 48;
    low = f32x4.pmin(low, v128.load(at));
    high = f32x4.pmax(high, v128.load(at, 16));
    count += load<i32>(at, 32);
    if (count === 0) continue;
    const cost = halfArea(low, high) * <f32>((count + 3) >> 2) + load<f32>(areas + <usize>bin * 4);
    if (cost < least) {
      least = cost;
      bestCut = bin;
    }
  }
  return least;
}

/** Sorts references to both sides of a cut, or in halves where there is none, and measures both. */
function divide(left: usize, right: usize, axis: i32, cut: i32, low: v128, scale: v128): void {
  const start = load<i32>(left, 64),
    until = load<i32>(left, 68);
  let i = start,
    j = until;
  if (axis < 0) i = (start + until) >> 1;
  else
    while (i < j) {
      const at = references + <usize>i * REFERENCE;
      const least = v128.load(at),
        most = v128.load(at, 16);
      const place = i32x4.trunc_sat_f32x4_s(
        f32x4.mul(f32x4.sub(f32x4.add(least, most), low), scale),
      );
      const bin =
        axis === 0
          ? i32x4.extract_lane(place, 0)
          : axis === 1
            ? i32x4.extract_lane(place, 1)
            : i32x4.extract_lane(place, 2);
      if (bin < cut) {
        i++;
        continue;
      }
      j--;
      const other = references + <usize>j * REFERENCE;
      v128.store(at, v128.load(other));
      v128.store(at, v128.load(other, 16), 16);
      v128.store(other, least);
      v128.store(other, most, 16);
    }
  measure(right, i, until);
  measure(left, start, i);
}

function measure(child: usize, start: i32, until: i32): void {
  let low = FAR,
    high = NEAR,
    lowMiddle = FAR,
    highMiddle = NEAR;
  for (let k = start; k < until; k++) {
    const at = references + <usize>k * REFERENCE;
    const least = v128.load(at),
      most = v128.load(at, 16),
      middle = f32x4.add(least, most);
    low = f32x4.pmin(low, least);
    high = f32x4.pmax(high, most);
    lowMiddle = f32x4.pmin(lowMiddle, middle);
    highMiddle = f32x4.pmax(highMiddle, middle);
  }
  storeChild(child, start, until, low, high, lowMiddle, highMiddle);
}

/** Up to four triangles beside each other; places left over repeat the first. */
function makeGroup(start: i32, until: i32): i32 {
  const group = take(160);
  for (let k = 0; k < LEAF; k++) {
    const reference = start + (start + k < until ? k : 0);
    const triangle = load<i32>(references + <usize>reference * REFERENCE, 12);
    for (let corner = 0; corner < 3; corner++) {
      const vertex =
        positions + <usize>load<u32>(indices + <usize>(triangle * 3 + corner) * 4) * 12;
      for (let axis = 0; axis < 3; axis++)
        store<f32>(
          group + <usize>((corner * 3 + axis) * 16 + k * 4),
          load<f32>(vertex + <usize>axis * 4),
        );
    }
    store<i32>(group + <usize>k * 4, triangle, 144);
  }
  return ~(<i32>(group >>> 4));
}

/** Where the hierarchy ends. */
export function bytesUsed(): usize {
  return end;
}
