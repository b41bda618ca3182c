import type { MapSettings } from '../core/mesh/analysis';
import { MAP_TITLES, mapKey } from '../core/mesh/analysis';
import type { MeshMap } from '../core/mesh/mesh-map';
import type { SurfaceMesh } from '../core/mesh/surface-mesh';
import { settled } from '../workers/pool';
import type { WorkerPool } from '../workers/pool';
import { getBytes } from './api';
import { editorStore } from './editor-store';

/** Side of a mesh map: quick look, finished. */
const MAP_SIZE = { quick: 256, fine: 512 } as const;
const CHUNK = 16384;

interface MapEntry { readonly settings: MapSettings; map: MeshMap | null; fine: boolean }
export interface LoadedModel { readonly id: string; readonly mesh: SurfaceMesh; readonly notes: readonly string[] }

/** Loads models into the workers and has their mesh maps measured: quickly first, then fine, in parallel. */
export class ModelKeeper {
  private readonly models = new Map<string, Promise<LoadedModel>>();
  private readonly maps = new Map<string, MapEntry>();
  private readonly listeners = new Set<() => void>();
  private wanted = new Set<string>();
  private working = false;

  constructor(private readonly pool: WorkerPool) {}

  onMaps(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => { this.listeners.delete(listener); };
  }

  load(id: string, name: string, bytes?: Uint8Array<ArrayBuffer>): Promise<LoadedModel> {
    const known = this.models.get(id);
    if (known) return known;
    const made = this.fetch(id, name, bytes);
    this.models.set(id, made);
    made.catch(() => this.models.delete(id));
    return made;
  }

  private async fetch(id: string, name: string, given?: Uint8Array<ArrayBuffer>): Promise<LoadedModel> {
    const bytes = given ?? await getBytes(`/api/models/${id}`);
    const first = this.pool.labourer;
    const { mesh, notes } = await settled(first.loadModel(id, bytes, name));
    await Promise.all(this.pool.all.map((worker) => settled(worker.adoptMesh(id, mesh))));
    return { id, mesh, notes };
  }

  mapFor(model: string, settings: MapSettings): MeshMap | null {
    return this.maps.get(`${model} ${mapKey(settings)}`)?.map ?? null;
  }

  /** States which maps are needed now; those no longer needed are not begun. */
  request(model: string, settings: readonly MapSettings[]): void {
    this.wanted = new Set(settings.map((each) => `${model} ${mapKey(each)}`));
    for (const each of settings) {
      const key = `${model} ${mapKey(each)}`;
      if (!this.maps.has(key)) this.maps.set(key, { settings: each, map: null, fine: false });
    }
    if (!this.working) void this.work(model);
  }

  get isWorking(): boolean { return this.working; }

  /** Resolves when all maps asked for are finished. */
  async finished(): Promise<void> {
    while (this.working) await new Promise((resolve) => { setTimeout(resolve, 60); });
  }

  private nextTask(): { key: string; entry: MapEntry } | null {
    const open = [...this.wanted].flatMap((key) => { const entry = this.maps.get(key); return entry && !entry.fine ? [{ key, entry }] : []; });
    return open.find(({ entry }) => entry.map === null) ?? open[0] ?? null;
  }

  private async work(initial: string): Promise<void> {
    this.working = true;
    try {
      for (let task = this.nextTask(); task; task = this.nextTask()) {
        const model = task.key.slice(0, task.key.indexOf(' ')) || initial;
        if (task.entry.map === null) await this.measureQuickly(model, task.entry);
        else await this.measureFinely(model, task.key, task.entry);
      }
    } catch (error) {
      editorStore.setState({ problem: `Measuring the model failed: ${error instanceof Error ? error.message : String(error)} Reload the page to try again.` });
    } finally {
      this.working = false;
      editorStore.setState({ progress: null });
    }
  }

  private async publish(model: string, entry: MapEntry, map: MeshMap): Promise<void> {
    entry.map = map;
    await Promise.all(this.pool.all.map((worker) => settled(worker.provideMap(model, entry.settings, map))));
    for (const listener of this.listeners) listener();
  }

  private async measureQuickly(model: string, entry: MapEntry): Promise<void> {
    editorStore.setState({ progress: { label: `Measuring ${MAP_TITLES[entry.settings.kind]}: first look`, share: 0 } });
    await this.publish(model, entry, await settled(this.pool.labourer.quickMap(model, entry.settings, MAP_SIZE.quick)));
  }

  private async measureFinely(model: string, key: string, entry: MapEntry): Promise<void> {
    const workers = this.pool.labourers;
    const total = await settled((workers[0] ?? this.pool.evaluator).texelCount(model, MAP_SIZE.fine));
    const values = new Float32Array(total);
    let next = 0, done = 0;
    const labour = async (worker: WorkerPool['evaluator']): Promise<void> => {
      while (next < total && this.wanted.has(key)) {
        const first = next;
        const count = Math.min(CHUNK, total - first);
        next += count;
        values.set(await settled(worker.measureTexels(model, entry.settings, MAP_SIZE.fine, first, count)), first);
        done += count;
        editorStore.setState({ progress: { label: `Measuring ${MAP_TITLES[entry.settings.kind]}`, share: done / total } });
      }
    };
    await Promise.all(workers.map((worker) => labour(worker)));
    if (done < total) return;
    entry.fine = true;
    await this.publish(model, entry, await settled(this.pool.labourer.assemble(model, MAP_SIZE.fine, values)));
  }
}
