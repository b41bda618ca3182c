// Sums over the part of the surface inside a ball, and distances to the surface. Branches of the
// hierarchy that lie wholly inside count at once; triangles that the ball cuts are clipped exactly.

/**
 * Triangles whose box measures less than this share of the radius, both squared, count by their
 * middle: hundreds of them make up for each other.
 */
const SMALL: f32 = 0.002;

const stack: usize = memory.data(4096, 16);

/**
 * Per triangle: area, curvature integral, mean curvature of its normals, and the jump of normals
 * across its three edges.
 */
const FACTS: usize = 24;
let facts: usize = 0;
/** Per node, in half its bytes: the areas of its four children, then their curvature integrals. */
let sums: usize = 0;
let start: usize = 0;

@inline
function sumsOf(node: usize): usize {
  return sums + ((node - start) >> 1);
}

let area: f64 = 0,
  integral: f64 = 0;

/**
 * Writes the sums of all nodes, from the leaves up. `room` has half as many bytes as the hierarchy.
 */
export function sumUp(root: i32, perTriangle: usize, room: usize): void {
  facts = perTriangle;
  sums = room;
  start = (<usize>root) << 4;
  sumLink(root);
}

function sumLink(link: i32): void {
  if (link < 0) {
    sumGroup((<usize>~link) << 4);
    return;
  }
  const node = (<usize>link) << 4;
  let a: f64 = 0,
    i: f64 = 0;
  for (let k: usize = 0; k < 16; k += 4) {
    area = 0;
    integral = 0;
    if (load<f32>(node + k) !== Infinity) sumLink(load<i32>(node + k, 96));
    store<f32>(sumsOf(node) + k, <f32>area);
    store<f32>(sumsOf(node) + k, <f32>integral, 16);
    a += area;
    i += integral;
  }
  area = a;
  integral = i;
}

function sumGroup(group: usize): void {
  area = 0;
  integral = 0;
  const first = load<i32>(group, 144);
  for (let k: usize = 0; k < 16; k += 4) {
    const triangle = load<i32>(group + k, 144);
    // Places left over repeat the first triangle.
    if (k > 0 && triangle === first) return;
    area += load<f32>(facts + <usize>triangle * FACTS);
    integral += load<f32>(facts + <usize>triangle * FACTS, 4);
  }
}

/**
 * Mean of the curvature inside a ball of `radius` around each point (x, y, z), times the radius; 0
 * where there is no surface.
 */
export function gather(root: i32, points: usize, count: i32, out: usize, radius: f32): void {
  for (let k = 0; k < count; k++) {
    const at = points + <usize>k * 12;
    gatherAt(root, load<f32>(at), load<f32>(at, 4), load<f32>(at, 8), radius * radius);
    store<f32>(out + <usize>k * 4, area > 0 ? <f32>((<f64>radius * integral) / area) : 0);
  }
}

function gatherAt(root: i32, x: f32, y: f32, z: f32, squared: f32): void {
  const px = f32x4.splat(x),
    py = f32x4.splat(y),
    pz = f32x4.splat(z),
    zero = f32x4.splat(0),
    most = f32x4.splat(squared);
  area = 0;
  integral = 0;
  let top = stack,
    link = root;
  while (true) {
    if (link >= 0) {
      const node = (<usize>link) << 4;
      const lx = f32x4.sub(v128.load(node), px),
        ly = f32x4.sub(v128.load(node, 32), py),
        lz = f32x4.sub(v128.load(node, 64), pz);
      const hx = f32x4.sub(px, v128.load(node, 16)),
        hy = f32x4.sub(py, v128.load(node, 48)),
        hz = f32x4.sub(pz, v128.load(node, 80));
      let touched = i32x4.bitmask(
        f32x4.le(
          lengths(
            f32x4.pmax(f32x4.pmax(lx, hx), zero),
            f32x4.pmax(f32x4.pmax(ly, hy), zero),
            f32x4.pmax(f32x4.pmax(lz, hz), zero),
          ),
          most,
        ),
      );
      const whole =
        touched &
        i32x4.bitmask(
          f32x4.le(lengths(f32x4.pmin(lx, hx), f32x4.pmin(ly, hy), f32x4.pmin(lz, hz)), most),
        );
      for (let mask = whole; mask !== 0; mask &= mask - 1) {
        const at = sumsOf(node) + <usize>(ctz(mask) << 2);
        area += load<f32>(at);
        integral += load<f32>(at, 16);
      }
      for (touched &= ~whole; touched !== 0; touched &= touched - 1) {
        store<i32>(top, load<i32>(node + <usize>(ctz(touched) << 2), 96));
        top += 4;
      }
    } else addGroup((<usize>~link) << 4, x, y, z, px, py, pz, most);
    if (top === stack) return;
    top -= 4;
    link = load<i32>(top);
  }
}

