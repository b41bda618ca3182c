import { describeError } from '../core/base/problem';
import type { Problem } from '../core/base/problem';
import * as Comlink from 'comlink';
import type { MapSettings } from '../core/mesh/analysis';
import {
  MAP_CHUNK,
  MAP_SIZE,
  MAP_TITLES,
  isShared,
  isWorthKeeping,
  keptMapKey,
  mapKey,
} from '../core/mesh/analysis';
import type { DetailRequest, NestedDemand } from '../core/evaluate/session';
import type { MeshMap } from '../core/mesh/mesh-map';
import type { MeshFacts } from '../core/mesh/mesh-facts';
import { WorkerProblem, isLost, settled } from '../workers/answer';
import type { RemoteWorker, WorkerPool } from '../workers/pool';
import type { ModelPreparation } from '../core/exchange/prepare';
import { getMeshMap, getModel } from './api';
import { readOnce } from './query-client';
import { editorStore } from './editor-store';
import { keepMap, recallMap } from './map-cache';

/** Maps nobody asks for any more that are still kept, so that going back shows them at once. */
const IDLE_MAPS = 24;
/** Between two pictures of a map that is being measured, milliseconds. */
const REFINE_EVERY = 700;
const REFINED_TRIANGLES = 300_000;

/**
 * `needs`: keys of the maps that must be finished first, because the normals it is measured by come
 * from them.
 */
interface MapEntry {
  readonly settings: MapSettings;
  readonly detail?: DetailRequest;
  readonly needs: readonly string[];
  map: MeshMap | null;
  fine: boolean;
}
export interface LoadedModel {
  readonly id: string;
  readonly facts: MeshFacts;
  readonly notes: readonly string[];
  /** What is mended in it, and the name of the file with that. */
  readonly preparation: ModelPreparation;
  readonly key: string;
}
/** A part of a map still to be measured. */
interface Piece {
  readonly first: number;
  readonly count: number;
}

/**
 * Loads models into the workers and has their mesh maps measured: quickly first, then fine, in
 * parallel.
 */
export class ModelKeeper {
  private readonly models = new Map<string, Promise<LoadedModel>>();
  private readonly loaded = new Map<string, LoadedModel>();
  private readonly maps = new Map<string, MapEntry>();
  private readonly listeners = new Set<() => void>();
  /** What is wanted by each model on the stage. */
  private readonly askers = new Map<string, ReadonlySet<string>>();
  /** Maps a person stopped: their first look stays. */
  private readonly stopped = new Set<string>();
  private working = false;
  /** Where finished maps came from; for tests and benchmarks. */
  readonly counts = { measured: 0, recalled: 0, fetched: 0, refined: 0 };

  constructor(private readonly pool: WorkerPool) {
    pool.onReplaced((remote) => {
      this.restoreWorker(remote).catch((error: unknown) => {
        if (!isLost(error))
          editorStore.setState({
            problem: workerProblem('A worker could not be started again:', error),
          });
      });
    });
  }

  /** Gives a new worker what the others have. */
  private async restoreWorker(remote: RemoteWorker): Promise<void> {
    // All are sent at once, so that they arrive before anything else the worker is asked.
    await Promise.all([
      ...[...this.loaded.keys()].map((id) => this.bring(id, remote)),
      ...[...this.maps].flatMap(([key, { settings, map }]) =>
        map ? [settled(remote.provideMap(modelOf(key), settings, map))] : [],
      ),
    ]);
    for (const listener of this.listeners) listener();
  }

  /** From another worker, or from the server if that ended, too. */
  private async bring(id: string, remote: RemoteWorker): Promise<void> {
    for (const other of this.pool.all.filter((worker) => worker !== remote)) {
      try {
        await handOver(id, other, remote);
        return;
      } catch (error) {
        if (!(error instanceof WorkerProblem)) throw error;
      }
    }
    const { file, preparation } = await readOnce(['model', id], () => getModel(id));
    await settled(remote.loadModel(id, file, this.loaded.get(id)?.facts.name ?? id, preparation));
  }

  onMaps(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => {
      this.listeners.delete(listener);
    };
  }

  load(id: string, name: string): Promise<LoadedModel> {
    const known = this.models.get(id);
    if (known) return known;
    const made = this.fetch(id, name);
    this.models.set(id, made);
    made.catch(() => this.models.delete(id));
    return made;
  }

  private async fetch(id: string, name: string): Promise<LoadedModel> {
    const { file, preparation, key } = await readOnce(['model', id], () => getModel(id));
    const first = this.pool.background;
    const { facts, notes } = await settled(first.loadModel(id, file, name, preparation));
    await Promise.all(
      this.pool.all
        .filter((worker) => worker !== first)
        .map((worker) => handOver(id, first, worker)),
    );
    const model = { id, facts, notes, preparation, key };
    this.loaded.set(id, model);
    return model;
  }

  /** Has what the stage draws a loaded model from sent there, past the page. */
  async layOut(id: string, withExtras: boolean, port: MessagePort): Promise<void> {
    await settled(this.pool.background.layOut(id, withExtras, Comlink.transfer(port, [port])));
  }

