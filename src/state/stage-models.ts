import type { ModelId } from '../core/base/ids';
import { describeError } from '../core/base/problem';
import type { Problem } from '../core/base/problem';
import type { NestedDemand } from '../core/evaluate/session';
import type { MapSettings } from '../core/mesh/analysis';
import type { MeshMap } from '../core/mesh/mesh-map';
import { isLost, unwrap } from '../workers/answer';
import type { RemoteWorker } from '../workers/pool';
import type { EditorParts } from './editor-parts';
import { MapArchive } from './map-archive';
import { MapMeasurer } from './map-measurer';
import { MapSchedule } from './map-schedule';
import type { MapEntry } from './map-schedule';
import { ModelLoader } from './model-loader';
import type { LoadedModel } from './model-loader';

/** How often it is looked whether all is measured, milliseconds. */
const LOOK_EVERY = 60;

/**
 * The models on the stage with their mesh maps: brings them into the workers, and has the maps that
 * are asked for measured: quickly first, then fine, in parallel.
 */
export class StageModels {
  readonly loader: ModelLoader;
  private readonly schedule = new MapSchedule();
  private readonly measurer: MapMeasurer;
  private readonly archive: MapArchive;
  private readonly listeners = new Set<() => void>();
  private working = false;

  constructor(private readonly parts: EditorParts) {
    this.loader = new ModelLoader(parts);
    this.measurer = new MapMeasurer(parts);
    this.archive = new MapArchive(parts.client);
    parts.pool.onReplaced((remote) => {
      this.restoreWorker(remote).catch((error: unknown) => {
        if (!isLost(error)) this.report('A worker could not be started again:', error);
      });
    });
  }

  /** Where finished maps came from; for tests and benchmarks. */
  get counts(): Readonly<Record<'measured' | 'refined' | 'recalled' | 'fetched', number>> {
    return { ...this.measurer.counts, ...this.archive.counts };
  }
  /** What is measured, or was: for tests and benchmarks. */
  get settingsAsked(): readonly MapSettings[] {
    return this.schedule.all.map(({ settings }) => settings);
  }
  get isWorking(): boolean {
    return this.working;
  }

  private report(beginning: string, error: unknown): void {
    const problem: Problem = describeError(error);
    this.parts.stores.results.setState({
      problem: {
        ...problem,
        message: `${beginning} ${problem.message}`,
        action: 'Reload the page to try again.',
      },
    });
  }

  private async restoreWorker(remote: RemoteWorker): Promise<void> {
    // All are sent at once, so that they arrive before anything else the worker is asked.
    await Promise.all([
      this.loader.restoreWorker(remote),
      ...this.schedule.all.flatMap(({ model, settings, map }) =>
        map ? [unwrap(remote.provideMap(model, settings, map))] : [],
      ),
    ]);
    this.notify();
  }

  private notify(): void {
    for (const listener of this.listeners) listener();
  }

  onMaps(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => {
      this.listeners.delete(listener);
    };
  }

  load(id: ModelId, name: string): Promise<LoadedModel> {
    return this.loader.load(id, name);
  }

  mapFor(model: ModelId, settings: MapSettings): MeshMap | null {
    return this.schedule.find(model, settings)?.map ?? null;
  }

  /** States which maps one asker needs now; those that nobody needs any more are not begun. */
  request(asker: string, model: ModelId, demands: readonly NestedDemand[]): void {
    for (const entry of this.schedule.request(asker, model, demands))
      if (entry.map)
        this.parts.pool.tellAll((worker) => worker.dropMap(entry.model, entry.settings));
    this.start();
  }

  /** Stops measuring; what was shown last stays. A changed setting or `resume` goes on. */
  stop(): void {
    this.schedule.stop();
    this.parts.stores.measuring.setState({ isMeasuringStopped: this.schedule.isAnyStopped });
  }

  resume(): void {
    this.schedule.resume();
    this.parts.stores.measuring.setState({ isMeasuringStopped: false });
    this.start();
  }

  /** Resolves when all maps asked for are finished. */
  async finished(): Promise<void> {
    while (this.working)
      await new Promise<void>((resolve) => {
        this.parts.clock.after(LOOK_EVERY, resolve);
      });
  }

  private start(): void {
    if (!this.working) void this.work();
  }

  private async work(): Promise<void> {
    this.working = true;
    try {
      for (let entry = this.schedule.next(); entry; entry = this.schedule.next())
        await this.advance(entry);
    } catch (error) {
      this.report('Measuring the model failed:', error);
    } finally {
      this.working = false;
      this.parts.stores.measuring.setState({ progress: null });
    }
  }

  /** The next step of a map: one of earlier times, else a first look, then the finished one. */
  private async advance(entry: MapEntry): Promise<void> {
    const model = this.loader.find(entry.model);
    if (!model) throw new Error(`Invariant broken: ${entry.model} is not loaded`);
    try {
      if (entry.map === null) await this.begin(entry, model);
      else await this.complete(entry, model);
    } catch (error) {
      if (!isLost(error)) throw error;
    }
  }

  private async begin(entry: MapEntry, model: LoadedModel): Promise<void> {
    const total = await this.measurer.texelCount(entry);
    const values = await this.archive.find(model, entry.settings, total);
    if (values) await this.finish(entry, values);
    else await this.publish(entry, await this.measurer.measureQuickly(entry));
  }

  private async complete(entry: MapEntry, model: LoadedModel): Promise<void> {
    const values = await this.measurer.measureFinely({
      entry,
      triangles: model.facts.triangles,
      isWanted: () => this.schedule.isWanted(entry),
      publish: (map) => this.publish(entry, map),
    });
    if (!values) return;
    await this.archive.store(model, entry.settings, values);
    await this.finish(entry, values);
  }

  private async finish(entry: MapEntry, values: Float32Array): Promise<void> {
    await this.publish(entry, await this.measurer.assemble(entry, values));
    entry.isFine = true;
  }

  private async publish(entry: MapEntry, map: MeshMap): Promise<void> {
    entry.map = map;
    await Promise.all(
      this.parts.pool.all.map((worker) =>
        unwrap(worker.provideMap(entry.model, entry.settings, map)).catch((error: unknown) => {
          if (!isLost(error)) throw error;
        }),
      ),
    );
    this.notify();
  }
}