@inline
function lengths(x: v128, y: v128, z: v128): v128 {
  return f32x4.add(f32x4.add(f32x4.mul(x, x), f32x4.mul(y, y)), f32x4.mul(z, z));
}

function addGroup(
  group: usize,
  x: f32,
  y: f32,
  z: f32,
  px: v128,
  py: v128,
  pz: v128,
  most: v128,
): void {
  const zero = f32x4.splat(0);
  const ax = f32x4.sub(v128.load(group), px),
    ay = f32x4.sub(v128.load(group, 16), py),
    az = f32x4.sub(v128.load(group, 32), pz);
  const bx = f32x4.sub(v128.load(group, 48), px),
    by = f32x4.sub(v128.load(group, 64), py),
    bz = f32x4.sub(v128.load(group, 80), pz);
  const cx = f32x4.sub(v128.load(group, 96), px),
    cy = f32x4.sub(v128.load(group, 112), py),
    cz = f32x4.sub(v128.load(group, 128), pz);
  const whole = i32x4.bitmask(
    v128.and(
      v128.and(f32x4.le(lengths(ax, ay, az), most), f32x4.le(lengths(bx, by, bz), most)),
      f32x4.le(lengths(cx, cy, cz), most),
    ),
  );
  const gapX = f32x4.pmax(
    f32x4.pmax(f32x4.pmin(f32x4.pmin(ax, bx), cx), f32x4.neg(f32x4.pmax(f32x4.pmax(ax, bx), cx))),
    zero,
  );
  const gapY = f32x4.pmax(
    f32x4.pmax(f32x4.pmin(f32x4.pmin(ay, by), cy), f32x4.neg(f32x4.pmax(f32x4.pmax(ay, by), cy))),
    zero,
  );
  const gapZ = f32x4.pmax(
    f32x4.pmax(f32x4.pmin(f32x4.pmin(az, bz), cz), f32x4.neg(f32x4.pmax(f32x4.pmax(az, bz), cz))),
    zero,
  );
  const touched = i32x4.bitmask(f32x4.le(lengths(gapX, gapY, gapZ), most));
  const wideX = f32x4.sub(f32x4.pmax(f32x4.pmax(ax, bx), cx), f32x4.pmin(f32x4.pmin(ax, bx), cx)),
    wideY = f32x4.sub(f32x4.pmax(f32x4.pmax(ay, by), cy), f32x4.pmin(f32x4.pmin(ay, by), cy));
  const wideZ = f32x4.sub(f32x4.pmax(f32x4.pmax(az, bz), cz), f32x4.pmin(f32x4.pmin(az, bz), cz));
  const small = i32x4.bitmask(
    f32x4.lt(lengths(wideX, wideY, wideZ), f32x4.mul(most, f32x4.splat(SMALL))),
  );
  const first = load<i32>(group, 144);
  for (let k = 0; k < 4; k++) {
    const triangle = load<i32>(group + <usize>(k << 2), 144);
    if (k > 0 && triangle === first) return;
    const fact = facts + <usize>triangle * FACTS;
    if ((whole & (1 << k)) !== 0) {
      area += load<f32>(fact);
      integral += load<f32>(fact, 4);
    } else if ((touched & (1 << k)) === 0) continue;
    else if ((small & (1 << k)) !== 0) {
      const at = <usize>(k << 2);
      const mx =
          load<f32>(group + at) + load<f32>(group + at, 48) + load<f32>(group + at, 96) - 3 * x,
        my =
          load<f32>(group + at, 16) +
          load<f32>(group + at, 64) +
          load<f32>(group + at, 112) -
          3 * y;
      const mz =
        load<f32>(group + at, 32) + load<f32>(group + at, 80) + load<f32>(group + at, 128) - 3 * z;
      if (mx * mx + my * my + mz * mz > 9 * f32x4.extract_lane(most, 0)) continue;
      area += load<f32>(fact);
      integral += load<f32>(fact, 4);
    } else clip(group + <usize>(k << 2), fact, x, y, z, f32x4.extract_lane(most, 0));
  }
}

// The plane of the triangle being clipped, and the squared radius of the disc the ball cuts from
// it.
let nx: f64 = 0,
  ny: f64 = 0,
  nz: f64 = 0,
  disc: f64 = 0;

