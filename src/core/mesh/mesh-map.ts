import type { AtlasRaster } from './atlas';
import { fillGutter, planGutter } from './gutter';
import type { SurfaceMesh } from './surface-mesh';

/**
 * A value per texel of the atlas with its gradient in object space: four numbers, rows from the
 * top.
 */
export interface MeshMap {
  readonly size: number;
  readonly data: Float32Array<ArrayBuffer>;
}

const GUTTER = 4;

/**
 * Spreads values of covered texels into a map: adds gradients (differences between neighbours) and
 * a gutter around charts.
 */
export function assembleMap(mesh: SurfaceMesh, raster: AtlasRaster, values: Float32Array): MeshMap {
  const { size } = raster;
  const data = new Float32Array(size * size * 4);
  const covered = new Uint8Array(size * size);
  for (let k = 0; k < raster.texels.length; k++) {
    const texel = raster.texels[k] as number;
    data[texel * 4] = values[k] as number;
    covered[texel] = 1;
  }
  writeGradients(mesh, raster, covered, data);
  fillGutter(data, planGutter(covered, size, GUTTER), 4);
  return { size, data };
}

/**
 * Writes the gradients of covered texels: slopes along the atlas axes between covered neighbours,
 * carried onto the surface. Written out in scalars: it runs for every texel of every map.
 */
function writeGradients(
  { positions, indices, atlas }: Pick<SurfaceMesh, 'positions' | 'indices' | 'atlas'>,
  { size, texels, triangles }: AtlasRaster,
  covered: Uint8Array,
  data: Float32Array,
): void {
  for (let k = 0; k < texels.length; k++) {
    const texel = texels[k] as number,
      column = texel % size,
      t = (triangles[k] as number) * 3;
    const west = column > 0 && covered[texel - 1] === 1 ? texel - 1 : texel,
      east = column < size - 1 && covered[texel + 1] === 1 ? texel + 1 : texel;
    const north = covered[texel - size] === 1 ? texel - size : texel,
      south = covered[texel + size] === 1 ? texel + size : texel;
    const fu =
      east === west
        ? 0
        : (((data[east * 4] as number) - (data[west * 4] as number)) / (east - west)) * size;
    const fv =
      south === north
        ? 0
        : (((data[south * 4] as number) - (data[north * 4] as number)) / ((south - north) / size)) *
          size;
    const a = indices[t] as number,
      b = indices[t + 1] as number,
      c = indices[t + 2] as number;
    const u1 = (atlas[b * 2] as number) - (atlas[a * 2] as number),
      v1 = (atlas[b * 2 + 1] as number) - (atlas[a * 2 + 1] as number);
    const u2 = (atlas[c * 2] as number) - (atlas[a * 2] as number),
      v2 = (atlas[c * 2 + 1] as number) - (atlas[a * 2 + 1] as number);
    const determinant = u1 * v2 - u2 * v1;
    if (!(determinant > 1e-20 || determinant < -1e-20)) continue;
    const ax = positions[a * 3] as number,
      ay = positions[a * 3 + 1] as number,
      az = positions[a * 3 + 2] as number;
    const px = (positions[b * 3] as number) - ax,
      py = (positions[b * 3 + 1] as number) - ay,
      pz = (positions[b * 3 + 2] as number) - az;
    const qx = (positions[c * 3] as number) - ax,
      qy = (positions[c * 3 + 1] as number) - ay,
      qz = (positions[c * 3 + 2] as number) - az;
    // How positions change along u and v, metres per unit of the atlas.
    const ux = (px * v2 - qx * v1) / determinant,
      uy = (py * v2 - qy * v1) / determinant,
      uz = (pz * v2 - qz * v1) / determinant;
    const vx = (qx * u1 - px * u2) / determinant,
      vy = (qy * u1 - py * u2) / determinant,
      vz = (qz * u1 - pz * u2) / determinant;
    const e = ux * ux + uy * uy + uz * uz,
      f = ux * vx + uy * vy + uz * vz,
      g = vx * vx + vy * vy + vz * vz;
    const area = e * g - f * f;
    if (!(area > 1e-30)) continue;
    const s = (g * fu - f * fv) / area,
      r = (e * fv - f * fu) / area;
    data[texel * 4 + 1] = ux * s + vx * r;
    data[texel * 4 + 2] = uy * s + vy * r;
    data[texel * 4 + 3] = uz * s + vz * r;
  }
}

/** Values given per vertex, as values per covered texel. */
export function vertexValuesToTexels(
  mesh: Pick<SurfaceMesh, 'indices'>,
  raster: AtlasRaster,
  perVertex: Float32Array,
): Float32Array<ArrayBuffer> {
  const { triangles, weights } = raster;
  const values = new Float32Array(triangles.length);
  for (let k = 0; k < values.length; k++) {
    const t = (triangles[k] as number) * 3,
      u = weights[k * 2] as number,
      v = weights[k * 2 + 1] as number;
    values[k] =
      (perVertex[mesh.indices[t] as number] as number) * (1 - u - v) +
      (perVertex[mesh.indices[t + 1] as number] as number) * u +
      (perVertex[mesh.indices[t + 2] as number] as number) * v;
  }
  return values;
}

/**
 * Reads a map at atlas coordinates, bilinear between texel centres, edges held: value and gradient.
 */
export function sampleMap(
  map: MeshMap,
  u: number,
  v: number,
  into: Float32Array,
  at: number,
): void {
  const { size, data } = map;
  const x = Math.min(Math.max(u * size - 0.5, 0), size - 1),
    y = Math.min(Math.max(v * size - 0.5, 0), size - 1);
  const x0 = Math.floor(x),
    y0 = Math.floor(y),
    x1 = Math.min(x0 + 1, size - 1),
    y1 = Math.min(y0 + 1, size - 1);
  const fx = x - x0,
    fy = y - y0;
  for (let c = 0; c < 4; c++) {
    const top =
      (data[(y0 * size + x0) * 4 + c] as number) * (1 - fx) +
      (data[(y0 * size + x1) * 4 + c] as number) * fx;
    const bottom =
      (data[(y1 * size + x0) * 4 + c] as number) * (1 - fx) +
      (data[(y1 * size + x1) * 4 + c] as number) * fx;
    into[at + c] = top * (1 - fy) + bottom * fy;
  }
}
