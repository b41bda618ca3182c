import { rasterPoints, rasteriseAtlas } from './atlas';
import type { AtlasRaster } from './atlas';
import { CreaseDistance } from './crease';
import { assembleMap, sampleMap, vertexValuesToTexels } from './mesh-map';
import type { MeshMap } from './mesh-map';
import { MeshKernel } from './mesh-kernel';
import { ToldNormals } from './told-normals';
import { shadowsOn } from './shadow';
import type { Vec3 } from '../base/vector';
import { vertexPoints } from './sample-points';
import type { SamplePoints } from './sample-points';
import type { SurfaceMesh } from './surface-mesh';

/** Unit normals at points, three numbers each, in place of the surface's own. */
export type DetailSource = (points: SamplePoints) => Float32Array<ArrayBuffer>;

/**
 * A mesh map, fully decided: lengths in metres, angles in radians; `detail` tells apart by which
 * normals it is measured, if not the surface's.
 */
export type MapSettings =
  | { readonly kind: 'curvature'; readonly radius: number; readonly detail?: string }
  | {
      readonly kind: 'occlusion';
      readonly reach: number;
      readonly coneRad: number;
      readonly falloff: number;
      readonly side: 'open' | 'solid' | 'both';
      /** Whether the model stands on a plane at its lowest point. */ readonly floor?: true;
      readonly detail?: string;
    }
  /** Metres to the nearest point of a part by name, or of all parts but the point's own (null). */
  | { readonly kind: 'proximity'; readonly part: string | null }
  | { readonly kind: 'crease'; readonly angleRad: number; readonly width: number }
  /** What the model itself keeps of a light: metres, or a unit direction. */
  | { readonly kind: 'shadow'; readonly at: Vec3; readonly isNear: boolean };
export type MapKind = MapSettings['kind'];
/** What maps are called while they are measured. */
export const MAP_TITLES: Readonly<Record<MapKind, string>> = {
  curvature: 'curvature',
  occlusion: 'occlusion',
  proximity: 'proximity',
  crease: 'crease distance',
  shadow: 'shadows',
};
/**
 * Whether a finished map is worth keeping: shadows change with every move of a light, and are
 * measured in no time.
 */
export const isWorthKeeping = ({ kind }: MapSettings): boolean => kind !== 'shadow';
/**
 * Whether it is shared: what depends on a network besides the model is kept where that network is
 * at work.
 */
export const isShared = (settings: MapSettings): boolean =>
  isWorthKeeping(settings) && !('detail' in settings);

/** Rays per point of a finished occlusion map. */
export const OCCLUSION_RAYS = 128;
/**
 * Rays of a first look: between so many a vertex, and so many in all where that leaves a choice.
 */
const QUICK_RAYS = { least: 6, most: 24, all: 300_000 } as const;
export const quickRays = (vertices: number): number =>
  Math.min(
    QUICK_RAYS.most,
    Math.max(QUICK_RAYS.least, Math.round(QUICK_RAYS.all / Math.max(1, vertices))),
  );

/** Rays per point and light. */
const SHADOW_RAYS = { quick: 2, fine: 8 } as const;

/** Object sizes that stand for a distance to nothing. */
const FAR_AWAY = 2;

/** A name for the map, equal for equal settings in whatever order a database gives them back. */
export const mapKey = (settings: MapSettings): string =>
  JSON.stringify(Object.fromEntries(Object.entries(settings).sort(([a], [b]) => (a < b ? -1 : 1))));

/**
 * Raised whenever a map of the same settings comes out otherwise than before: kept maps of older
 * versions are not used.
 */
const MEASURING_VERSION = 2;
/** The name a finished map is kept under, with the model's own key and the map's side. */
export const keptMapKey = (settings: MapSettings): string =>
  `${String(MEASURING_VERSION)} ${String(OCCLUSION_RAYS)} ${mapKey(settings)}`;
/** Side of a mesh map: quick look, finished. */
export const MAP_SIZE = { quick: 256, fine: 512 } as const;
/** Points measured between two looks at whether the map is still wanted. */
export const MAP_CHUNK = 16384;

/**
 * Works out settings as written by a node (relative or in metres) for a mesh; absurd values are
 * limited.
 */
export function settleMap(
  kind: MapKind,
  settings: Readonly<Record<string, number>>,
  choices: Readonly<Record<string, string>>,
  size: number,
): MapSettings {
  const length = (name: string): number => {
    const given = settings[name] ?? 0;
    const metres = choices['measure'] === 'units' ? given : given * size;
    return Math.min(Math.max(Number.isFinite(metres) ? metres : 0, size * 1e-4), size * 100);
  };
  if (kind === 'curvature') return { kind, radius: length('radius') };
  if (kind === 'proximity')
    return { kind, part: choices['to'] === 'part' ? (choices['part'] ?? '') : null };
  if (kind === 'crease')
    return {
      kind,
      width: length('width'),
      angleRad: (Math.min(Math.max(settings['angle'] ?? 30, 0.5), 179) * Math.PI) / 180,
    };
  if (kind === 'shadow') return settleShadow(settings);
  const side = choices['side'] === 'solid' || choices['side'] === 'both' ? choices['side'] : 'open';
  return {
    kind,
    reach: length('reach'),
    side,
    falloff: Math.max(0, settings['falloff'] ?? 0),
    coneRad: (Math.min(Math.max(settings['cone'] ?? 90, 1), 90) * Math.PI) / 180,
    ...(choices['floor'] === 'ground' ? { floor: true } : {}),
  };
}

