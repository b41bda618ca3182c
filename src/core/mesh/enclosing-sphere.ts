import type { Vec3 } from '../base/vector';
import { add, cross, dot, length, scale, sub } from '../base/vector';

/** A sphere: its centre and radius, metres. */
export interface Sphere {
  readonly centre: Vec3;
  readonly radius: number;
}

/**
 * The smallest sphere that holds all points (x, y, z in a row). Basis exchange: repeatedly adds the
 * farthest point and keeps the smallest sphere through at most four of five points.
 * Source: B. Gärtner, Fast and Robust Smallest Enclosing Balls, ESA 1999 (pivoting).
 */
export function enclosingSphere(positions: Float32Array): Sphere {
  const count = positions.length / 3;
  if (count === 0) return { centre: [0, 0, 0], radius: 0 };
  const at = (k: number): Vec3 => [
    positions[k * 3] as number,
    positions[k * 3 + 1] as number,
    positions[k * 3 + 2] as number,
  ];
  let support: Vec3[] = [at(0)];
  let sphere: Sphere = { centre: at(0), radius: 0 };
  for (let round = 0; round < 1000; round++) {
    const [cx, cy, cz] = sphere.centre;
    let farthest = -1,
      distance = sphere.radius * sphere.radius * (1 + 1e-9);
    for (let k = 0; k < count; k++) {
      const x = (positions[k * 3] as number) - cx,
        y = (positions[k * 3 + 1] as number) - cy,
        z = (positions[k * 3 + 2] as number) - cz;
      const d = x * x + y * y + z * z;
      if (d > distance) {
        distance = d;
        farthest = k;
      }
    }
    if (farthest < 0) break;
    const next = smallestThrough([...support, at(farthest)]);
    if (!next) break;
    ({ sphere, support } = next);
  }
  return sphere;
}

/** The smallest sphere around at most five points, and those it touches. */
function smallestThrough(points: readonly Vec3[]): { sphere: Sphere; support: Vec3[] } | null {
  let best: { sphere: Sphere; support: Vec3[] } | null = null;
  for (let mask = 1; mask < 1 << points.length; mask++) {
    const support = points.filter((_, k) => mask & (1 << k));
    if (support.length > 4) continue;
    const sphere = circumsphere(support);
    if (!sphere || (best && sphere.radius >= best.sphere.radius)) continue;
    if (points.every((p) => length(sub(p, sphere.centre)) <= sphere.radius * (1 + 1e-9) + 1e-12))
      best = { sphere, support };
  }
  return best;
}

/** The smallest sphere through one to four points; null where they are degenerate. */
function circumsphere(points: readonly Vec3[]): Sphere | null {
  const [a, b, c, d] = points;
  if (!a) return null;
  if (!b) return { centre: a, radius: 0 };
  const u = sub(b, a);
  if (!c) return { centre: add(a, scale(u, 0.5)), radius: length(u) / 2 };
  const v = sub(c, a);
  const w = cross(u, v);
  let offset: Vec3;
  if (!d) {
    const area = dot(w, w);
    if (area < 1e-30) return null;
    offset = scale(
      add(scale(cross(v, w), dot(u, u)), scale(cross(w, u), dot(v, v))),
      1 / (2 * area),
    );
  } else {
    const t = sub(d, a);
    const volume = dot(t, w);
    if (Math.abs(volume) < 1e-30) return null;
    offset = scale(
      add(add(scale(w, dot(t, t)), scale(cross(t, u), dot(v, v))), scale(cross(v, t), dot(u, u))),
      1 / (2 * volume),
    );
  }
  return { centre: add(a, offset), radius: length(offset) };
}
