import { cross, dot, sub } from '../base/vector';
import type { Vec3 } from '../base/vector';
import { pointsAt } from './sample-points';
import type { SamplePoints } from './sample-points';
import { getCorners, triangleCount } from './surface-mesh';
import type { SurfaceMesh } from './surface-mesh';

/**
 * Which texel shows which point of the surface. Rows from the top; a texel counts where its centre
 * lies in a triangle.
 */
export interface AtlasRaster {
  readonly size: number;
  /** Indices (row × size + column) of the covered texels, in rows. */
  readonly texels: Uint32Array<ArrayBuffer>;
  readonly triangles: Uint32Array<ArrayBuffer>;
  /** Barycentric weights of the second and third corner, two per texel. */
  readonly weights: Float32Array<ArrayBuffer>;
}

/**
 * Rasterises the atlas, rows `fromRow` to before `toRow`. Where triangles overlap the first one
 * wins.
 */
export function rasteriseAtlas(
  mesh: Pick<SurfaceMesh, 'atlas' | 'indices'>,
  size: number,
  fromRow = 0,
  toRow = size,
): AtlasRaster {
  const rows = toRow - fromRow;
  const owner = new Int32Array(size * rows).fill(-1);
  const weights = new Float32Array(size * rows * 2);
  for (let t = 0; t < triangleCount(mesh); t++)
    rasteriseTriangle(mesh, t, size, fromRow, toRow, owner, weights);
  let covered = 0;
  for (let cell = 0; cell < owner.length; cell++) if ((owner[cell] as number) >= 0) covered++;
  const raster = {
    size,
    texels: new Uint32Array(covered),
    triangles: new Uint32Array(covered),
    weights: new Float32Array(covered * 2),
  };
  let k = 0;
  for (let cell = 0; cell < owner.length; cell++) {
    const t = owner[cell] as number;
    if (t < 0) continue;
    raster.texels[k] = fromRow * size + cell;
    raster.triangles[k] = t;
    raster.weights[k * 2] = weights[cell * 2] as number;
    raster.weights[k * 2 + 1] = weights[cell * 2 + 1] as number;
    k++;
  }
  return raster;
}

/** Written out in scalars, without inner functions: it runs for every triangle of every strip. */
function rasteriseTriangle(
  mesh: Pick<SurfaceMesh, 'atlas' | 'indices'>,
  t: number,
  size: number,
  fromRow: number,
  toRow: number,
  owner: Int32Array,
  weights: Float32Array,
): void {
  const { atlas, indices } = mesh;
  const a = (indices[t * 3] as number) * 2,
    b = (indices[t * 3 + 1] as number) * 2,
    c = (indices[t * 3 + 2] as number) * 2;
  const ax = (atlas[a] as number) * size - 0.5,
    ay = (atlas[a + 1] as number) * size - 0.5;
  const bx = (atlas[b] as number) * size - 0.5 - ax,
    by = (atlas[b + 1] as number) * size - 0.5 - ay;
  const cx = (atlas[c] as number) * size - 0.5 - ax,
    cy = (atlas[c + 1] as number) * size - 0.5 - ay;
  const determinant = bx * cy - by * cx;
  if (determinant === 0 || !Number.isFinite(determinant)) return;
  const low = Math.max(fromRow, Math.ceil(ay + Math.min(0, by, cy))),
    high = Math.min(toRow - 1, Math.floor(ay + Math.max(0, by, cy)));
  const left = Math.max(0, Math.ceil(ax + Math.min(0, bx, cx))),
    right = Math.min(size - 1, Math.floor(ax + Math.max(0, bx, cx)));
  for (let y = low; y <= high; y++)
    for (let x = left; x <= right; x++) {
      const px = x - ax,
        py = y - ay;
      const u = (px * cy - py * cx) / determinant,
        v = (py * bx - px * by) / determinant;
      if (u < 0 || v < 0 || u + v > 1) continue;
      const cell = (y - fromRow) * size + x;
      if ((owner[cell] as number) >= 0) continue;
      owner[cell] = t;
      weights[cell * 2] = u;
      weights[cell * 2 + 1] = v;
    }
}

/** The surface points under the covered texels. */
export function rasterPoints(mesh: SurfaceMesh, raster: AtlasRaster): SamplePoints {
  return pointsAt(mesh, raster.triangles, raster.weights, { texels: raster.size });
}

const QUALITY_SIZE = 512;

/** How many triangles cover each texel, at 512². */
function countCovers(mesh: Pick<SurfaceMesh, 'atlas' | 'indices'>): Uint16Array {
  const size = QUALITY_SIZE;
  const counts = new Uint16Array(size * size);
  const owner = new Int32Array(size * size);
  const weights = new Float32Array(size * size * 2);
  for (let t = 0; t < triangleCount(mesh); t++)
    readTexels(mesh, t, size, owner, weights, (texel) => {
      counts[texel] = (counts[texel] as number) + 1;
    });
  return counts;
}

