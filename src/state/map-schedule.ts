import type { ModelId } from '../core/base/ids';
import type { NestedDemand } from '../core/evaluate/session';
import type { DetailRequest } from '../core/evaluate/map-demands';
import { mapKey } from '../core/mesh/analysis';
import type { MapSettings } from '../core/mesh/analysis';
import type { MeshMap } from '../core/mesh/mesh-map';

/** Maps nobody asks for any more that are still cached, so that going back shows them at once. */
export const IDLE_MAPS = 24;

/** A map that somebody asked for, as far as it was measured. */
export interface MapEntry {
  readonly key: string;
  readonly model: ModelId;
  readonly settings: MapSettings;
  readonly detail?: DetailRequest;
  /**
   * Keys of the maps that must be finished first, because the normals it is measured by come from
   * them.
   */
  readonly needs: readonly string[];
  map: MeshMap | null;
  isFine: boolean;
}

const keyOf = (model: ModelId, settings: MapSettings): string => `${model} ${mapKey(settings)}`;

/** Which maps are wanted by whom, and which of them is to be measured next. */
export class MapSchedule {
  private readonly entries = new Map<string, MapEntry>();
  /** What is wanted by each model on the stage. */
  private readonly askers = new Map<string, ReadonlySet<string>>();
  /** Maps a person stopped: their first look stays. */
  private readonly stopped = new Set<string>();

  get all(): readonly MapEntry[] {
    return [...this.entries.values()];
  }
  get isAnyStopped(): boolean {
    return this.stopped.size > 0;
  }
  private get wanted(): ReadonlySet<string> {
    return new Set([...this.askers.values()].flatMap((each) => [...each]));
  }

  find(model: ModelId, settings: MapSettings): MapEntry | undefined {
    return this.entries.get(keyOf(model, settings));
  }

  /**
   * States which maps one asker needs now; those that nobody needs any more are not begun.
   * @returns what was dropped: settings that were only passed through, as while a slider is dragged
   */
  request(asker: string, model: ModelId, demands: readonly NestedDemand[]): readonly MapEntry[] {
    this.askers.set(asker, new Set(demands.map(({ resolved }) => keyOf(model, resolved))));
    for (const { resolved, detail, needs } of demands) {
      const key = keyOf(model, resolved);
      if (this.entries.has(key)) continue;
      this.entries.set(key, {
        key,
        model,
        settings: resolved,
        ...(detail ? { detail } : {}),
        needs: needs.map((each) => keyOf(model, each)),
        map: null,
        isFine: false,
      });
    }
    return this.dropIdle();
  }

  private dropIdle(): readonly MapEntry[] {
    const { wanted } = this;
    const idle = this.all.filter(({ key }) => !wanted.has(key));
    const dropped = idle.slice(0, Math.max(0, idle.length - IDLE_MAPS));
    for (const { key } of dropped) this.entries.delete(key);
    return dropped;
  }

  /** Stops what is wanted and not finished; changing a setting, or `resume`, goes on. */
  stop(): void {
    for (const key of this.wanted)
      if (this.entries.get(key)?.isFine === false) this.stopped.add(key);
  }
  resume(): void {
    this.stopped.clear();
  }

  /** Whether a map is still to be measured. */
  isWanted({ key }: MapEntry): boolean {
    return this.wanted.has(key) && !this.stopped.has(key);
  }

  /** What to measure next: first looks before finished maps, and nothing before what it needs. */
  next(): MapEntry | null {
    const open = [...this.wanted].flatMap((key) => {
      const entry = this.entries.get(key);
      return entry && !entry.isFine && this.isWanted(entry) && this.isReady(entry) ? [entry] : [];
    });
    return open.find(({ map }) => map === null) ?? open[0] ?? null;
  }

  private isReady({ needs }: MapEntry): boolean {
    return needs.every((each) => this.entries.get(each)?.isFine ?? true);
  }
}
