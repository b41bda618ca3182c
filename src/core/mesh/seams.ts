import { WELD_SHARE, weldVertices } from './topology';
import { triangleCount } from './surface-mesh';
import type { SurfaceMesh } from './surface-mesh';

/** Edges are told apart by their two ends, the smaller first. */
const PAIR = 2 ** 26;

/**
 * The edges of triangles at which the atlas is cut: both sides are charts of their own there, or
 * nothing is beyond. Four numbers each: u and v of one end, u and v of the other.
 * @param size of the object, metres
 */
export function findSeams(
  { positions, indices, atlas }: Pick<SurfaceMesh, 'positions' | 'indices' | 'atlas'>,
  size: number,
): Float32Array<ArrayBuffer> {
  const welded = weldVertices(positions, size * WELD_SHARE);
  const placeOf = (vertex: number): number => welded[vertex] as number;
  const sides = new Map<number, number[]>();
  for (let t = 0; t < triangleCount({ indices }); t++)
    for (let k = 0; k < 3; k++) {
      const from = indices[t * 3 + k] as number,
        to = indices[t * 3 + ((k + 1) % 3)] as number;
      const [a, b] = placeOf(from) < placeOf(to) ? [from, to] : [to, from];
      const key = placeOf(a) * PAIR + placeOf(b);
      const known = sides.get(key);
      if (known) known.push(a, b);
      else sides.set(key, [a, b]);
    }
  const at = (vertex: number): readonly [number, number] => [
    atlas[vertex * 2] as number,
    atlas[vertex * 2 + 1] as number,
  ];
  const isApart = (one: number, other: number): boolean => {
    const [u, v] = at(one),
      [s, t] = at(other);
    return Math.abs(u - s) > SAME || Math.abs(v - t) > SAME;
  };
  const seams: number[] = [];
  for (const ends of sides.values()) {
    const [a = 0, b = 0] = ends;
    const isCut =
      ends.length === 2 || ends.some((vertex, k) => isApart(vertex, k % 2 === 0 ? a : b));
    if (isCut)
      for (let k = 0; k < ends.length; k += 2)
        seams.push(...at(ends[k] as number), ...at(ends[k + 1] as number));
  }
  return Float32Array.from(seams);
}
/** Places of the atlas nearer than this are one. */
const SAME = 1e-6;
