import { MAP_CHUNK, MAP_SIZE, mapTitle } from '../core/mesh/analysis';
import type { MeshMap } from '../core/mesh/mesh-map';
import { isLost, unwrap } from '../workers/answer';
import type { RemoteWorker } from '../workers/pool';
import type { EditorParts } from './editor-parts';
import type { MapEntry } from './map-schedule';

/** Between two pictures of a map that is being measured, milliseconds. */
const REFINE_EVERY = 700;
/** Drawing a larger model again and again would take longer than measuring it. */
const REFINED_TRIANGLES = 300_000;

/** A part of a map still to be measured. */
interface Piece {
  readonly first: number;
  readonly count: number;
}

function piecesOf(total: number): Piece[] {
  const pieces: Piece[] = [];
  for (let first = 0; first < total; first += MAP_CHUNK)
    pieces.push({ first, count: Math.min(MAP_CHUNK, total - first) });
  return pieces.reverse();
}

interface Measuring {
  readonly entry: MapEntry;
  readonly triangles: number;
  readonly isWanted: () => boolean;
  /** Gives every worker the map as it is by now. */
  readonly publish: (map: MeshMap) => Promise<void>;
}

/** Has maps measured by the workers of a pool; a worker that ends only costs its share. */
export class MapMeasurer {
  /** For tests and benchmarks. */
  readonly counts = { measured: 0, refined: 0 };

  constructor(private readonly parts: Pick<EditorParts, 'pool' | 'clock' | 'stores'>) {}

  texelCount({ model }: MapEntry): Promise<number> {
    const { pool } = this.parts;
    const worker = pool.backgrounds[0] ?? pool.evaluator;
    return unwrap(worker.texelCount(model, MAP_SIZE.fine));
  }

  assemble({ model }: MapEntry, values: Float32Array): Promise<MeshMap> {
    return unwrap(this.parts.pool.background.assemble(model, MAP_SIZE.fine, values));
  }

  private say({ settings }: MapEntry, step: string, share: number): void {
    const label = `Measuring ${mapTitle(settings)}${step}`;
    this.parts.stores.measuring.setState({ progress: { label, share } });
  }

  /** The first look at a map: small, and there at once. */
  measureQuickly(entry: MapEntry): Promise<MeshMap> {
    this.say(entry, ': first look', 0);
    const { model, settings, detail } = entry;
    return unwrap(this.parts.pool.background.quickMap(model, settings, MAP_SIZE.quick, detail));
  }

  /** @returns the finished values; null when nobody wants them any more */
  async measureFinely(task: Measuring): Promise<Float32Array<ArrayBuffer> | null> {
    const { entry } = task;
    const { pool } = this.parts;
    const total = await this.texelCount(entry);
    const values = entry.map
      ? await unwrap(pool.background.texelsFrom(entry.model, entry.map, MAP_SIZE.fine))
      : new Float32Array(total);
    const pieces = piecesOf(total);
    const shown = this.refining(task, values);
    let done = 0;
    const measure = async (worker: RemoteWorker): Promise<void> => {
      for (let piece = pieces.pop(); piece && task.isWanted(); piece = pieces.pop()) {
        try {
          values.set(await this.measurePiece(worker, entry, piece), piece.first);
        } catch (error) {
          // Another worker takes the piece.
          pieces.push(piece);
          throw error;
        }
        done += piece.count;
        this.say(entry, '', done / total);
        if (done < total) shown.show();
      }
    };
    const ends = await Promise.allSettled(pool.backgrounds.map((worker) => measure(worker)));
    await shown.ended();
    for (const end of ends) if (end.status === 'rejected' && !isLost(end.reason)) throw end.reason;
    while (done < total && task.isWanted()) await measure(pool.evaluator);
    await shown.ended();
    if (done < total) return null;
    this.counts.measured++;
    return values;
  }

  private measurePiece(
    worker: RemoteWorker,
    { model, settings, detail }: MapEntry,
    { first, count }: Piece,
  ): Promise<Float32Array<ArrayBuffer>> {
    const size = MAP_SIZE.fine;
    return unwrap(worker.measureTexels(model, settings, size, first, count, detail));
  }

  /**
   * Shows a map while it is measured, now and then: what is not measured yet is as in the first
   * look.
   */
  private refining({ entry, triangles, publish }: Measuring, values: Float32Array<ArrayBuffer>) {
    const { clock, pool } = this.parts;
    const pause = triangles > REFINED_TRIANGLES ? Infinity : REFINE_EVERY;
    let last = clock.now();
    let showing: Promise<void> | null = null;
    const once = async (): Promise<void> => {
      try {
        const { evaluator } = pool;
        const so = values.slice();
        await publish(await unwrap(evaluator.assemble(entry.model, MAP_SIZE.fine, so)));
        this.counts.refined++;
      } catch (error) {
        // The next time, or the finished map, makes up for it.
        if (!isLost(error)) throw error;
      } finally {
        last = clock.now();
        showing = null;
      }
    };
    return {
      show: (): void => {
        if (!showing && clock.now() - last > pause) showing = once();
      },
      ended: async (): Promise<void> => {
        await showing;
      },
    };
  }
}
