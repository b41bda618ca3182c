import { createStore, del, get, set, update } from 'idb-keyval';
import type { UseStore } from 'idb-keyval';

/** How much the browser keeps of measured maps, bytes; the ones used longest ago go first. */
const MOST_BYTES = 192 * 1024 * 1024;
const INDEX = 'index';
interface IndexRow {
  readonly key: string;
  readonly bytes: number;
  readonly at: number;
}

let opened: UseStore | null = null;
const store = (): UseStore => (opened ??= createStore('bright-loom-maps', 'maps'));

/** By its tag: storage may give back arrays of another realm. */
const isNumbers = (value: unknown): value is Float32Array<ArrayBuffer> =>
  Object.prototype.toString.call(value) === '[object Float32Array]';

/**
 * Values of a finished mesh map that this browser measured or fetched before; null where there are
 * none, or no storage.
 */
export async function findCachedMap(key: string): Promise<Float32Array<ArrayBuffer> | null> {
  try {
    const values: unknown = await get(key, store());
    if (!isNumbers(values)) return null;
    await note(key, values.byteLength);
    return values;
  } catch {
    return null;
  }
}

/**
 * Keeps a map for the next time. Without storage, or when it is full, the map is only measured
 * again then.
 */
export async function cacheMap(key: string, values: Float32Array<ArrayBuffer>): Promise<void> {
  try {
    await set(key, values, store());
    await note(key, values.byteLength);
  } catch {
    /* nothing depends on it */
  }
}

async function note(key: string, bytes: number): Promise<void> {
  let gone: readonly IndexRow[] = [];
  await update<readonly IndexRow[]>(
    INDEX,
    (rows = []) => {
      const kept = keepNewest(
        [{ key, bytes, at: Date.now() }, ...rows.filter((row) => row.key !== key)],
        MOST_BYTES,
      );
      gone = rows.filter((row) => !kept.some((other) => other.key === row.key));
      return kept;
    },
    store(),
  );
  for (const row of gone) await del(row.key, store());
}

/** The newest rows that together stay within a number of bytes; always the first. */
export function keepNewest(rows: readonly IndexRow[], most: number): readonly IndexRow[] {
  let total = 0;
  return [...rows]
    .sort((a, b) => b.at - a.at)
    .filter((row, k) => {
      total += row.bytes;
      return k === 0 || total <= most;
    });
}
