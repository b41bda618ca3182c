import { present } from '../base/assert';
import { findNodeDefinition } from '../compile/catalogue';
import type { NetworkDocument, OpacityMode } from '../graph/document';
import { rasterPoints, rasteriseAtlas } from '../mesh/atlas';
import type { AtlasRaster } from '../mesh/atlas';
import { fillGutter, planGutter } from '../mesh/gutter';
import type { Gutter } from '../mesh/gutter';
import { uniformPoints } from '../mesh/sample-points';
import type { SamplePoints } from '../mesh/sample-points';
import type { SurfaceMesh } from '../mesh/surface-mesh';
import { toTangentSpace } from '../mesh/tangent-space';
import type { BakedValues } from '../nodes/parameters/define';
import type { SurfaceParameter } from '../nodes/parameters/lanes';
import { SURFACE_ENTRIES, laneIndices } from '../nodes/surface-parameters';
import { MAPS, MODEL_TEXTURES } from '../surface/map-recipes';
import type { MapRecipe } from '../surface/map-recipes';
import { chooseOpacityMode, usedParameters } from '../surface/stage-layout';
import { listPlaces } from '../advice/places';
import { EvaluationSession } from './session';
import type { MapSource } from './session';

/** Texels beyond charts that are filled, so that filtering never sees the background. */
const GUTTER = 8;
/** Points at which it is seen what a surface uses. */
const LOOKED_AT = 4096;
/** Texels of a strip: memory grows with these, not with the picture or the number of nodes. */
const STRIP_TEXELS = 131072;
const [NORMAL = 0] = laneIndices('normal');
const [OPACITY = 0] = laneIndices('opacity');

/** One picture to be written: a map by its name, or a texture of the model by its own. */
export type BakeImage = { readonly depth: 8 | 16 } & (
  { readonly map: string } | { readonly texture: string }
);
/** What is asked of a bake: texels a side, bits a channel of what is wanted of it. */
export interface BakeRequest {
  readonly size: number;
  readonly maps: 8 | 16 | null;
  readonly textures: 8 | 16 | null;
}
/** What a bake writes, decided before it begins; plain data, the same for all workers. */
export interface BakePlan {
  readonly size: number;
  readonly images: readonly BakeImage[];
  readonly opacityMode: OpacityMode;
  /** What each parameter is over the whole surface, as far as a few thousand points tell. */
  readonly values: Readonly<Record<SurfaceParameter, BakedValues>>;
  /** What the files do not hold of the material, in sentences. */
  readonly notes: readonly string[];
}

/** How a picture of a plan is made. */
export const getRecipe = (image: BakeImage): MapRecipe =>
  present(
    'map' in image ? MAPS.get(image.map) : MODEL_TEXTURES.get(image.texture),
    'a plan names a picture that is none',
  );

/** What a bake compiles with; kept over many strips it compiles once. */
export const makeBakeSession = (): EvaluationSession =>
  new EvaluationSession({ surface: true, taps: [], antialias: ['images'] });

/**
 * Looks a finished surface over and decides what to write: a map for each parameter in use, the
 * textures of the model.
 * @throws CompileError when the document has errors
 */
export function planBake(
  session: EvaluationSession,
  document: NetworkDocument,
  mesh: SurfaceMesh,
  maps: MapSource,
  { size, ...wanted }: BakeRequest,
): BakePlan {
  const lanes = session.evaluate(document, mesh, uniformPoints(mesh, LOOKED_AT), maps);
  const used = usedParameters(lanes);
  const isWanted = ({ when }: MapRecipe): boolean =>
    when.length === 0 || when.some((parameter) => used.has(parameter));
  const names = (recipes: ReadonlyMap<string, MapRecipe>): readonly string[] =>
    [...recipes].flatMap(([name, recipe]) => (isWanted(recipe) ? [name] : []));
  const values = Object.fromEntries(
    SURFACE_ENTRIES.map(([name]) => [
      name,
      summarise(
        laneIndices(name).map((index) => lanes[index] ?? new Float32Array()),
        used.has(name),
      ),
    ]),
  ) as BakePlan['values'];
  const { maps: mapDepth, textures: textureDepth } = wanted;
  return {
    size,
    images: [
      ...(mapDepth ? names(MAPS).map((map) => ({ map, depth: mapDepth })) : []),
      ...(textureDepth
        ? names(MODEL_TEXTURES).map((texture) => ({ texture, depth: textureDepth }))
        : []),
    ],
    opacityMode: document.opacityMode ?? chooseOpacityMode(lanes[OPACITY] ?? []),
    values,
    notes: [
      ...frozenNotes(document),
      ...SURFACE_ENTRIES.flatMap(([name, { loss }]) => loss?.(values[name]) ?? []),
    ],
  };
}

