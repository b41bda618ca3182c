/** Three components; positions in metres, Y up. */
export type Vec3 = readonly [number, number, number];

/** The sum of two vectors. */
export const add = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
/** The first vector minus the second. */
export const sub = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
/** A vector times a number. */
export const scale = (a: Vec3, s: number): Vec3 => [a[0] * s, a[1] * s, a[2] * s];
/** The dot product. */
export const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
/** The Euclidean length. */
export const length = (a: Vec3): number => Math.sqrt(dot(a, a));
/** The cross product, right-handed. */
export const cross = (a: Vec3, b: Vec3): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
/** Unit vector; [0, 1, 0] for a vector without length. */
export function normalise(a: Vec3): Vec3 {
  const l = length(a);
  return l > 0 ? scale(a, 1 / l) : [0, 1, 0];
}
/**
 * An orthonormal frame around a unit normal. Source: Duff et al., Building an Orthonormal Basis,
 * Revisited, JCGT 2017.
 */
export function tangentFrame(n: Vec3): readonly [Vec3, Vec3] {
  const sign = n[2] >= 0 ? 1 : -1;
  const a = -1 / (sign + n[2]);
  const b = n[0] * n[1] * a;
  return [
    [1 + sign * n[0] * n[0] * a, sign * b, -sign * n[0]],
    [b, sign + n[1] * n[1] * a, -n[1]],
  ];
}
