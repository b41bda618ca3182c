// Casting rays, four boxes and four triangles at a time. Triangles are met watertight: edges that
// two triangles share give both the same numbers, and what lies on an edge counts as inside.
// Source: S. Woop, C. Benthin, I. Wald, Watertight Ray/Triangle Intersection, Journal of Computer
// Graphics Techniques, 2013.
export { build, bytesUsed, scratchBytes } from './build';
export { gather, measureDistances, sumUp } from './gather';

/** Slabs are widened by three roundings. */
const WIDER: f32 = 1.0000004;
/** Directions count as at least this steep, so that no slab is divided by 0. */
const STEEP: f32 = 1e-18;

const stack: usize = memory.data(4096, 16);

// The ray at hand, prepared once: its origin and inverse direction four times over, and which
// planes come first.
let ox: v128 = f32x4.splat(0),
  oy: v128 = f32x4.splat(0),
  oz: v128 = f32x4.splat(0);
let ix: v128 = f32x4.splat(0),
  iy: v128 = f32x4.splat(0),
  iz: v128 = f32x4.splat(0);
let nearX: usize = 0,
  nearY: usize = 0,
  nearZ: usize = 0;
// The axes in the order of the shear, as offsets into a group, the origin along them, and the
// shear.
let ax: usize = 0,
  ay: usize = 0,
  az: usize = 0;
let px: v128 = f32x4.splat(0),
  py: v128 = f32x4.splat(0),
  pz: v128 = f32x4.splat(0);
let sx: v128 = f32x4.splat(0),
  sy: v128 = f32x4.splat(0),
  sz: v128 = f32x4.splat(0);

@inline
function steep(d: f32): f32 {
  return 1 / (abs(d) < STEEP ? (d < 0 ? -STEEP : STEEP) : d);
}

function prepare(x: f32, y: f32, z: f32, dx: f32, dy: f32, dz: f32): void {
  ox = f32x4.splat(x);
  oy = f32x4.splat(y);
  oz = f32x4.splat(z);
  ix = f32x4.splat(steep(dx));
  iy = f32x4.splat(steep(dy));
  iz = f32x4.splat(steep(dz));
  nearX = dx < 0 ? 16 : 0;
  nearY = dy < 0 ? 48 : 32;
  nearZ = dz < 0 ? 80 : 64;
  const wx = abs(dx),
    wy = abs(dy),
    wz = abs(dz);
  let a: f32, b: f32, c: f32;
  if (wz >= wx && wz >= wy) {
    a = dx;
    b = dy;
    c = dz;
    ax = 0;
    ay = 16;
    az = 32;
    px = ox;
    py = oy;
    pz = oz;
  } else if (wx >= wy) {
    a = dy;
    b = dz;
    c = dx;
    ax = 16;
    ay = 32;
    az = 0;
    px = oy;
    py = oz;
    pz = ox;
  } else {
    a = dz;
    b = dx;
    c = dy;
    ax = 32;
    ay = 0;
    az = 16;
    px = oz;
    py = ox;
    pz = oy;
  }
  const inverse: f32 = 1 / c;
  sx = f32x4.splat(a * inverse);
  sy = f32x4.splat(b * inverse);
  sz = f32x4.splat(inverse);
}

// What `meet` found: distances of the four, where it was hit, and the two weights that go with it.
let distances: v128 = f32x4.splat(0),
  second: v128 = f32x4.splat(0),
  third: v128 = f32x4.splat(0);