  mapFor(model: string, settings: MapSettings): MeshMap | null {
    return this.maps.get(`${model} ${mapKey(settings)}`)?.map ?? null;
  }

  private get wanted(): ReadonlySet<string> {
    return new Set([...this.askers.values()].flatMap((each) => [...each]));
  }

  /** States which maps one asker needs now; those that nobody needs any more are not begun. */
  request(asker: string, model: string, demands: readonly NestedDemand[]): void {
    const keyOf = (settings: MapSettings): string => `${model} ${mapKey(settings)}`;
    this.askers.set(asker, new Set(demands.map(({ resolved }) => keyOf(resolved))));
    for (const { resolved, detail, needs } of demands) {
      const key = keyOf(resolved);
      if (!this.maps.has(key))
        this.maps.set(key, {
          settings: resolved,
          ...(detail ? { detail } : {}),
          needs: needs.map(keyOf),
          map: null,
          fine: false,
        });
    }
    this.forgetOld();
    if (!this.working) void this.work();
  }

  /**
   * Maps of settings that were only passed through, as while a slider is dragged, are not kept for
   * ever.
   */
  private forgetOld(): void {
    const { wanted } = this;
    const idle = [...this.maps.keys()].filter((key) => !wanted.has(key));
    for (const key of idle.slice(0, Math.max(0, idle.length - IDLE_MAPS))) {
      const entry = this.maps.get(key);
      this.maps.delete(key);
      if (entry?.map) this.pool.tellAll((worker) => worker.dropMap(modelOf(key), entry.settings));
    }
  }

  /**
   * Stops measuring; what was shown last stays. Changing a setting, or `resume`, measures again.
   */
  stop(): void {
    for (const key of this.wanted) if (this.maps.get(key)?.fine === false) this.stopped.add(key);
    editorStore.setState({ isMeasuringStopped: this.stopped.size > 0 });
  }

  resume(): void {
    this.stopped.clear();
    editorStore.setState({ isMeasuringStopped: false });
    if (!this.working) void this.work();
  }

  private isWanted(key: string): boolean {
    return this.wanted.has(key) && !this.stopped.has(key);
  }

  /** What is measured, or was: for tests and benchmarks. */
  get settingsAsked(): readonly MapSettings[] {
    return [...this.maps.values()].map(({ settings }) => settings);
  }

  get isWorking(): boolean {
    return this.working;
  }

  /** Resolves when all maps asked for are finished. */
  async finished(): Promise<void> {
    while (this.working)
      await new Promise((resolve) => {
        setTimeout(resolve, 60);
      });
  }

  private nextTask(): { key: string; entry: MapEntry } | null {
    const open = [...this.wanted].flatMap((key) => {
      const entry = this.maps.get(key);
      return entry &&
        !entry.fine &&
        this.isWanted(key) &&
        entry.needs.every((each) => this.maps.get(each)?.fine ?? true)
        ? [{ key, entry }]
        : [];
    });
    return open.find(({ entry }) => entry.map === null) ?? open[0] ?? null;
  }

  private async work(): Promise<void> {
    this.working = true;
    try {
      for (let task = this.nextTask(); task; task = this.nextTask())
        await this.advance(task.key, task.entry);
    } catch (error) {
      editorStore.setState({ problem: workerProblem('Measuring the model failed:', error) });
    } finally {
      this.working = false;
      editorStore.setState({ progress: null });
    }
  }

  /**
   * The next step of a map: one that was kept, else a first look, then the finished one. A worker
   * that ends meanwhile only costs its share.
   */
  private async advance(key: string, entry: MapEntry): Promise<void> {
    const model = modelOf(key);
    try {
      const kept = entry.map === null ? await this.recall(model, entry.settings) : null;
      if (kept) await this.finish(model, entry, kept);
      else if (entry.map === null) await this.measureQuickly(model, entry);
      else await this.measureFinely(model, key, entry);
    } catch (error) {
      if (!isLost(error)) throw error;
    }
  }

  /** A finished map of this browser or of the server. */
  private async recall(
    model: string,
    settings: MapSettings,
  ): Promise<Float32Array<ArrayBuffer> | null> {
    if (!isWorthKeeping(settings)) return null;
    const key = `${this.loaded.get(model)?.key ?? ''} ${keptMapKey(settings)}`;
    const total = await settled(
      (this.pool.backgrounds[0] ?? this.pool.evaluator).texelCount(model, MAP_SIZE.fine),
    );
    const own = await recallMap(key);
    if (own?.length === total) {
      this.counts.recalled++;
      return own;
    }
    if (!isShared(settings)) return null;
    const shared = await getMeshMap(model, settings).catch(() => null);
    if (shared?.length !== total) return null;
    this.counts.fetched++;
    await keepMap(key, shared);
    return shared;
  }

