import { AppError } from '../base/diagnostic';
import type { MeshAttribute } from '../mesh/surface-mesh';

/** The largest model that is read: bytes of the file, triangles. */
export const MODEL_LIMITS = { bytes: 100 * 1024 * 1024, triangles: 5_000_000 } as const;
/** What was kept when a model is refused. */
export const UNCHANGED = 'Nothing was changed.';
/** What to do when a model is refused. */
export const EXPORT_AGAIN =
  'Export the model again as binary glTF 2.0 (.glb) or OBJ, then upload that.';

/**
 * What a model file says, in one piece: metres (or the file's unit), Y up, nothing corrected yet.
 */
export interface ModelSoup {
  readonly positions: Float32Array<ArrayBuffer>;
  readonly normals: Float32Array<ArrayBuffer> | null;
  readonly uvs: Float32Array<ArrayBuffer> | null;
  readonly attributes: readonly MeshAttribute[];
  readonly indices: Uint32Array<ArrayBuffer>;
  /** Per triangle. */
  readonly parts: Uint32Array<ArrayBuffer>;
  readonly partNames: readonly string[];
  /** What was left out while reading, in sentences. */
  readonly notes: readonly string[];
}

/** An error about a model file, with what was kept and what to do. */
export const fail = (code: string, message: string, status = 400, cause?: unknown): AppError =>
  new AppError(`model.${code}`, message, EXPORT_AGAIN, { status, cause, kept: UNCHANGED });

/** Refuses a model with more triangles than the limit. @throws AppError */
export function assertTriangles(total: number): void {
  if (total > MODEL_LIMITS.triangles) {
    throw new AppError(
      'model.too-many-triangles',
      `The model has ${total.toLocaleString('en')} triangles; the limit is 5,000,000.`,
      'Reduce the model and bring it in again.',
      { kept: 'Nothing was changed.', status: 413 },
    );
  }
}

/** Coordinates beyond this are taken for damage. */
const FARTHEST = 1e12;

/** Throws when a coordinate is not a number, or absurd. */
export function assertFinite(
  positions: Float32Array,
  from: number,
  until: number,
  part: string,
): void {
  for (let k = from; k < until; k++) {
    const value = positions[k] as number;
    if (!(Math.abs(value) <= FARTHEST))
      throw fail(
        'not-finite',
        `Vertex ${String(Math.floor((k - from) / 3))} of “${part}” has a coordinate that ` +
          'is not a usable number.',
      );
  }
}

/** Names told apart: a second “bolt” becomes “bolt 2”. */
export function distinctNames(names: readonly string[]): readonly string[] {
  const taken = new Map<string, number>();
  return names.map((name) => {
    const times = (taken.get(name) ?? 0) + 1;
    taken.set(name, times);
    return times === 1 ? name : `${name} ${String(times)}`;
  });
}

/**
 * Leaves out triangles whose corners coincide, as `placed` tells; the rest is untouched. Both
 * arrays may be written to.
 */
export function dropCollapsed(
  indices: Uint32Array<ArrayBuffer>,
  parts: Uint32Array<ArrayBuffer>,
  placed: Uint32Array = indices,
): { indices: Uint32Array<ArrayBuffer>; parts: Uint32Array<ArrayBuffer>; dropped: number } {
  let kept = 0;
  for (let t = 0; t < parts.length; t++) {
    if (
      placed[t * 3] === placed[t * 3 + 1] ||
      placed[t * 3 + 1] === placed[t * 3 + 2] ||
      placed[t * 3 + 2] === placed[t * 3]
    )
      continue;
    const a = indices[t * 3] as number,
      b = indices[t * 3 + 1] as number,
      c = indices[t * 3 + 2] as number;
    indices[kept * 3] = a;
    indices[kept * 3 + 1] = b;
    indices[kept * 3 + 2] = c;
    parts[kept] = parts[t] as number;
    kept++;
  }
  const dropped = parts.length - kept;
  return dropped === 0
    ? { indices, parts, dropped }
    : { indices: indices.slice(0, kept * 3), parts: parts.slice(0, kept), dropped };
}
