import { isShared, isStored, storedMapKey } from '../core/mesh/analysis';
import type { MapSettings } from '../core/mesh/analysis';
import type { Client } from './client';
import { cacheMap, findCachedMap } from './map-cache';
import type { LoadedModel } from './model-loader';

type MapValues = Float32Array<ArrayBuffer>;

/** Finished maps of earlier times: those of this browser, and those that the server has. */
export class MapArchive {
  /** Where maps came from; for tests and benchmarks. */
  readonly counts = { recalled: 0, fetched: 0 };

  constructor(private readonly client: Pick<Client, 'meshMap'>) {}

  private keyOf({ key }: LoadedModel, settings: MapSettings): string {
    return `${key} ${storedMapKey(settings)}`;
  }

  /** @param total how many values it must have; null where there is none, or another */
  async find(model: LoadedModel, settings: MapSettings, total: number): Promise<MapValues | null> {
    if (!isStored(settings)) return null;
    const own = await findCachedMap(this.keyOf(model, settings));
    if (own?.length === total) {
      this.counts.recalled++;
      return own;
    }
    if (!isShared(settings)) return null;
    // Without the server the map is measured here, which takes longer and is the same.
    const shared = await this.client.meshMap(model.id, settings).catch(() => null);
    if (shared?.length !== total) return null;
    this.counts.fetched++;
    await cacheMap(this.keyOf(model, settings), shared);
    return shared;
  }

  async store(model: LoadedModel, settings: MapSettings, values: MapValues): Promise<void> {
    if (isStored(settings)) await cacheMap(this.keyOf(model, settings), values);
  }
}
