import type { SamplePoints } from './sample-points';

/**
 * The sine of an angle from 0 to π/2 by its series: sums and products are the same on every
 * machine, an engine's own sine need not be. Within 1e-15.
 */
export function portableSine(rad: number): number {
  let term = rad,
    sum = rad;
  for (let k = 2; k <= 24; k += 2) {
    term *= (-rad * rad) / (k * (k + 1));
    sum += term;
  }
  return sum;
}

/** The next address that a vector of four may stand at. */
export const aligned = (at: number): number => Math.ceil(at / 16) * 16;

/**
 * Position, normal to look along, face normal and the surface's own normal of each point, twelve
 * numbers.
 */
export function pack(
  into: Float32Array,
  { positions, normals, faceNormals }: SamplePoints,
  along: Float32Array,
  first: number,
  count: number,
): void {
  for (let k = 0; k < count; k++)
    for (let axis = 0; axis < 3; axis++) {
      const from = (first + k) * 3 + axis;
      into[k * 12 + axis] = positions[from] as number;
      into[k * 12 + 3 + axis] = along[from] as number;
      into[k * 12 + 6 + axis] = faceNormals[from] as number;
      into[k * 12 + 9 + axis] = normals[from] as number;
    }
}
