import type { Vec3 } from '../base/vector';
import { sub } from '../base/vector';
import { enclosingSphere } from './enclosing-sphere';

const { sqrt } = Math;

/**
 * A triangle mesh in object space: metres, Y up, counter-clockwise triangles. Arrays are shared,
 * never changed.
 */
export interface SurfaceMesh {
  readonly name: string;
  /** x, y, z per vertex. */
  readonly positions: Float32Array<ArrayBuffer>;
  /** Unit normals, x, y, z per vertex. */
  readonly normals: Float32Array<ArrayBuffer>;
  /**
   * u, v per vertex: the model's own texture coordinates, or its atlas where it has none. v from
   * the top.
   */
  readonly uvs: Float32Array<ArrayBuffer>;
  /**
   * u, v per vertex without overlaps: where mesh maps and bakes are stored. Equal to `uvs` where
   * those do.
   */
  readonly atlas: Float32Array<ArrayBuffer>;
  /** Whether `atlas` was made by us. */
  readonly atlasIsAutomatic: boolean;
  /** Three vertices per triangle. */
  readonly indices: Uint32Array<ArrayBuffer>;
  /** The part of each triangle, counted from 0. */
  readonly parts: Uint32Array<ArrayBuffer>;
  readonly partNames: readonly string[];
  /** The centre of each part's bounds, x, y, z. */
  readonly partCentres: Float32Array<ArrayBuffer>;
  /** Further values per vertex that the model brings. */
  readonly attributes: readonly MeshAttribute[];
  readonly minimum: Vec3;
  readonly extent: Vec3;
  readonly centre: Vec3;
  /** Diameter of the smallest enclosing sphere. */
  readonly size: number;
}

/** Named values per vertex, 1 to 4 numbers each. */
export interface MeshAttribute {
  readonly name: string;
  readonly width: number;
  readonly values: Float32Array<ArrayBuffer>;
}

type Derived = 'minimum' | 'extent' | 'centre' | 'size' | 'partCentres';
/** The arrays of a mesh, without what is computed from them. */
export type MeshArrays = Omit<SurfaceMesh, Derived | 'partNames' | 'attributes'> &
  Partial<Pick<SurfaceMesh, 'partNames' | 'attributes'>>;

/** Completes a mesh with its bounds and its smallest enclosing sphere. */
export function completeMesh(arrays: MeshArrays): SurfaceMesh {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (let k = 0; k < arrays.positions.length; k++) {
    const value = arrays.positions[k] as number;
    low[k % 3] = Math.min(low[k % 3] as number, value);
    high[k % 3] = Math.max(high[k % 3] as number, value);
  }
  const sphere = enclosingSphere(arrays.positions);
  const minimum = low as unknown as Vec3;
  const parts = arrays.parts.reduce(
    (most, part) => Math.max(most, part + 1),
    arrays.partNames?.length ?? 0,
  );
  return {
    ...arrays,
    attributes: arrays.attributes ?? [],
    partNames:
      arrays.partNames ?? Array.from({ length: parts }, (_, part) => `Part ${String(part + 1)}`),
    partCentres: centresOf(arrays, parts),
    minimum,
    extent: sub(high as unknown as Vec3, minimum),
    centre: sphere.centre,
    size: Math.max(sphere.radius * 2, 1e-9),
  };
}

function centresOf(
  { positions, indices, parts }: MeshArrays,
  count: number,
): Float32Array<ArrayBuffer> {
  const low = new Float64Array(count * 3).fill(Infinity),
    high = new Float64Array(count * 3).fill(-Infinity);
  for (let k = 0; k < indices.length; k++) {
    const row = (parts[(k / 3) | 0] as number) * 3,
      vertex = (indices[k] as number) * 3;
    for (let axis = 0; axis < 3; axis++) {
      const value = positions[vertex + axis] as number;
      if (value < (low[row + axis] as number)) low[row + axis] = value;
      if (value > (high[row + axis] as number)) high[row + axis] = value;
    }
  }
  return Float32Array.from(low, (value, k) =>
    value <= (high[k] as number) ? (value + (high[k] as number)) / 2 : 0,
  );
}

/** How many triangles a mesh has. */
export const triangleCount = (mesh: Pick<SurfaceMesh, 'indices'>): number =>
  mesh.indices.length / 3;

/** Three numbers of a packed array, by their vertex. */
export function vertexAt(values: Float32Array, vertex: number): Vec3 {
  return [
    values[vertex * 3] as number,
    values[vertex * 3 + 1] as number,
    values[vertex * 3 + 2] as number,
  ];
}

/** The three corner positions of a triangle. */
export function getCorners(
  mesh: Pick<SurfaceMesh, 'positions' | 'indices'>,
  triangle: number,
): readonly [Vec3, Vec3, Vec3] {
  const corner = (k: number): Vec3 =>
    vertexAt(mesh.positions, mesh.indices[triangle * 3 + k] as number);
  return [corner(0), corner(1), corner(2)];
}

/**
 * Per triangle its normal times twice its area, x, y, z. Written out in scalars: it runs for every
 * triangle of every model.
 */
export function doubledAreas({
  positions,
  indices,
}: {
  readonly positions: Float32Array;
  readonly indices: Uint32Array;
}): Float64Array {
  const areas = new Float64Array(indices.length);
  for (let t = 0; t < indices.length; t += 3) {
    const a = (indices[t] as number) * 3,
      b = (indices[t + 1] as number) * 3,
      c = (indices[t + 2] as number) * 3;
    const ax = positions[a] as number,
      ay = positions[a + 1] as number,
      az = positions[a + 2] as number;
    const ux = (positions[b] as number) - ax,
      uy = (positions[b + 1] as number) - ay,
      uz = (positions[b + 2] as number) - az;
    const vx = (positions[c] as number) - ax,
      vy = (positions[c + 1] as number) - ay,
      vz = (positions[c + 2] as number) - az;
    areas[t] = uy * vz - uz * vy;
    areas[t + 1] = uz * vx - ux * vz;
    areas[t + 2] = ux * vy - uy * vx;
  }
  return areas;
}

/** Area of each triangle, m². */
export function triangleAreas(mesh: Pick<SurfaceMesh, 'positions' | 'indices'>): Float64Array {
  const doubled = doubledAreas(mesh);
  const areas = new Float64Array(doubled.length / 3);
  for (let t = 0; t < doubled.length; t += 3) {
    const x = doubled[t] as number,
      y = doubled[t + 1] as number,
      z = doubled[t + 2] as number;
    areas[t / 3] = sqrt(x * x + y * y + z * z) / 2;
  }
  return areas;
}
