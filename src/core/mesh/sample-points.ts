import { radicalInverse2 } from '../base/random';
import type { Vec3 } from '../base/vector';
import { doubledAreas, triangleAreas, triangleCount } from './surface-mesh';
import type { SurfaceMesh } from './surface-mesh';

const { sqrt } = Math;

/**
 * Points on a mesh: what a program reads at them. Packed arrays, three (or two) numbers per point.
 */
export interface SamplePoints {
  readonly count: number;
  readonly positions: Float32Array<ArrayBuffer>;
  readonly normals: Float32Array<ArrayBuffer>;
  readonly faceNormals: Float32Array<ArrayBuffer>;
  readonly uvs: Float32Array<ArrayBuffer>;
  readonly atlas: Float32Array<ArrayBuffer>;
  readonly triangles: Uint32Array<ArrayBuffer>;
  /** Barycentric weights of the second and third corner, two per point. */
  readonly weights: Float32Array<ArrayBuffer>;
  /**
   * What a sample stands for: a pixel seen from an eye (its width in radians), or a texel of an
   * atlas so many texels wide. Absent: a point.
   */
  readonly sample?: SampleExtent;
}
/** The width that a sample stands for: of a pixel as an angle, or of a texel. */
export type SampleExtent =
  { readonly eye: Vec3; readonly pixelRad: number } | { readonly texels: number };

const faceNormalCache = new WeakMap<Uint32Array, Float32Array<ArrayBuffer>>();

/**
 * The unit normals of all triangles by their corners' order, three numbers each, up where there is
 * no area; computed once per mesh.
 */
export function computeFaceNormals(
  mesh: Pick<SurfaceMesh, 'positions' | 'indices'>,
): Float32Array<ArrayBuffer> {
  let normals = faceNormalCache.get(mesh.indices);
  if (!normals) {
    normals = new Float32Array(triangleCount(mesh) * 3);
    writeFaceNormals(mesh, normals);
    faceNormalCache.set(mesh.indices, normals);
  }
  return normals;
}

function writeFaceNormals(
  mesh: Pick<SurfaceMesh, 'positions' | 'indices'>,
  normals: Float32Array,
): void {
  const doubled = doubledAreas(mesh);
  for (let t = 0; t < doubled.length; t += 3) {
    const x = doubled[t] as number,
      y = doubled[t + 1] as number,
      z = doubled[t + 2] as number;
    const length = sqrt(x * x + y * y + z * z);
    normals[t] = length > 0 ? x / length : 0;
    normals[t + 1] = length > 0 ? y / length : 1;
    normals[t + 2] = length > 0 ? z / length : 0;
  }
}

/**
 * Gathers surface points by triangle and barycentric weights. Written out in scalars: it runs for
 * every pixel.
 */
export class PointCollector {
  private readonly points: SamplePoints & { count: number };
  private readonly faces: Float32Array;
  private filled = 0;

  constructor(
    private readonly mesh: SurfaceMesh,
    capacity: number,
  ) {
    this.faces = computeFaceNormals(mesh);
    this.points = {
      count: capacity,
      positions: new Float32Array(capacity * 3),
      normals: new Float32Array(capacity * 3),
      faceNormals: new Float32Array(capacity * 3),
      uvs: new Float32Array(capacity * 2),
      atlas: new Float32Array(capacity * 2),
      triangles: new Uint32Array(capacity),
      weights: new Float32Array(capacity * 2),
    };
  }

  /** Adds the point of a triangle with barycentric weights u (second corner) and v (third). */
  add(triangle: number, u: number, v: number): void {
    const { positions, normals, uvs, atlas, indices } = this.mesh;
    const { points } = this;
    const k = this.filled++;
    const w = 1 - u - v;
    const a = indices[triangle * 3] as number,
      b = indices[triangle * 3 + 1] as number,
      c = indices[triangle * 3 + 2] as number;
    let squared = 0;
    for (let axis = 0; axis < 3; axis++) {
      points.positions[k * 3 + axis] =
        (positions[a * 3 + axis] as number) * w +
        (positions[b * 3 + axis] as number) * u +
        (positions[c * 3 + axis] as number) * v;
      const n =
        (normals[a * 3 + axis] as number) * w +
        (normals[b * 3 + axis] as number) * u +
        (normals[c * 3 + axis] as number) * v;
      points.normals[k * 3 + axis] = n;
      squared += n * n;
      points.faceNormals[k * 3 + axis] = this.faces[triangle * 3 + axis] as number;
    }
    const scale = 1 / (sqrt(squared) || 1);
    for (let axis = 0; axis < 3; axis++)
      points.normals[k * 3 + axis] = (points.normals[k * 3 + axis] as number) * scale;
    for (let axis = 0; axis < 2; axis++) {
      points.uvs[k * 2 + axis] =
        (uvs[a * 2 + axis] as number) * w +
        (uvs[b * 2 + axis] as number) * u +
        (uvs[c * 2 + axis] as number) * v;
      points.atlas[k * 2 + axis] =
        (atlas[a * 2 + axis] as number) * w +
        (atlas[b * 2 + axis] as number) * u +
        (atlas[c * 2 + axis] as number) * v;
    }
    points.triangles[k] = triangle;
    points.weights[k * 2] = u;
    points.weights[k * 2 + 1] = v;
  }