/** Adds what of a triangle lies inside the ball. */
function clip(corners: usize, fact: usize, x: f64, y: f64, z: f64, squared: f64): void {
  let ax = load<f32>(corners) - x,
    ay = load<f32>(corners, 16) - y,
    az = load<f32>(corners, 32) - z;
  let bx = load<f32>(corners, 48) - x,
    by = load<f32>(corners, 64) - y,
    bz = load<f32>(corners, 80) - z;
  let cx = load<f32>(corners, 96) - x,
    cy = load<f32>(corners, 112) - y,
    cz = load<f32>(corners, 128) - z;
  const ux = bx - ax,
    uy = by - ay,
    uz = bz - az,
    vx = cx - ax,
    vy = cy - ay,
    vz = cz - az;
  nx = uy * vz - uz * vy;
  ny = uz * vx - ux * vz;
  nz = ux * vy - uy * vx;
  const length = Math.sqrt(nx * nx + ny * ny + nz * nz);
  if (length === 0) return;
  nx /= length;
  ny /= length;
  nz /= length;
  const height = ax * nx + ay * ny + az * nz;
  disc = squared - height * height;
  if (disc <= 0) return;
  // Corners relative to the foot of the centre on the plane.
  const fx = nx * height,
    fy = ny * height,
    fz = nz * height;
  ax -= fx;
  ay -= fy;
  az -= fz;
  bx -= fx;
  by -= fy;
  bz -= fz;
  cx -= fx;
  cy -= fy;
  cz -= fz;
  const inside =
    side(ax, ay, az, bx, by, bz, load<f32>(fact, 12)) +
    side(bx, by, bz, cx, cy, cz, load<f32>(fact, 16)) +
    side(cx, cy, cz, ax, ay, az, load<f32>(fact, 20));
  if (inside <= 0) return;
  area += inside;
  integral += inside * <f64>load<f32>(fact, 8);
}

@inline
function angle(y: f64, x: f64): f64 {
  return NativeMathf.atan2(<f32>y, <f32>x);
}

/**
 * Signed area of the triangle (foot, p, q) inside the disc; adds the jump of normals across the
 * part of the edge inside.
 */
function side(px: f64, py: f64, pz: f64, qx: f64, qy: f64, qz: f64, jump: f64): f64 {
  const dx = qx - px,
    dy = qy - py,
    dz = qz - pz;
  const a = dx * dx + dy * dy + dz * dz,
    b = px * dx + py * dy + pz * dz,
    p2 = px * px + py * py + pz * pz;
  const turn = (py * qz - pz * qy) * nx + (pz * qx - px * qz) * ny + (px * qy - py * qx) * nz;
  if (a === 0) return 0;
  const discriminant = b * b - a * (p2 - disc);
  const root = discriminant > 0 ? Math.sqrt(discriminant) : 0;
  const from = max<f64>(0, (-b - root) / a),
    to = min<f64>(1, (-b + root) / a);
  if (discriminant <= 0 || from >= to) return angle(turn, p2 + b) * disc * 0.5;
  if (jump !== 0) integral += jump * 0.5 * (to - from) * Math.sqrt(a);
  // Points on one line through the triangle: the cross product of any two is their share of p × q.
  let found = turn * (to - from) * 0.5;
  if (from > 0) found += angle(turn * from, p2 + b * from) * disc * 0.5;
  if (to < 1) found += angle(turn * (1 - to), p2 + b * (1 + to) + a * to) * disc * 0.5;
  return found;
}

/**
 * Distances from points (x, y, z and the number of a part: sixteen bytes) to the nearest triangle
 * of that part, or with `other` of any part but that; at most `most`. `parts` holds a number per
 * triangle.
 */
export function measureDistances(
  root: i32,
  points: usize,
  count: i32,
  out: usize,
  parts: usize,
  other: bool,
  most: f32,
): void {
  for (let k = 0; k < count; k++) {
    const at = points + <usize>k * 16;
    store<f32>(
      out + <usize>k * 4,
      <f32>(
        Math.sqrt(
          nearestSquared(
            root,
            load<f32>(at),
            load<f32>(at, 4),
            load<f32>(at, 8),
            parts,
            load<i32>(at, 12),
            other,
            <f64>most * <f64>most,
          ),
        )
      ),
    );
  }
}