/** To a precision that no eye sees, so that equal lights give equal maps. */
function settleShadow({
  x = 0,
  y = 0,
  z = 0,
  near = 0,
}: Readonly<Record<string, number>>): MapSettings {
  const tidy = (value: number): number =>
    Number.isFinite(value) ? Number(value.toPrecision(6)) + 0 : 0;
  return { kind: 'shadow', at: [tidy(x), tidy(y), tidy(z)], isNear: near > 0.5 };
}

/**
 * A mesh with all that is prepared once to measure it. Heavy; lives in a worker or on the server.
 */
export class MeshAnalysis {
  private made: MeshKernel | null = null;
  private readonly told = new WeakMap<SamplePoints, ToldNormals>();
  private creases: { readonly key: string; readonly distance: CreaseDistance } | null = null;
  private readonly rasters = new Map<number, { raster: AtlasRaster; points: SamplePoints }>();

  constructor(readonly mesh: SurfaceMesh) {}

  /** Made when first needed. */
  get kernel(): MeshKernel {
    return (this.made ??= new MeshKernel(this.mesh));
  }

  raster(size: number): { raster: AtlasRaster; points: SamplePoints } {
    let entry = this.rasters.get(size);
    if (!entry) {
      const raster = rasteriseAtlas(this.mesh, size);
      entry = { raster, points: rasterPoints(this.mesh, raster) };
      this.rasters.set(size, entry);
    }
    return entry;
  }

  /**
   * Values at points `first` to before `first + count`. @param detail must be given where the
   * settings speak of it
   */
  measure(
    settings: MapSettings,
    points: SamplePoints,
    rays: number,
    first = 0,
    count = points.count,
    detail?: DetailSource,
  ): Float32Array<ArrayBuffer> {
    if (settings.kind === 'proximity')
      return this.kernel.distances(
        points,
        this.mesh.partNames.indexOf(settings.part ?? ''),
        settings.part === null,
        this.mesh.size * FAR_AWAY,
        first,
        count,
      );
    if (settings.kind === 'crease') return this.creasesOf(settings).measure(points, first, count);
    if (settings.kind === 'shadow')
      return shadowsOn(
        this.kernel,
        points,
        settings,
        this.mesh.size,
        rays < OCCLUSION_RAYS ? SHADOW_RAYS.quick : SHADOW_RAYS.fine,
        first,
        count,
      );
    const told = this.detailAt(settings.detail, points, detail);
    if (settings.kind === 'curvature') {
      const smooth = this.kernel.curvature(points, settings.radius, first, count);
      return told ? told.bend(settings.radius).addTo(smooth, first) : smooth;
    }
    const { floor, detail: _detail, ...asked } = settings;
    return this.kernel.openness(
      points,
      {
        ...asked,
        rays,
        ...(floor ? { floor: this.mesh.minimum[1] } : {}),
        ...(told ? { detail: told.normals } : {}),
      },
      first,
      count,
    );
  }

  /**
   * Normals told for some points are asked for once, however many pieces the map is measured in.
   */
  private detailAt(
    name: string | undefined,
    points: SamplePoints,
    detail: DetailSource | undefined,
  ): ToldNormals | null {
    if (name === undefined) return null;
    const known = this.told.get(points);
    if (known?.name === name) return known;
    if (!detail) throw new Error('Invariant broken: a map by other normals, and nobody tells them');
    const made = new ToldNormals(name, points, detail(points));
    this.told.set(points, made);
    return made;
  }

  /** Kept for the next part of the same map: finding creases walks the whole mesh. */
  private creasesOf(settings: MapSettings & { kind: 'crease' }): CreaseDistance {
    const key = mapKey(settings);
    if (this.creases?.key !== key)
      this.creases = {
        key,
        distance: new CreaseDistance(this.mesh, settings.angleRad, settings.width),
      };
    return this.creases.distance;
  }

  /**
   * A quick map: measured at vertices and blended in between, or at its own texels where there are
   * fewer of those.
   */
  quickMap(settings: MapSettings, size: number, detail?: DetailSource): MeshMap {
    const { raster, points } = this.raster(size);
    const vertices = this.mesh.positions.length / 3;
    // What a network adds is finer than the vertices.
    if (points.count < vertices || detail)
      return assembleMap(
        this.mesh,
        raster,
        this.measure(settings, points, quickRays(points.count), 0, points.count, detail),
      );
    return assembleMap(
      this.mesh,
      raster,
      vertexValuesToTexels(
        this.mesh,
        raster,
        this.measure(settings, vertexPoints(this.mesh), quickRays(vertices)),
      ),
    );
  }

  /**
   * The number of texels a finished map of this size has; `measureTexels` takes any part of them.
   */
  texelCount(size: number): number {
    return this.raster(size).points.count;
  }

  measureTexels(
    settings: MapSettings,
    size: number,
    first: number,
    count: number,
    detail?: DetailSource,
  ): Float32Array<ArrayBuffer> {
    return this.measure(settings, this.raster(size).points, OCCLUSION_RAYS, first, count, detail);
  }

  /** A map's values at the texels of another size: where a finer one starts from. */
  texelsFrom(map: MeshMap, size: number): Float32Array<ArrayBuffer> {
    const { atlas, count } = this.raster(size).points;
    const values = new Float32Array(count),
      texel = new Float32Array(4);
    for (let k = 0; k < count; k++) {
      sampleMap(map, atlas[k * 2] as number, atlas[k * 2 + 1] as number, texel, 0);
      values[k] = texel[0] as number;
    }
    return values;
  }

  assemble(size: number, values: Float32Array): MeshMap {
    return assembleMap(this.mesh, this.raster(size).raster, values);
  }

  fineMap(settings: MapSettings, size: number, detail?: DetailSource): MeshMap {
    return this.assemble(
      size,
      this.measureTexels(settings, size, 0, this.texelCount(size), detail),
    );
  }
}
