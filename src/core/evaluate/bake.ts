import { findDefinition } from '../compile/catalogue';
import type { NetworkDocument } from '../graph/document';
import { placesOf } from './advice';
import { rasterPoints, rasteriseAtlas } from '../mesh/atlas';
import { fillGutter, planGutter } from '../mesh/gutter';
import type { AtlasRaster } from '../mesh/atlas';
import type { SamplePoints } from '../mesh/sample-points';
import type { SurfaceMesh } from '../mesh/surface-mesh';
import { toTangentSpace } from '../mesh/tangent-space';
import { encodeSrgb } from '../surface/colour-science';
import type { SurfaceFeatures } from '../surface/stage-layout';
import { EvaluationSession } from './session';
import type { MapSource } from './session';

/** Rows baked at once; memory does not grow with the number of nodes. */
const TILE_ROWS = 64;

export const BAKED_MAPS = ['base-colour', 'metalness', 'roughness', 'normal', 'emission', 'opacity'] as const;
export type BakedMapName = (typeof BAKED_MAPS)[number];

/** One baked map: `channels` values per texel, 0–1, rows from the top, as they are to be stored (base colour and emission in sRGB). */
export interface BakedMap { readonly name: BakedMapName; readonly size: number; readonly channels: 1 | 3; readonly values: Float32Array<ArrayBuffer> }

export interface BakeProgress { (done: number, total: number): void | Promise<void> }

/** The first lane of the normal among SURFACE_LANES. */
const NORMAL = 9;

/** What a bake compiles with; kept over many strips it compiles once. */
export const makeBakeSession = (): EvaluationSession => new EvaluationSession({ surface: true, taps: [], evensOut: ['images'] });

/** Values of covered texels only: `texels` are their cells (row × size + column), and each lane holds one value for each. */
export interface BakedTexels { readonly texels: Uint32Array<ArrayBuffer>; readonly lanes: readonly Float32Array<ArrayBuffer>[] }

/** Texels beyond charts that are filled, so that filtering never sees the background. */
const GUTTER = 8;

/**
 * Evaluates the finished surface at every texel of the model's atlas, tile by tile.
 * The normal map is in tangent space, +Y up. A caller that bakes strip by strip keeps one session for all of them.
 * @throws CompileError when the document has errors; whatever `progress` throws stops the bake
 */
export async function bakeSurface(document: NetworkDocument, mesh: SurfaceMesh, size: number, maps: MapSource, progress: BakeProgress = () => undefined, rows: readonly [number, number] = [0, size], session = makeBakeSession()): Promise<readonly BakedTexels[]> {
  session.prepare(document);
  const strips: BakedTexels[] = [];
  for (let row = rows[0]; row < rows[1]; row += TILE_ROWS) {
    const until = Math.min(rows[1], row + TILE_ROWS);
    strips.push(bakeStrip(session, document, mesh, stripOf(mesh, size, row, until), maps));
    await progress(until - rows[0], rows[1] - rows[0]);
  }
  return strips;
}

/** The covered texels of some rows of the atlas, and the points they show. */
export interface BakeStrip { readonly raster: AtlasRaster; readonly points: SamplePoints }
export function stripOf(mesh: SurfaceMesh, size: number, fromRow: number, toRow: number): BakeStrip {
  const raster = rasteriseAtlas(mesh, size, fromRow, toRow);
  return { raster, points: rasterPoints(mesh, raster) };
}

/** Evaluates the surface at the texels of a strip. */
export function bakeStrip(session: EvaluationSession, document: NetworkDocument, mesh: SurfaceMesh, { raster, points }: BakeStrip, maps: MapSource): BakedTexels {
  const lanes = session.evaluate(document, mesh, points, maps, WANTED);
  toTangentSpace(mesh, points, lanes.slice(NORMAL));
  return { texels: raster.texels, lanes };
}

const limited = (x: number): number => (Number.isFinite(x) ? Math.min(1, Math.max(0, x)) : 0);
const encoded = (x: number): number => encodeSrgb(limited(x));
const halved = (x: number): number => limited(x * 0.5 + 0.5);
/** Which lanes a map takes, how they are stored, and what stands where there is no surface. */
const RECIPES: readonly (readonly [BakedMapName, readonly number[], (x: number) => number, number])[] = [
  ['base-colour', [0, 1, 2], encoded, 0], ['metalness', [3], limited, 0], ['roughness', [4], limited, 0.5],
  ['normal', [9, 10, 11], halved, 0.5], ['emission', [5, 6, 7], encoded, 0], ['opacity', [8], limited, 1],
];

const WANTED: ReadonlySet<number> = new Set(RECIPES.flatMap(([, sources]) => sources));

/** Turns the baked texels of a whole square into maps, with their gutters. */
export function assembleBake(size: number, strips: readonly BakedTexels[]): readonly BakedMap[] {
  const covered = new Uint8Array(size * size);
  for (const { texels } of strips) for (let k = 0; k < texels.length; k++) covered[texels[k] as number] = 1;
  const gutter = planGutter(covered, size, GUTTER);
  return RECIPES.map(([name, sources, store, empty]) => {
    const channels = sources.length as 1 | 3;
    const values = new Float32Array(size * size * channels).fill(empty);
    for (const { texels, lanes } of strips) sources.forEach((source, c) => { spread(lanes[source] as Float32Array, texels, store, values, channels, c); });
    fillGutter(values, gutter, channels);
    return { name, size, channels, values };
  });
}

function spread(lane: Float32Array, texels: Uint32Array, store: (x: number) => number, values: Float32Array, channels: number, channel: number): void {
  for (let k = 0; k < texels.length; k++) values[(texels[k] as number) * channels + channel] = store(lane[k] as number);
}

const LEFT_OUT: Readonly<Record<keyof SurfaceFeatures, string>> = { reflection: 'refractive index and reflection', transmission: 'transmission', coat: 'coat', sheen: 'sheen', dispersion: 'dispersion' };

/**
 * What a bake does not hold of a material, in sentences: nodes that follow the camera are frozen as seen straight on, and parameters for
 * which no map is written are left out.
 */
export function bakeNotes(document: NetworkDocument, features: SurfaceFeatures): readonly string[] {
  const frozen = [...new Set(placesOf(document).filter(({ node }) => findDefinition(node.type)?.follows).map(({ node }) => node.name ?? findDefinition(node.type)?.title ?? node.type))];
  const missing = Object.entries(LEFT_OUT).filter(([feature]) => features[feature as keyof SurfaceFeatures]).map(([, title]) => title);
  return [
    ...frozen.map((title) => `“${title}” follows the camera; it is frozen as seen straight on.`),
    ...(missing.length > 0 ? [`No maps are written for ${missing.join(', ')}: the baked model goes without.`] : []),
  ];
}