function nearestSquared(
  root: i32,
  x: f32,
  y: f32,
  z: f32,
  parts: usize,
  part: i32,
  other: bool,
  most: f64,
): f64 {
  const px = f32x4.splat(x),
    py = f32x4.splat(y),
    pz = f32x4.splat(z),
    zero = f32x4.splat(0);
  let best = most,
    top = stack,
    link = root;
  while (true) {
    if (link >= 0) {
      const node = (<usize>link) << 4;
      const dx = f32x4.pmax(
        f32x4.pmax(f32x4.sub(v128.load(node), px), f32x4.sub(px, v128.load(node, 16))),
        zero,
      );
      const dy = f32x4.pmax(
        f32x4.pmax(f32x4.sub(v128.load(node, 32), py), f32x4.sub(py, v128.load(node, 48))),
        zero,
      );
      const dz = f32x4.pmax(
        f32x4.pmax(f32x4.sub(v128.load(node, 64), pz), f32x4.sub(pz, v128.load(node, 80))),
        zero,
      );
      const squared = lengths(dx, dy, dz);
      v128.store(stack, squared, 2048);
      top = pushByDistance(node, top, i32x4.bitmask(f32x4.le(squared, f32x4.splat(<f32>best))));
    } else {
      const group = (<usize>~link) << 4;
      for (let k: usize = 0; k < 16; k += 4) {
        const triangle = load<i32>(group + k, 144);
        if (k > 0 && triangle === load<i32>(group, 144)) break;
        if ((load<i32>(parts + <usize>triangle * 4) === part) !== other)
          best = min<f64>(best, squaredToTriangle(group + k, x, y, z));
      }
    }
    do {
      if (top === stack) return best;
      top -= 8;
    } while (<f64>load<f32>(top, 4) >= best);
    link = load<i32>(top);
  }
}

/** Puts children on the stack, the farthest first; their squared distances lie beside the stack. */
function pushByDistance(node: usize, at: usize, touched: i32): usize {
  let top = at;
  for (let left = touched; left !== 0;) {
    let farthest = ctz(left);
    for (let rest = left & (left - 1); rest !== 0; rest &= rest - 1)
      if (
        load<f32>(stack + <usize>(ctz(rest) << 2), 2048) >
        load<f32>(stack + <usize>(farthest << 2), 2048)
      )
        farthest = ctz(rest);
    store<i32>(top, load<i32>(node + <usize>(farthest << 2), 96));
    store<f32>(top, load<f32>(stack + <usize>(farthest << 2), 2048), 4);
    top += 8;
    left &= ~(1 << farthest);
  }
  return top;
}

@inline
function squaredToEdge(ux: f64, uy: f64, uz: f64, px: f64, py: f64, pz: f64): f64 {
  const squared = ux * ux + uy * uy + uz * uz;
  const t = squared > 0 ? min<f64>(1, max<f64>(0, (ux * px + uy * py + uz * pz) / squared)) : 0;
  const dx = px - ux * t,
    dy = py - uy * t,
    dz = pz - uz * t;
  return dx * dx + dy * dy + dz * dz;
}

/**
 * To the triangle's plane where the point lies over it, else to the nearest of its edges, which
 * also serves triangles without area.
 */
function squaredToTriangle(corners: usize, x: f64, y: f64, z: f64): f64 {
  const ax = load<f32>(corners),
    ay = load<f32>(corners, 16),
    az = load<f32>(corners, 32);
  const ux: f64 = <f64>load<f32>(corners, 48) - ax,
    uy: f64 = <f64>load<f32>(corners, 64) - ay,
    uz: f64 = <f64>load<f32>(corners, 80) - az;
  const vx: f64 = <f64>load<f32>(corners, 96) - ax,
    vy: f64 = <f64>load<f32>(corners, 112) - ay,
    vz: f64 = <f64>load<f32>(corners, 128) - az;
  const px = x - ax,
    py = y - ay,
    pz = z - az;
  const mx = uy * vz - uz * vy,
    my = uz * vx - ux * vz,
    mz = ux * vy - uy * vx;
  const doubled = mx * mx + my * my + mz * mz;
  // Barycentric weights times the squared area: of the second corner, then of the third.
  const s = (py * vz - pz * vy) * mx + (pz * vx - px * vz) * my + (px * vy - py * vx) * mz;
  const w = (uy * pz - uz * py) * mx + (uz * px - ux * pz) * my + (ux * py - uy * px) * mz;
  if (doubled > 0 && s >= 0 && w >= 0 && s + w <= doubled) {
    const height = px * mx + py * my + pz * mz;
    return (height * height) / doubled;
  }
  return min<f64>(
    min<f64>(squaredToEdge(ux, uy, uz, px, py, pz), squaredToEdge(vx, vy, vz, px, py, pz)),
    squaredToEdge(vx - ux, vy - uy, vz - uz, px - ux, py - uy, pz - uz),
  );
}
