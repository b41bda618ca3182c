import { definitionOf } from '../compile/catalogue';
import type { NetworkDocument, OpacityMode } from '../graph/document';
import { rasterPoints, rasteriseAtlas } from '../mesh/atlas';
import type { AtlasRaster } from '../mesh/atlas';
import { fillGutter, planGutter } from '../mesh/gutter';
import type { Gutter } from '../mesh/gutter';
import { uniformPoints } from '../mesh/sample-points';
import type { SamplePoints } from '../mesh/sample-points';
import type { SurfaceMesh } from '../mesh/surface-mesh';
import { toTangentSpace } from '../mesh/tangent-space';
import { SURFACE_LANES } from '../nodes/surface-parameters';
import type { SurfaceParameter } from '../nodes/surface-parameters';
import { MAPS, MODEL_TEXTURES } from '../surface/map-recipes';
import type { MapName, MapRecipe, ModelTexture } from '../surface/map-recipes';
import { chooseOpacityMode, usedParameters } from '../surface/stage-layout';
import { placesOf } from './advice';
import { EvaluationSession } from './session';
import type { MapSource } from './session';

/** Texels beyond charts that are filled, so that filtering never sees the background. */
const GUTTER = 8;
/** Points at which it is seen what a surface uses. */
const LOOKED_AT = 4096;
/** Texels of a strip: memory grows with these, not with the picture or the number of nodes. */
const STRIP_TEXELS = 131072;
const NORMAL = SURFACE_LANES.indexOf('normal.x');

/** One picture to be written. */
export type BakeImage = { readonly depth: 8 | 16 } & (
  { readonly map: MapName } | { readonly texture: ModelTexture }
);
/** What a bake writes, decided before it begins; plain data, the same for all workers. */
export interface BakePlan {
  readonly size: number;
  readonly images: readonly BakeImage[];
  readonly opacityMode: OpacityMode;
  /** For what glTF holds as one number for the whole model. */
  readonly refractiveIndex: number;
  readonly dispersion: number;
  readonly isUnlit: boolean;
  /** The brightest emission, at least 1: what the model's emission texture is measured in. */
  readonly glow: number;
  /** What the files do not hold of the material, in sentences. */
  readonly notes: readonly string[];
}

export const recipeOf = (image: BakeImage): MapRecipe =>
  'map' in image ? MAPS[image.map] : MODEL_TEXTURES[image.texture];

/** What a bake compiles with; kept over many strips it compiles once. */
export const makeBakeSession = (): EvaluationSession =>
  new EvaluationSession({ surface: true, taps: [], evensOut: ['images'] });

/**
 * Looks a finished surface over and decides what to write: a map for each parameter in use, the
 * textures of the model.
 * @param depth bits a channel of the maps; the model's textures always have 8
 * @throws CompileError when the document has errors
 */
export function planBake(
  session: EvaluationSession,
  document: NetworkDocument,
  mesh: SurfaceMesh,
  maps: MapSource,
  size: number,
  depth: 8 | 16,
): BakePlan {
  const lanes = session.evaluate(document, mesh, uniformPoints(mesh, LOOKED_AT), maps);
  const lane = (name: string): Float32Array =>
    lanes[SURFACE_LANES.indexOf(name)] ?? new Float32Array();
  const used = usedParameters(lanes);
  const isWanted = ({ when }: MapRecipe): boolean =>
    when.length === 0 || when.some((parameter) => used.has(parameter));
  const names = <N extends string>(recipes: Readonly<Record<N, MapRecipe>>): readonly N[] =>
    (Object.keys(recipes) as N[]).filter((name) => isWanted(recipes[name]));
  const glow = ['r', 'g', 'b'].reduce(
    (most, axis) => lane(`emission.${axis}`).reduce((a, b) => (b > a ? b : a), most),
    1,
  );
  return {
    size,
    glow,
    images: [
      ...names(MAPS).map((map) => ({ map, depth })),
      ...names(MODEL_TEXTURES).map((texture) => ({ texture, depth: 8 as const })),
    ],
    opacityMode: document.opacityMode ?? chooseOpacityMode(lane('opacity')),
    refractiveIndex: meanOf(lane('refractiveIndex')),
    dispersion: used.has('transmission') ? meanOf(lane('dispersion')) : 0,
    isUnlit: meanOf(lane('unlit')) > 0.5,
    notes: [...frozenNotes(document), ...lossNotes(used, lane, glow)],
  };
}

const meanOf = (values: Float32Array): number =>
  values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);
const varies = (values: Float32Array): boolean =>
  values.some((value) => Math.abs(value - (values[0] ?? 0)) > 1e-3);

const FROZEN = {
  camera: 'the camera; it is frozen as seen straight on',
  lights: 'the lights; it is frozen as they stand',
} as const;

/** Nodes that follow the camera or the lights are frozen. */
export function frozenNotes(document: NetworkDocument): readonly string[] {
  return [
    ...new Set(
      placesOf(document).flatMap(({ node }) => {
        const definition = definitionOf(node);
        return definition?.follows
          ? [`“${node.name ?? definition.title}” follows ${FROZEN[definition.follows]}.`]
          : [];
      }),
    ),
  ];
}

/** What open formats hold only in part. */
function lossNotes(
  used: ReadonlySet<SurfaceParameter>,
  lane: (name: string) => Float32Array,
  glow: number,
): readonly string[] {
  const notes: string[] = [];
  for (const [parameter, title] of [
    ['refractiveIndex', 'The refractive index'],
    ['dispersion', 'Dispersion'],
  ] as const) {
    const values = lane(parameter);
    if (used.has(parameter) && varies(values))
      notes.push(
        `${title} varies over the surface; the model holds its mean, ${meanOf(values).toFixed(2)}.`,
      );
  }
  if (varies(lane('unlit')))
    notes.push(
      'Part of the surface is flat and part is lit; the model shows all of it as most of it is.',
    );
  if (glow > 1)
    notes.push(
      `Emission reaches ${glow.toPrecision(3)}: the map is limited to 1, the model holds ` +
        'all of it.',
    );
  const beyond = lane('height').reduce((sum, value) => sum + (value < 0 || value > 1 ? 1 : 0), 0);
  if (beyond > 0)
    notes.push(
      `Height leaves 0 to 1 on ${((beyond * 100) / lane('height').length).toFixed(0)} % of ` +
        'the surface; the map is limited there.',
    );
  return notes;
}

/** The rows that are baked together, from the top. */
export function stripsOf(size: number): readonly (readonly [number, number])[] {
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
export function stripOf(
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

export const lanesFor = (images: readonly BakeImage[]): ReadonlySet<number> =>
  new Set(images.flatMap((image) => recipeOf(image).channels.flatMap(({ reads }) => reads)));

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
  const strip = stripOf(mesh, size, ...window);
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
  const { channels } = recipeOf(image);
  const width = channels.length,
    { size } = plan;
  const values = new Float32Array(size * (window[1] - window[0]) * width);
  channels.forEach(({ value, empty }, channel) => {
    for (let at = channel; at < values.length; at += width) values[at] = empty;
    for (let k = 0; k < texels.length; k++)
      values[(texels[k] as number) * width + channel] = value(lanes, k, plan.glow);
  });
  fillGutter(values, gutter, width);
  return values.subarray(
    (rows[0] - window[0]) * size * width,
    (rows[1] - window[0]) * size * width,
  );
}