  private async finish(
    model: string,
    entry: MapEntry,
    values: Float32Array<ArrayBuffer>,
  ): Promise<void> {
    await this.publish(
      model,
      entry,
      await settled(this.pool.background.assemble(model, MAP_SIZE.fine, values)),
    );
    entry.fine = true;
  }

  private async publish(model: string, entry: MapEntry, map: MeshMap): Promise<void> {
    entry.map = map;
    await Promise.all(
      this.pool.all.map((worker) =>
        settled(worker.provideMap(model, entry.settings, map)).catch((error: unknown) => {
          if (!isLost(error)) throw error;
        }),
      ),
    );
    for (const listener of this.listeners) listener();
  }

  private async measureQuickly(model: string, entry: MapEntry): Promise<void> {
    editorStore.setState({
      progress: { label: `Measuring ${MAP_TITLES[entry.settings.kind]}: first look`, share: 0 },
    });
    await this.publish(
      model,
      entry,
      await settled(
        this.pool.background.quickMap(model, entry.settings, MAP_SIZE.quick, entry.detail),
      ),
    );
  }

  private async measureFinely(model: string, key: string, entry: MapEntry): Promise<void> {
    const total = await settled(
      (this.pool.backgrounds[0] ?? this.pool.evaluator).texelCount(model, MAP_SIZE.fine),
    );
    const values = entry.map
      ? await settled(this.pool.background.texelsFrom(model, entry.map, MAP_SIZE.fine))
      : new Float32Array(total);
    const pieces: Piece[] = [];
    for (let first = 0; first < total; first += MAP_CHUNK)
      pieces.push({ first, count: Math.min(MAP_CHUNK, total - first) });
    pieces.reverse();
    const shown = this.refining(model, entry, values);
    let done = 0;
    const measure = async (worker: RemoteWorker): Promise<void> => {
      for (let piece = pieces.pop(); piece && this.isWanted(key); piece = pieces.pop()) {
        try {
          values.set(
            await settled(
              worker.measureTexels(
                model,
                entry.settings,
                MAP_SIZE.fine,
                piece.first,
                piece.count,
                entry.detail,
              ),
            ),
            piece.first,
          );
        } catch (error) {
          // Another worker takes the piece.
          pieces.push(piece);
          throw error;
        }
        done += piece.count;
        editorStore.setState({
          progress: { label: `Measuring ${MAP_TITLES[entry.settings.kind]}`, share: done / total },
        });
        if (done < total) shown.show();
      }
    };
    const ends = await Promise.allSettled(this.pool.backgrounds.map((worker) => measure(worker)));
    await shown.ended();
    for (const end of ends) if (end.status === 'rejected' && !isLost(end.reason)) throw end.reason;
    while (done < total && this.isWanted(key)) await measure(this.pool.evaluator);
    await shown.ended();
    if (done < total) return;
    this.counts.measured++;
    if (isWorthKeeping(entry.settings))
      await keepMap(`${this.loaded.get(model)?.key ?? ''} ${keptMapKey(entry.settings)}`, values);
    await this.finish(model, entry, values);
  }

  /**
   * Shows a map while it is measured, now and then: what is not measured yet is as in the first
   * look.
   */
  private refining(
    model: string,
    entry: MapEntry,
    values: Float32Array<ArrayBuffer>,
  ): { readonly show: () => void; readonly ended: () => Promise<void> } {
    // Drawing a very large model again and again would take longer than measuring it.
    const pause =
      (this.loaded.get(model)?.facts.triangles ?? 0) > REFINED_TRIANGLES ? Infinity : REFINE_EVERY;
    let last = performance.now();
    let showing: Promise<void> | null = null;
    const once = async (): Promise<void> => {
      try {
        await this.publish(
          model,
          entry,
          await settled(this.pool.evaluator.assemble(model, MAP_SIZE.fine, values.slice())),
        );
        this.counts.refined++;
      } catch (error) {
        // The next time, or the finished map, makes up for it.
        if (!isLost(error)) throw error;
      } finally {
        last = performance.now();
        showing = null;
      }
    };
    return {
      show: () => {
        if (!showing && performance.now() - last > pause) showing = once();
      },
      ended: async () => {
        await showing;
      },
    };
  }
}

/** What a person is told of work that failed in workers: with a beginning that says which. */
const workerProblem = (beginning: string, error: unknown): Problem => {
  const problem = describeError(error);
  const action = 'Reload the page to try again.';
  return { ...problem, message: `${beginning} ${problem.message}`, action };
};

/** Has one worker send a model to another, past the page. */
async function handOver(id: string, from: RemoteWorker, to: RemoteWorker): Promise<void> {
  const { port1, port2 } = new MessageChannel();
  const taken = settled(to.receiveModel(id, Comlink.transfer(port2, [port2])));
  taken.catch(() => undefined);
  try {
    await settled(from.sendModel(id, Comlink.transfer(port1, [port1])));
  } catch (error) {
    await to.cancelTransfer(id);
    throw error;
  }
  await taken;
}

const modelOf = (key: string): string => key.slice(0, key.indexOf(' '));
