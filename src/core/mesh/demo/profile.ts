import type { Vec3 } from '../../base/vector';

/** Points around the vertical, evenly; `turn` in steps. */
export const ring = (count: number, radius: number, y: number, turn = 0): Vec3[] =>
  Array.from({ length: count }, (_, k) => {
    const angle = ((k + turn) / count) * 2 * Math.PI;
    return [radius * Math.cos(angle), y, radius * Math.sin(angle)];
  });

/** Radius and height, from one end of a turned shape to the other. */
export type Profile = readonly (readonly [number, number])[];

/**
 * A profile whose inner corners are rounded by arcs of a radius, or less where a side is short:
 * edges of things that were made catch the light, and curvature has something to find.
 */
export function rounded(profile: Profile, radius: number, steps = 2): Profile {
  return profile.flatMap((here, k): Profile => {
    const before = profile[k - 1],
      after = profile[k + 1];
    if (!before || !after) return [here];
    const cut = (other: readonly [number, number]): readonly [number, number] => {
      const length = Math.hypot(other[0] - here[0], other[1] - here[1]);
      const share = Math.min(0.45, radius / Math.max(length, 1e-9));
      return [here[0] + (other[0] - here[0]) * share, here[1] + (other[1] - here[1]) * share];
    };
    const [from, to] = [cut(before), cut(after)];
    // A quadratic curve with its middle at the corner.
    return Array.from({ length: steps + 1 }, (_, s) => {
      const t = s / steps;
      return [0, 1].map(
        (axis) =>
          (from[axis as 0] * (1 - t) + here[axis as 0] * t) * (1 - t) +
          (here[axis as 0] * (1 - t) + to[axis as 0] * t) * t,
      ) as unknown as readonly [number, number];
    });
  });
}