function summarise(lanes: readonly Float32Array[], isUsed: boolean): BakedValues {
  let sum = 0,
    count = 0,
    beyond = 0,
    largest = -Infinity,
    isVarying = false;
  for (const lane of lanes)
    for (const value of lane) {
      sum += value;
      count++;
      if (value < 0 || value > 1) beyond++;
      if (value > largest) largest = value;
      if (Math.abs(value - (lane[0] ?? 0)) > 1e-3) isVarying = true;
    }
  const among = Math.max(1, count);
  return { mean: sum / among, largest, isUsed, isVarying, beyond: beyond / among };
}

const FROZEN = {
  camera: 'the camera; it is frozen as seen straight on',
  lights: 'the lights; it is frozen as they stand',
} as const;

/** Nodes that follow the camera or the lights are frozen. */
export function frozenNotes(document: NetworkDocument): readonly string[] {
  return [
    ...new Set(
      listPlaces(document).flatMap(({ node }) => {
        const definition = findNodeDefinition(node);
        return definition?.follows
          ? [`“${node.name ?? definition.title}” follows ${FROZEN[definition.follows]}.`]
          : [];
      }),
    ),
  ];
}

/** The rows that are baked together, from the top. */
export function planStrips(size: number): readonly (readonly [number, number])[] {
  const rows = Math.max(4 * GUTTER, Math.ceil(STRIP_TEXELS / size));
  return Array.from(
    { length: Math.ceil(size / rows) },
    (_, k) => [k * rows, Math.min(size, (k + 1) * rows)] as const,
  );
}

/** The covered texels of some rows of the atlas, and the points they show. */
export interface BakeStrip {
  readonly raster: AtlasRaster;
  readonly points: SamplePoints;
}
/** The covered texels of rows `fromRow` to before `toRow` of an atlas of `size` texels a side. */
export function rasteriseStrip(
  mesh: SurfaceMesh,
  size: number,
  fromRow: number,
  toRow: number,
): BakeStrip {
  const raster = rasteriseAtlas(mesh, size, fromRow, toRow);
  return { raster, points: rasterPoints(mesh, raster) };
}

/**
 * Evaluates the surface at the texels of a strip; one value for each in every lane that is
 * `wanted`. Normals end in tangent space.
 */
export function bakeStrip(
  session: EvaluationSession,
  document: NetworkDocument,
  mesh: SurfaceMesh,
  { points }: BakeStrip,
  maps: MapSource,
  wanted: ReadonlySet<number>,
): readonly Float32Array[] {
  const lanes = session.evaluate(document, mesh, points, maps, { wanted });
  if (wanted.has(NORMAL)) toTangentSpace(mesh, points, lanes.slice(NORMAL, NORMAL + 3));
  return lanes;
}

/** The lanes of a surface that pictures read, by their places in SURFACE_LANES. */
export const lanesFor = (images: readonly BakeImage[]): ReadonlySet<number> =>
  new Set(images.flatMap((image) => getRecipe(image).channels.flatMap(({ reads }) => reads)));

/** What came of some rows, with as many more around them as their gutters take from. */
export interface BakedRows {
  readonly plan: BakePlan;
  readonly texels: Uint32Array;
  readonly lanes: readonly Float32Array[];
  readonly gutter: Gutter;
  readonly window: readonly [number, number];
  readonly rows: readonly [number, number];
}

/**
 * Evaluates rows of a bake. Strips need nothing of each other: what their gutters see of their
 * neighbours is evaluated once more.
 */
export function bakeRows(
  session: EvaluationSession,
  document: NetworkDocument,
  mesh: SurfaceMesh,
  plan: BakePlan,
  maps: MapSource,
  rows: readonly [number, number],
): BakedRows {
  const { size } = plan;
  const window = [Math.max(0, rows[0] - GUTTER), Math.min(size, rows[1] + GUTTER)] as const;
  const strip = rasteriseStrip(mesh, size, ...window);
  const lanes = bakeStrip(session, document, mesh, strip, maps, lanesFor(plan.images));
  const texels = strip.raster.texels.map((texel) => texel - window[0] * size);
  const covered = new Uint8Array(size * (window[1] - window[0]));
  for (let k = 0; k < texels.length; k++) covered[texels[k] as number] = 1;
  return { plan, texels, lanes, gutter: planGutter(covered, size, GUTTER), window, rows };
}

/** The values of one picture in these rows, 0–1, as they are to be stored, with gutters. */
export function pictureRows(
  { plan, texels, lanes, gutter, window, rows }: BakedRows,
  image: BakeImage,
): Float32Array {
  const { channels } = getRecipe(image);
  const width = channels.length,
    { size } = plan;
  const peaks = (name: SurfaceParameter): number => Math.max(1, plan.values[name].largest);
  const values = new Float32Array(size * (window[1] - window[0]) * width);
  channels.forEach(({ value, empty }, channel) => {
    for (let at = channel; at < values.length; at += width) values[at] = empty;
    for (let k = 0; k < texels.length; k++)
      values[(texels[k] as number) * width + channel] = value(lanes, k, peaks);
  });
  fillGutter(values, gutter, width);
  return values.subarray(
    (rows[0] - window[0]) * size * width,
    (rows[1] - window[0]) * size * width,
  );
}