  take(): SamplePoints {
    const { points, filled } = this;
    if (filled === points.count) return points;
    return {
      count: filled,
      positions: points.positions.slice(0, filled * 3),
      normals: points.normals.slice(0, filled * 3),
      faceNormals: points.faceNormals.slice(0, filled * 3),
      uvs: points.uvs.slice(0, filled * 2),
      atlas: points.atlas.slice(0, filled * 2),
      triangles: points.triangles.slice(0, filled),
      weights: points.weights.slice(0, filled * 2),
    };
  }
}

/** Points given by triangle and two barycentric weights each. */
export function pointsAt(
  mesh: SurfaceMesh,
  triangles: Uint32Array,
  weights: Float32Array,
  sample?: SampleExtent,
): SamplePoints {
  const collector = new PointCollector(mesh, triangles.length);
  for (let k = 0; k < triangles.length; k++)
    collector.add(triangles[k] as number, weights[k * 2] as number, weights[k * 2 + 1] as number);
  return sample ? { ...collector.take(), sample } : collector.take();
}

/** Some of given points, any of them as often as wanted, by their places. */
export function pickPoints(
  mesh: SurfaceMesh,
  { triangles, weights, sample }: SamplePoints,
  places: readonly number[],
): SamplePoints {
  return pointsAt(
    mesh,
    Uint32Array.from(places, (place) => triangles[place] ?? 0),
    Float32Array.from(
      places.flatMap((place) => [weights[place * 2] ?? 0, weights[place * 2 + 1] ?? 0]),
    ),
    sample,
  );
}
/** `count` points spread evenly over the surface's area; the same for the same mesh. */
export function uniformPoints(mesh: SurfaceMesh, count: number): SamplePoints {
  const areas = triangleAreas(mesh);
  const sums = new Float64Array(areas.length);
  let total = 0;
  areas.forEach((area, k) => {
    total += area;
    sums[k] = total;
  });
  const collector = new PointCollector(mesh, total > 0 ? count : 0);
  let triangle = 0;
  for (let k = 0; k < count && total > 0; k++) {
    const wanted = ((k + 0.5) / count) * total;
    while (triangle < sums.length - 1 && (sums[triangle] as number) < wanted) triangle++;
    const root = sqrt(radicalInverse2(k + 1));
    const side = (k * 0.7548776662466927 + 0.5) % 1;
    collector.add(triangle, root * (1 - side), root * side);
  }
  return collector.take();
}

/** One point per vertex, in the order of the vertices, each on some triangle that has it. */
export function vertexPoints(mesh: SurfaceMesh): SamplePoints {
  const count = mesh.positions.length / 3;
  const triangles = new Uint32Array(count);
  const weights = new Float32Array(count * 2);
  for (let k = 0; k < mesh.indices.length; k++) {
    const vertex = mesh.indices[k] as number;
    const corner = k % 3;
    triangles[vertex] = (k - corner) / 3;
    weights[vertex * 2] = corner === 1 ? 1 : 0;
    weights[vertex * 2 + 1] = corner === 2 ? 1 : 0;
  }
  const faceNormals = new Float32Array(count * 3);
  const faces = computeFaceNormals(mesh);
  for (let k = 0; k < count; k++) {
    const from = (triangles[k] as number) * 3;
    for (let axis = 0; axis < 3; axis++) faceNormals[k * 3 + axis] = faces[from + axis] as number;
  }
  return {
    count,
    positions: mesh.positions,
    normals: mesh.normals,
    faceNormals,
    uvs: mesh.uvs,
    atlas: mesh.atlas,
    triangles,
    weights,
  };
}
