import { rasterPoints, rasteriseAtlas } from './atlas';
import type { AtlasRaster } from './atlas';
import { assembleMap, sampleMap, vertexValuesToTexels } from './mesh-map';
import type { MeshMap } from './mesh-map';
import { MeshKernel } from './mesh-kernel';
import { DetailNormals } from './detail-normals';
import type { MapDefinition, MapView, SettingsOf } from './maps/define';
import { MAP_KINDS } from './maps/registry.generated';
import { vertexPoints } from './sample-points';
import type { SamplePoints } from './sample-points';
import type { SurfaceMesh } from './surface-mesh';

/** Unit normals at points, three numbers each, in place of the surface's own. */
export type DetailSource = (points: SamplePoints) => Float32Array<ArrayBuffer>;

type Registry = typeof MAP_KINDS;
/** The name of a kind of mesh map. */
export type MapKind = keyof Registry;
type SettingsIn<D> = D extends MapDefinition<infer F, infer T> ? SettingsOf<F, T> : never;
/** A mesh map, fully decided: lengths in metres, angles in radians. */
export type MapSettings = {
  [K in MapKind]: { readonly kind: K } & SettingsIn<Registry[K]>;
}[MapKind];

const isMapKind = (kind: string): kind is MapKind => Object.hasOwn(MAP_KINDS, kind);
/** Everything there is to know of a kind of map. */
export const mapDefinition = (kind: MapKind): MapDefinition => MAP_KINDS[kind];
/** What a map is called while it is measured. */
export const mapTitle = ({ kind }: MapSettings): string => mapDefinition(kind).title;
/**
 * Whether a finished map is stored: shadows change with every move of a light, and are measured in
 * no time.
 */
export const isStored = ({ kind }: MapSettings): boolean => !mapDefinition(kind).isTransient;
/**
 * Whether it is shared: what depends on a network besides the model stays where that is at work.
 */
export const isShared = (settings: MapSettings): boolean =>
  isStored(settings) && !('detail' in settings);

/** The same settings, measured by other normals, which `detail` identifies. */
export const measuredBy = (settings: MapSettings, detail: string): MapSettings =>
  Object.assign({}, settings, { detail });

/** A way to look at a map, and the kind it shows. */
export interface NamedMapView extends MapView {
  readonly kind: MapKind;
}
/** Every way to look at a map, by its name. */
export const MAP_VIEWS: ReadonlyMap<string, NamedMapView> = new Map(
  Object.keys(MAP_KINDS).flatMap((kind) =>
    isMapKind(kind)
      ? Object.entries(mapDefinition(kind).views).map(
          ([name, view]) => [name, { ...view, kind }] as const,
        )
      : [],
  ),
);

/** Rays per point of a finished occlusion map. */
export const OCCLUSION_RAYS = 128;
/**
 * Rays of a first look: between so many a vertex, and so many in all where that leaves a choice.
 */
const QUICK_RAYS = { least: 6, most: 24, all: 300_000 } as const;
/** Rays per point of a first look at so many points. */
export const quickRays = (vertices: number): number =>
  Math.min(
    QUICK_RAYS.most,
    Math.max(QUICK_RAYS.least, Math.round(QUICK_RAYS.all / Math.max(1, vertices))),
  );

/** A name for the map, equal for equal settings in whatever order a database gives them back. */
export const mapKey = (settings: MapSettings): string =>
  JSON.stringify(Object.fromEntries(Object.entries(settings).sort(([a], [b]) => (a < b ? -1 : 1))));

/**
 * Raised whenever a map of the same settings comes out otherwise than before: kept maps of older
 * versions are not used.
 */
const MEASURING_VERSION = 2;
/** The name a finished map is kept under, with the model's own key and the map's side. */
export const storedMapKey = (settings: MapSettings): string =>
  `${String(MEASURING_VERSION)} ${String(OCCLUSION_RAYS)} ${mapKey(settings)}`;
/** Side of a mesh map: quick look, finished. */
export const MAP_SIZE = { quick: 256, fine: 512 } as const;
/** Points measured between two looks at whether the map is still wanted. */
export const MAP_CHUNK = 16384;

/**
 * Resolves settings as a node gives them (relative or in metres) for a mesh of a size (metres);
 * absurd values are limited.
 */
export function resolveMapSettings(
  kind: MapKind,
  settings: Readonly<Record<string, number>>,
  choices: Readonly<Record<string, string>>,
  size: number,
): MapSettings {
  const finite = (name: string, fallback: number): number => {
    const value = settings[name] ?? fallback;
    return Number.isFinite(value) ? value : fallback;
  };
  const resolved = mapDefinition(kind).resolve({
    length(name) {
      const metres = finite(name, 0) * (choices['measure'] === 'units' ? 1 : size);
      return Math.min(Math.max(metres, size * 1e-4), size * 100);
    },
    number: (name, fallback, least, most) =>
      Math.min(most, Math.max(least, finite(name, fallback))),
    choice: (name) => choices[name],
  });
  // Each kind resolves to its own settings; which one is known only where it is read.
  return { kind, ...resolved } as MapSettings;
}

/**
 * A mesh with all that is prepared once to measure it. Heavy; lives in a worker or on the server.
 */
export class MeshAnalysis {
  private made: MeshKernel | null = null;
  private readonly normals = new WeakMap<SamplePoints, DetailNormals>();
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
    return mapDefinition(settings.kind).measure(settings, {
      mesh: this.mesh,
      kernel: this.kernel,
      points,
      first,
      count,
      rays,
      isQuick: rays < OCCLUSION_RAYS,
      normals: 'detail' in settings ? this.detailAt(settings.detail, points, detail) : null,
    });
  }

  /**
   * Supplied normals are computed once for some points, in however many pieces a map is measured.
   */
  private detailAt(
    name: string | undefined,
    points: SamplePoints,
    detail: DetailSource | undefined,
  ): DetailNormals | null {
    if (name === undefined) return null;
    const known = this.normals.get(points);
    if (known?.name === name) return known;
    if (!detail)
      throw new Error('Invariant broken: a map by other normals, and nobody supplies them');
    const made = new DetailNormals(name, points, detail(points));
    this.normals.set(points, made);
    return made;
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