/** Which of a group's triangles the ray meets between 0 and `reach`, as a mask of four bits. */
@inline
function meet(group: usize, reach: v128): i32 {
  const az0 = f32x4.sub(v128.load(group + az), pz),
    bz0 = f32x4.sub(v128.load(group + az, 48), pz),
    cz0 = f32x4.sub(v128.load(group + az, 96), pz);
  const ax0 = f32x4.sub(f32x4.sub(v128.load(group + ax), px), f32x4.mul(sx, az0)),
    ay0 = f32x4.sub(f32x4.sub(v128.load(group + ay), py), f32x4.mul(sy, az0));
  const bx0 = f32x4.sub(f32x4.sub(v128.load(group + ax, 48), px), f32x4.mul(sx, bz0)),
    by0 = f32x4.sub(f32x4.sub(v128.load(group + ay, 48), py), f32x4.mul(sy, bz0));
  const cx0 = f32x4.sub(f32x4.sub(v128.load(group + ax, 96), px), f32x4.mul(sx, cz0)),
    cy0 = f32x4.sub(f32x4.sub(v128.load(group + ay, 96), py), f32x4.mul(sy, cz0));
  const u = f32x4.sub(f32x4.mul(cx0, by0), f32x4.mul(cy0, bx0));
  const v = f32x4.sub(f32x4.mul(ax0, cy0), f32x4.mul(ay0, cx0));
  const w = f32x4.sub(f32x4.mul(bx0, ay0), f32x4.mul(by0, ax0));
  const zero = f32x4.splat(0);
  const allLeft = v128.and(v128.and(f32x4.ge(u, zero), f32x4.ge(v, zero)), f32x4.ge(w, zero));
  const allRight = v128.and(v128.and(f32x4.le(u, zero), f32x4.le(v, zero)), f32x4.le(w, zero));
  const inside = v128.or(allLeft, allRight);
  if (!v128.any_true(inside)) return 0;
  const sum = f32x4.add(f32x4.add(u, v), w);
  const along = f32x4.mul(
    sz,
    f32x4.add(f32x4.add(f32x4.mul(u, az0), f32x4.mul(v, bz0)), f32x4.mul(w, cz0)),
  );
  const inverse = f32x4.div(f32x4.splat(1), sum);
  distances = f32x4.mul(along, inverse);
  second = f32x4.mul(v, inverse);
  third = f32x4.mul(w, inverse);
  return i32x4.bitmask(
    v128.and(
      v128.and(inside, f32x4.ne(sum, zero)),
      v128.and(f32x4.gt(distances, zero), f32x4.lt(distances, reach)),
    ),
  );
}

/** Whether the prepared ray meets anything nearer than `reach`. */
function isMet(root: i32, reach: f32): bool {
  const far = f32x4.splat(reach),
    zero = f32x4.splat(0),
    wider = f32x4.splat(WIDER);
  let top = stack,
    link = root;
  while (true) {
    if (link >= 0) {
      const node = (<usize>link) << 4;
      const enter = f32x4.pmax(
        f32x4.pmax(
          f32x4.mul(f32x4.sub(v128.load(node + nearX), ox), ix),
          f32x4.mul(f32x4.sub(v128.load(node + nearY), oy), iy),
        ),
        f32x4.pmax(f32x4.mul(f32x4.sub(v128.load(node + nearZ), oz), iz), zero),
      );
      const leave = f32x4.pmin(
        f32x4.pmin(
          f32x4.mul(f32x4.sub(v128.load(node + (nearX ^ 16)), ox), ix),
          f32x4.mul(f32x4.sub(v128.load(node + (nearY ^ 16)), oy), iy),
        ),
        f32x4.pmin(f32x4.mul(f32x4.sub(v128.load(node + (nearZ ^ 16)), oz), iz), far),
      );
      let mask = i32x4.bitmask(f32x4.le(enter, f32x4.mul(leave, wider)));
      while (mask !== 0) {
        store<i32>(top, load<i32>(node + <usize>(ctz(mask) << 2), 96));
        top += 4;
        mask &= mask - 1;
      }
    } else if (meet((<usize>~link) << 4, far) !== 0) return true;
    if (top === stack) return false;
    top -= 4;
    link = load<i32>(top);
  }
}

let nearest: f32 = 0,
  triangle: i32 = 0,
  weightU: f32 = 0,
  weightV: f32 = 0;

/**
 * Finds the nearest triangle the prepared ray meets; false when there is none nearer than `reach`.
 */
