import { createHash } from 'node:crypto';
import { compileNetwork } from '@/core/compile/compile';
import type { NetworkDocument } from '@/core/graph/document';
import { evaluateWasm } from '../support/agreement';

/*
 * How stored documents are evaluated. What stands in the files was made by this: the points, their
 * order and the way they are hashed may never change.
 */

export const POINTS = 4096;

/** Numbers from 0 to 1 that depend on a name alone, by mulberry32 from an FNV-1a hash of it. */
function numbersOf(name: string): () => number {
  let state = 0x811c9dc5;
  for (let k = 0; k < name.length; k++)
    state = Math.imul(state ^ name.charCodeAt(k), 0x01000193) >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** What a program reads at the points: maps and sizes from 0 to 1, all else from −1 to 1. */
function lane(name: string): Float32Array {
  const next = numbersOf(name);
  const isShare = name.startsWith('map:') || name === 'footprint' || /^uv\.[xy]$/.test(name);
  return Float32Array.from({ length: POINTS }, () => (isShare ? next() : next() * 2 - 1));
}

/** SHA-256 of the bits of a lane; not-a-number is one value, whatever its bits are. */
function hashOf(lanes: readonly Float32Array[]): string {
  const hash = createHash('sha256');
  for (const values of lanes) {
    const bits = new Uint32Array(values.buffer, values.byteOffset, values.length).slice();
    values.forEach((value, k) => {
      if (Number.isNaN(value)) bits[k] = 0x7fc00000;
    });
    hash.update(new Uint8Array(bits.buffer));
  }
  return hash.digest('hex');
}

/** The hash of every result of a document, by its key. */
export function hashResults(document: NetworkDocument): Record<string, string> {
  const compiled = compileNetwork(document, { surface: true, taps: 'all' });
  const lanes = new Map<string, Float32Array>();
  const read = (name: string): Float32Array => {
    const known = lanes.get(name) ?? lane(name);
    lanes.set(name, known);
    return known;
  };
  const { wasm } = evaluateWasm(compiled, document, read, POINTS);
  return Object.fromEntries(
    compiled.slots.map((slot) => [
      slot.key,
      hashOf(wasm.slice(slot.first, slot.first + slot.lanes)),
    ]),
  );
}

/** A stored document or release, and what its results were when it was stored. */
export interface StoredFile {
  readonly name: string;
  /** A document as it was saved. */
  readonly document?: unknown;
  /** The groups of a release, and the version of the document they came from. */
  readonly release?: {
    readonly documentVersion: number;
    readonly root: string;
    readonly definitions: unknown;
  };
  readonly values: Readonly<Record<string, string>>;
}
