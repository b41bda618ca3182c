import { atlasTangents, gradientFromSlopes } from './atlas';
import type { AtlasRaster } from './atlas';
import { fillGutter, planGutter } from './gutter';
import type { SurfaceMesh } from './surface-mesh';

/** A value per texel of the atlas with its gradient in object space: four numbers, rows from the top. */
export interface MeshMap {
  readonly size: number;
  readonly data: Float32Array<ArrayBuffer>;
}

const GUTTER = 4;

/** Spreads values of covered texels into a map: adds gradients (differences between neighbours) and a gutter around charts. */
export function assembleMap(mesh: SurfaceMesh, raster: AtlasRaster, values: Float32Array): MeshMap {
  const { size } = raster;
  const data = new Float32Array(size * size * 4);
  const covered = new Uint8Array(size * size);
  raster.texels.forEach((texel, k) => {
    data[texel * 4] = values[k] as number;
    covered[texel] = 1;
  });
  const slope = (texel: number, step: number, inRow: boolean): number => {
    const column = texel % size;
    const has = (other: number): boolean => other >= 0 && other < covered.length && covered[other] === 1 && (!inRow || Math.abs((other % size) - column) === 1);
    const [before, after] = [has(texel - step) ? texel - step : texel, has(texel + step) ? texel + step : texel];
    const distance = (after - before) / step;
    return distance === 0 ? 0 : ((data[after * 4] as number) - (data[before * 4] as number)) / distance * size;
  };
  raster.texels.forEach((texel, k) => {
    const tangents = atlasTangents(mesh, raster.triangles[k] as number);
    if (!tangents) return;
    const [dx, dy, dz] = gradientFromSlopes(tangents, slope(texel, 1, true), slope(texel, size, false));
    data[texel * 4 + 1] = dx;
    data[texel * 4 + 2] = dy;
    data[texel * 4 + 3] = dz;
  });
  fillGutter(data, planGutter(covered, size, GUTTER), 4);
  return { size, data };
}

/** Values given per vertex, as values per covered texel. */
export function vertexValuesToTexels(mesh: Pick<SurfaceMesh, 'indices'>, raster: AtlasRaster, perVertex: Float32Array): Float32Array<ArrayBuffer> {
  return Float32Array.from(raster.triangles, (t, k) => {
    const value = (corner: number): number => perVertex[mesh.indices[t * 3 + corner] as number] as number;
    const u = raster.weights[k * 2] as number, v = raster.weights[k * 2 + 1] as number;
    return value(0) * (1 - u - v) + value(1) * u + value(2) * v;
  });
}

/** Reads a map at atlas coordinates, bilinear between texel centres, edges held: value and gradient. */
export function sampleMap(map: MeshMap, u: number, v: number, into: Float32Array, at: number): void {
  const { size, data } = map;
  const x = Math.min(Math.max(u * size - 0.5, 0), size - 1), y = Math.min(Math.max(v * size - 0.5, 0), size - 1);
  const x0 = Math.floor(x), y0 = Math.floor(y), x1 = Math.min(x0 + 1, size - 1), y1 = Math.min(y0 + 1, size - 1);
  const fx = x - x0, fy = y - y0;
  for (let c = 0; c < 4; c++) {
    const top = (data[(y0 * size + x0) * 4 + c] as number) * (1 - fx) + (data[(y0 * size + x1) * 4 + c] as number) * fx;
    const bottom = (data[(y1 * size + x0) * 4 + c] as number) * (1 - fx) + (data[(y1 * size + x1) * 4 + c] as number) * fx;
    into[at + c] = top * (1 - fy) + bottom * fy;
  }
}