function findNearest(root: i32, reach: f32): bool {
  const zero = f32x4.splat(0),
    wider = f32x4.splat(WIDER);
  nearest = reach;
  triangle = -1;
  let top = stack,
    link = root;
  while (true) {
    if (link >= 0) {
      const node = (<usize>link) << 4;
      const enter = f32x4.pmax(
        f32x4.pmax(
          f32x4.mul(f32x4.sub(v128.load(node + nearX), ox), ix),
          f32x4.mul(f32x4.sub(v128.load(node + nearY), oy), iy),
        ),
        f32x4.pmax(f32x4.mul(f32x4.sub(v128.load(node + nearZ), oz), iz), zero),
      );
      const leave = f32x4.pmin(
        f32x4.pmin(
          f32x4.mul(f32x4.sub(v128.load(node + (nearX ^ 16)), ox), ix),
          f32x4.mul(f32x4.sub(v128.load(node + (nearY ^ 16)), oy), iy),
        ),
        f32x4.pmin(
          f32x4.mul(f32x4.sub(v128.load(node + (nearZ ^ 16)), oz), iz),
          f32x4.splat(nearest),
        ),
      );
      let mask = i32x4.bitmask(f32x4.le(enter, f32x4.mul(leave, wider)));
      if (mask !== 0) {
        v128.store(stack, enter, 2048);
        // The nearest child goes on top.
        let first = ctz(mask),
          least = load<f32>(stack + <usize>(first << 2), 2048);
        for (let rest = mask & (mask - 1); rest !== 0; rest &= rest - 1) {
          const k = ctz(rest),
            t = load<f32>(stack + <usize>(k << 2), 2048);
          if (t < least) {
            least = t;
            first = k;
          }
        }
        mask &= ~(1 << first);
        for (; mask !== 0; mask &= mask - 1) {
          store<i32>(top, load<i32>(node + <usize>(ctz(mask) << 2), 96));
          store<f32>(top, load<f32>(stack + <usize>(ctz(mask) << 2), 2048), 4);
          top += 8;
        }
        link = load<i32>(node + <usize>(first << 2), 96);
        continue;
      }
    } else {
      const group = (<usize>~link) << 4;
      for (let mask = meet(group, f32x4.splat(nearest)); mask !== 0; mask &= mask - 1)
        pick(group, ctz(mask));
    }
    do {
      if (top === stack) return triangle >= 0;
      top -= 8;
    } while (load<f32>(top, 4) > nearest);
    link = load<i32>(top);
  }
}

@inline
function pick(group: usize, lane: i32): void {
  v128.store(stack, distances, 2048);
  const t = load<f32>(stack + <usize>(lane << 2), 2048);
  if (t >= nearest) return;
  v128.store(stack, second, 2064);
  v128.store(stack, third, 2080);
  nearest = t;
  weightU = load<f32>(stack + <usize>(lane << 2), 2064);
  weightV = load<f32>(stack + <usize>(lane << 2), 2080);
  triangle = load<i32>(group + <usize>(lane << 2), 144);
}

/** How many of the rays (origin, direction, reach, spare: eight numbers each) meet something. */
export function countMet(root: i32, rays: usize, count: i32): i32 {
  let met = 0;
  for (let k = 0; k < count; k++) {
    const at = rays + <usize>k * 32;
    prepare(
      load<f32>(at),
      load<f32>(at, 4),
      load<f32>(at, 8),
      load<f32>(at, 12),
      load<f32>(at, 16),
      load<f32>(at, 20),
    );
    if (isMet(root, load<f32>(at, 24))) met++;
  }
  return met;
}

/**
 * What each ray meets first: distance, triangle (−1 for none), weights of its second and third
 * corner; 16 bytes each.
 */
export function castRays(root: i32, rays: usize, count: i32, hits: usize): void {
  for (let k = 0; k < count; k++) {
    const at = rays + <usize>k * 32,
      into = hits + <usize>k * 16;
    prepare(
      load<f32>(at),
      load<f32>(at, 4),
      load<f32>(at, 8),
      load<f32>(at, 12),
      load<f32>(at, 16),
      load<f32>(at, 20),
    );
    const found = findNearest(root, load<f32>(at, 24));
    store<f32>(into, nearest);
    store<i32>(into, found ? triangle : -1, 4);
    store<f32>(into, weightU, 8);
    store<f32>(into, weightV, 12);
  }
}

/** A turn of its own for each point, from 0 up to 1. */
function turnOf(index: u32): f32 {
  let h: u32 = index * 0x9e3779b1;
  h ^= h >>> 15;
  h *= 0x2c1b3c6d;
  h ^= h >>> 12;
  h *= 0x297a2d39;
  h ^= h >>> 15;
  return <f32>(h >>> 8) / 16777216;
}

/** 0 and 1 in base two, mirrored at the point. */
function radicalInverse(index: u32): f32 {
  let h = index;
  h = (h << 16) | (h >>> 16);
  h = ((h & 0x00ff00ff) << 8) | ((h & 0xff00ff00) >>> 8);
  h = ((h & 0x0f0f0f0f) << 4) | ((h & 0xf0f0f0f0) >>> 4);
  h = ((h & 0x33333333) << 2) | ((h & 0xcccccccc) >>> 2);
  h = ((h & 0x55555555) << 1) | ((h & 0xaaaaaaaa) >>> 1);
  return <f32>(h >>> 8) / 16777216;
}

