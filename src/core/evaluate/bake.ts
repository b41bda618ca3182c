import { normalise, scale } from '../base/vector';
import type { Vec3 } from '../base/vector';
import { cross, dot, sub } from '../base/vector';
import type { NetworkDocument } from '../graph/document';
import { atlasTangents, rasterPoints, rasteriseAtlas } from '../mesh/atlas';
import { dilate } from '../mesh/mesh-map';
import type { SurfaceMesh } from '../mesh/surface-mesh';
import { encodeSrgb } from '../surface/colour-science';
import { EvaluationSession } from './session';
import type { MapSource } from './session';

/** Rows baked at once; memory does not grow with the number of nodes. */
const TILE_ROWS = 64;

export const BAKED_MAPS = ['base-colour', 'metalness', 'roughness', 'normal', 'emission', 'opacity'] as const;
export type BakedMapName = (typeof BAKED_MAPS)[number];

/** One baked map: `channels` values per texel, 0–1, rows from the top, as they are to be stored (base colour and emission in sRGB). */
export interface BakedMap { readonly name: BakedMapName; readonly size: number; readonly channels: 1 | 3; readonly values: Float32Array<ArrayBuffer> }

export interface BakeProgress { (done: number, total: number): void | Promise<void> }

/** Texels beyond charts that are filled, so that filtering never sees the background. */
const GUTTER = 8;

/**
 * Evaluates the finished surface at every texel of the model's atlas, tile by tile.
 * The normal map is in tangent space, +Y up, as glTF wants it (MikkTSpace handedness from the atlas).
 * @throws CompileError when the document has errors; whatever `progress` throws stops the bake
 */
export async function bakeSurface(document: NetworkDocument, mesh: SurfaceMesh, size: number, maps: MapSource, progress: BakeProgress = () => undefined, rows: readonly [number, number] = [0, size]): Promise<{ lanes: readonly Float32Array<ArrayBuffer>[]; covered: Uint8Array<ArrayBuffer> }> {
  const session = new EvaluationSession({ surface: true, taps: [] });
  session.prepare(document);
  const height = rows[1] - rows[0];
  const lanes = Array.from({ length: 12 }, () => new Float32Array(size * height));
  const covered = new Uint8Array(size * height);
  for (let row = rows[0]; row < rows[1]; row += TILE_ROWS) {
    const until = Math.min(rows[1], row + TILE_ROWS);
    const raster = rasteriseAtlas(mesh, size, row, until);
    const points = rasterPoints(mesh, raster);
    const results = session.evaluate(document, mesh, points, maps);
    raster.texels.forEach((texel, k) => {
      const cell = texel - rows[0] * size;
      covered[cell] = 1;
      for (let lane = 0; lane < 9; lane++) (lanes[lane] as Float32Array)[cell] = (results[lane] as Float32Array)[k] as number;
      const world: Vec3 = [(results[9] as Float32Array)[k] as number, (results[10] as Float32Array)[k] as number, (results[11] as Float32Array)[k] as number];
      const shading: Vec3 = [points.normals[k * 3] as number, points.normals[k * 3 + 1] as number, points.normals[k * 3 + 2] as number];
      toTangentSpace(mesh, raster.triangles[k] as number, shading, world).forEach((value, axis) => { (lanes[9 + axis] as Float32Array)[cell] = value; });
    });
    await progress(until - rows[0], height);
  }
  return { lanes, covered };
}

function toTangentSpace(mesh: SurfaceMesh, triangle: number, shading: Vec3, normal: Vec3): Vec3 {
  const tangents = atlasTangents(mesh, triangle);
  if (!tangents) return [0, 0, 1];
  const along = sub(tangents[0], scale(shading, dot(tangents[0], shading)));
  const t = normalise(along);
  // v runs down the picture; the bitangent of a normal map runs up.
  const side = dot(cross(shading, t), tangents[1]) < 0 ? 1 : -1;
  const b = scale(cross(shading, t), side);
  return [dot(normal, t), dot(normal, b), dot(normal, shading)];
}

/** Turns baked lanes of a whole square into maps, with their gutters. */
export function assembleBake(size: number, lanes: readonly Float32Array[], covered: Uint8Array): readonly BakedMap[] {
  const limited = (x: number): number => (Number.isFinite(x) ? Math.min(1, Math.max(0, x)) : 0);
  const build = (name: BakedMapName, sources: readonly number[], store: (x: number) => number, empty: number): BakedMap => {
    const channels = sources.length as 1 | 3;
    const values = new Float32Array(size * size * channels).fill(empty);
    for (let texel = 0; texel < size * size; texel++) {
      if (covered[texel]) sources.forEach((lane, c) => { values[texel * channels + c] = store((lanes[lane] as Float32Array)[texel] as number); });
    }
    dilate(values, covered.slice(), size, channels, GUTTER);
    return { name, size, channels, values };
  };
  const encoded = (x: number): number => encodeSrgb(limited(x));
  return [
    build('base-colour', [0, 1, 2], encoded, 0), build('metalness', [3], limited, 0), build('roughness', [4], limited, 0.5),
    build('normal', [9, 10, 11], (x) => limited(x * 0.5 + 0.5), 0.5), build('emission', [5, 6, 7], encoded, 0), build('opacity', [8], limited, 1),
  ];
}