/**
 * Share of the unit square that is covered, and of covered texels that more than one triangle
 * covers, at 512².
 */
export function atlasQuality(mesh: Pick<SurfaceMesh, 'atlas' | 'indices'>): {
  coverage: number;
  overlap: number;
  outside: boolean;
} {
  const counts = countCovers(mesh);
  const covered = counts.reduce((sum, n) => sum + (n > 0 ? 1 : 0), 0);
  const twice = counts.reduce((sum, n) => sum + (n > 1 ? 1 : 0), 0);
  return {
    coverage: covered / counts.length,
    overlap: covered > 0 ? twice / covered : 0,
    outside: mesh.atlas.some((x) => !(x >= -1e-4 && x <= 1.0001)),
  };
}

/** 1 for each triangle that lies on another in the atlas, at 512². */
export function rasteriseOverlaps(mesh: Pick<SurfaceMesh, 'atlas' | 'indices'>): Uint8Array {
  const size = QUALITY_SIZE;
  const counts = countCovers(mesh);
  const owner = new Int32Array(size * size);
  const weights = new Float32Array(size * size * 2);
  const overlapping = new Uint8Array(triangleCount(mesh));
  for (let t = 0; t < overlapping.length; t++)
    readTexels(mesh, t, size, owner, weights, (texel) => {
      if ((counts[texel] as number) > 1) overlapping[t] = 1;
    });
  return overlapping;
}

/** Tells each texel one triangle covers; the two tables are room to work in. */
function readTexels(
  mesh: Pick<SurfaceMesh, 'atlas' | 'indices'>,
  t: number,
  size: number,
  owner: Int32Array,
  weights: Float32Array,
  take: (texel: number) => void,
): void {
  const vs = [0, 1, 2].map(
    (k) => (mesh.atlas[(mesh.indices[t * 3 + k] as number) * 2 + 1] as number) * size,
  );
  const us = [0, 1, 2].map(
    (k) => (mesh.atlas[(mesh.indices[t * 3 + k] as number) * 2] as number) * size,
  );
  const [top, bottom] = [
    Math.max(0, Math.floor(Math.min(...vs)) - 1),
    Math.min(size, Math.ceil(Math.max(...vs)) + 1),
  ];
  const [left, right] = [
    Math.max(0, Math.floor(Math.min(...us)) - 1),
    Math.min(size, Math.ceil(Math.max(...us)) + 1),
  ];
  for (let y = top; y < bottom; y++) owner.fill(-1, y * size + left, y * size + right);
  rasteriseTriangle(mesh, t, size, 0, size, owner, weights);
  for (let y = top; y < bottom; y++)
    for (let x = left; x < right; x++) if (owner[y * size + x] === t) take(y * size + x);
}

/**
 * How positions change along u and v inside a triangle, metres per unit; null for one without area
 * in the atlas.
 */
export function atlasTangents(
  mesh: Pick<SurfaceMesh, 'positions' | 'indices' | 'atlas'>,
  t: number,
): readonly [Vec3, Vec3] | null {
  const [a, b, c] = getCorners(mesh, t);
  const uv = (k: number, axis: number): number =>
    mesh.atlas[(mesh.indices[t * 3 + k] as number) * 2 + axis] as number;
  const u1 = uv(1, 0) - uv(0, 0),
    u2 = uv(2, 0) - uv(0, 0),
    v1 = uv(1, 1) - uv(0, 1),
    v2 = uv(2, 1) - uv(0, 1);
  const determinant = u1 * v2 - u2 * v1;
  if (Math.abs(determinant) < 1e-20) return null;
  const p1 = sub(b, a),
    p2 = sub(c, a);
  const along = (s: number, r: number): Vec3 =>
    [0, 1, 2].map(
      (k) => ((p1[k] as number) * s + (p2[k] as number) * r) / determinant,
    ) as unknown as Vec3;
  return [along(v2, -v1), along(-u2, u1)];
}

/** The tangential gradient of a value with slopes fu and fv along the atlas axes. */
export function gradientFromSlopes([pu, pv]: readonly [Vec3, Vec3], fu: number, fv: number): Vec3 {
  const e = dot(pu, pu),
    f = dot(pu, pv),
    g = dot(pv, pv);
  const area = cross(pu, pv);
  const determinant = dot(area, area);
  if (determinant < 1e-30) return [0, 0, 0];
  const s = (g * fu - f * fv) / determinant,
    t = (e * fv - f * fu) / determinant;
  return [pu[0] * s + pv[0] * t, pu[1] * s + pv[1] * t, pu[2] * s + pv[2] * t];
}