/**
 * Directions about +Z, cosine-weighted inside a cone: x, y, z each. `spread` is the sine of its
 * half angle.
 */
export function fillDirections(table: usize, rays: i32, spread: f32): void {
  for (let k = 0; k < rays; k++) {
    const radius = Mathf.sqrt((<f32>k + 0.5) / <f32>rays) * spread;
    const angle: f32 = 6.2831855 * radicalInverse(k);
    store<f32>(table + <usize>k * 12, radius * NativeMathf.cos(angle));
    store<f32>(table + <usize>k * 12, radius * NativeMathf.sin(angle), 4);
    store<f32>(table + <usize>k * 12, Mathf.sqrt(max<f32>(0, 1 - radius * radius)), 8);
  }
}

/**
 * Openness of points (position, normal to look along, face normal, the surface's own normal: twelve
 * numbers each): the mean over the rays of a table, turned about each point's normal by a turn of
 * its own, of 1 where nothing is met within `reach`, else of (distance/reach)^(1/falloff), 0
 * without falloff. The plane y = `floor` counts as met by rays that go down to it; −Infinity for
 * none. Rays below the triangle are left out; where `isDetailed`, those below the surface's own
 * normal count as met.
 * @param first the number of the first point among all, which decides the turns; `sign` −1 looks
 *   inwards; `start` lifts off the surface
 */
export function openness(
  root: i32,
  points: usize,
  first: i32,
  count: i32,
  out: usize,
  table: usize,
  rays: i32,
  sign: f32,
  start: f32,
  reach: f32,
  falloff: f32,
  floor: f32,
  isDetailed: i32,
): void {
  for (let k = 0; k < count; k++) {
    const at = points + <usize>k * 48;
    const nx = load<f32>(at, 12) * sign,
      ny = load<f32>(at, 16) * sign,
      nz = load<f32>(at, 20) * sign;
    const fx = load<f32>(at, 24) * sign,
      fy = load<f32>(at, 28) * sign,
      fz = load<f32>(at, 32) * sign;
    const ox = load<f32>(at, 36) * sign,
      oy = load<f32>(at, 40) * sign,
      oz = load<f32>(at, 44) * sign;
    const x = load<f32>(at) + fx * start,
      y = load<f32>(at, 4) + fy * start,
      z = load<f32>(at, 8) + fz * start;
    // A frame about the normal. Source: T. Duff et al., Building an Orthonormal Basis, Revisited,
    // 2017.
    const s: f32 = nz >= 0 ? 1 : -1,
      a: f32 = -1 / (s + nz),
      b: f32 = nx * ny * a;
    const tx: f32 = 1 + s * nx * nx * a,
      ty: f32 = s * b,
      tz: f32 = -s * nx,
      bx: f32 = b,
      by: f32 = s + ny * ny * a,
      bz: f32 = -ny;
    const angle: f32 = 6.2831855 * turnOf(first + k);
    const c = NativeMathf.cos(angle),
      d = NativeMathf.sin(angle);
    let open: f32 = 0,
      counted: f32 = 0;
    for (let ray = 0; ray < rays; ray++) {
      const entry = table + <usize>ray * 12;
      const u0 = load<f32>(entry),
        v0 = load<f32>(entry, 4),
        w = load<f32>(entry, 8);
      const u = u0 * c - v0 * d,
        v = u0 * d + v0 * c;
      const dx = tx * u + bx * v + nx * w,
        dy = ty * u + by * v + ny * w,
        dz = tz * u + bz * v + nz * w;
      if (isDetailed && dx * ox + dy * oy + dz * oz <= 0) {
        counted += 1;
        continue;
      }
      if (dx * fx + dy * fy + dz * fz <= 1e-4) continue;
      counted += 1;
      const below: f32 = dy < 0 ? max<f32>(0, y - floor) / -dy : Infinity;
      if (below < reach && falloff <= 0) continue;
      prepare(x, y, z, dx, dy, dz);
      if (falloff <= 0) {
        if (!isMet(root, reach)) open += 1;
      } else {
        const isFound = findNearest(root, min<f32>(reach, below));
        open +=
          isFound || below < reach
            ? NativeMathf.pow(min<f32>(1, (isFound ? nearest : below) / reach), 1 / falloff)
            : 1;
      }
    }
    store<f32>(out + <usize>k * 4, counted === 0 ? 1 : open / counted);
  }
}

/** Where free memory begins. */
export function freeFrom(): usize {
  return __heap_base;
}
