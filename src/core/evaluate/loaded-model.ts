import { AppError } from '../base/diagnostic';
import type { ModelId } from '../base/ids';
import { MAP_SIZE, MeshAnalysis, mapKey } from '../mesh/analysis';
import type { DetailSource, MapSettings } from '../mesh/analysis';
import type { MeshMap } from '../mesh/mesh-map';
import { uniformPoints } from '../mesh/sample-points';
import type { SamplePoints } from '../mesh/sample-points';
import type { SurfaceMesh } from '../mesh/surface-mesh';
import { seePoints } from './camera';
import type { Camera, VisiblePoints } from './camera';

/** Points over the whole surface by which values are described. */
const STATISTICS_POINTS = 4096;

/** How many maps are kept that were measured to try a setting. */
const TRIED_MAPS = 24;

/** What a camera sees of a model, and the model's spread of points as seen from there. */
export interface SeenModel {
  readonly points: VisiblePoints;
  readonly spread: SamplePoints;
}

/** A model in this thread: its hierarchy, points spread over it, and the maps it was given. */
export class LoadedModel {
  readonly analysis: MeshAnalysis;
  /** The same for the same mesh. */
  readonly uniform: SamplePoints;
  private readonly provided = new Map<string, MeshMap>();
  private readonly tried = new Map<string, MeshMap>();
  private seen: { readonly key: string; readonly made: SeenModel } | null = null;

  constructor(mesh: SurfaceMesh) {
    this.analysis = new MeshAnalysis(mesh);
    this.uniform = uniformPoints(mesh, STATISTICS_POINTS);
  }

  get mesh(): SurfaceMesh {
    return this.analysis.mesh;
  }

  /** The map measured with these settings, as far as it was provided. */
  readonly maps = (settings: MapSettings): MeshMap | undefined =>
    this.provided.get(mapKey(settings));

  /**
   * The same, or else measured here, quickly: for settings that are only tried. The last few are
   * kept.
   */
  readonly measured = (settings: MapSettings, detail?: DetailSource): MeshMap => {
    const key = mapKey(settings);
    const known = this.provided.get(key) ?? this.tried.get(key);
    if (known) return known;
    const map = this.analysis.quickMap(settings, MAP_SIZE.quick, detail);
    this.tried.set(key, map);
    const [oldest] = this.tried.keys();
    if (this.tried.size > TRIED_MAPS && oldest !== undefined) this.tried.delete(oldest);
    return map;
  };

  provide(settings: MapSettings, map: MeshMap): void {
    this.provided.set(mapKey(settings), map);
  }

  /** @returns whether there was one */
  drop(settings: MapSettings): boolean {
    return this.provided.delete(mapKey(settings));
  }

  /** What a camera sees in a square picture of so many pixels; the last is cached. */
  see(camera: Camera, size: number): SeenModel {
    const key = JSON.stringify([camera, size]);
    if (this.seen?.key !== key)
      this.seen = {
        key,
        made: {
          points: seePoints(this.analysis, camera, size, size),
          spread: { ...this.uniform, sample: { eye: camera.eye, pixelRad: 0 } },
        },
      };
    return this.seen.made;
  }
}

/** The models of one thread, by their ids. */
export class LoadedModels {
  private readonly models = new Map<ModelId, LoadedModel>();

  /** Registers a model; one that is there already stays. The mesh is not copied. */
  add(id: ModelId, mesh: SurfaceMesh): void {
    if (!this.models.has(id)) this.models.set(id, new LoadedModel(mesh));
  }

  /** Gives a model another id. @throws AppError `worker.no-model` */
  rename(from: ModelId, to: ModelId): void {
    const model = this.get(from);
    this.models.delete(from);
    if (!this.models.has(to)) this.models.set(to, model);
  }

  /** @throws AppError `worker.no-model` */
  get(id: ModelId): LoadedModel {
    const model = this.models.get(id);
    if (model) return model;
    throw new AppError(
      'worker.no-model',
      'The model is not loaded in this worker.',
      'Reload the page.',
      { kept: 'Your work is kept.' },
    );
  }
}
