/** Files made wrong in many ways, the same at every run. */
import { seededRandom } from '@/core/base/random';

type Random = () => number;
const below = (random: Random, count: number): number => Math.floor(random() * count);
/** Bytes and words that break readers most often. */
const AWKWARD = [0, 1, 0x7f, 0x80, 0xff];
const AWKWARD_WORDS = [0, 1, 0xff, 0xffff, 0x7fffffff, 0x80000000, 0xffffffff];

const MUTATIONS: readonly ((bytes: Uint8Array, random: Random) => Uint8Array)[] = [
  // A few bytes anywhere.
  (bytes, random) => {
    const made = bytes.slice();
    for (let k = below(random, 8) + 1; k > 0; k--)
      made[below(random, made.length)] = below(random, 256);
    return made;
  },
  // A few bytes near the front, where headers are.
  (bytes, random) => {
    const made = bytes.slice();
    const front = Math.min(made.length, 400);
    for (let k = below(random, 4) + 1; k > 0; k--) {
      made[below(random, front)] = AWKWARD[below(random, AWKWARD.length)] ?? 0;
    }
    return made;
  },
  // A word near the front, in either order of bytes.
  (bytes, random) => {
    const made = bytes.slice();
    const view = new DataView(made.buffer);
    const at = below(random, Math.max(1, Math.min(made.length, 600) - 4));
    if (made.length >= 4)
      view.setUint32(at, AWKWARD_WORDS[below(random, AWKWARD_WORDS.length)] ?? 0, random() < 0.5);
    return made;
  },
  // Cut off.
  (bytes, random) => bytes.slice(0, below(random, bytes.length)),
  // A piece repeated.
  (bytes, random) => {
    const [from, length] = [below(random, bytes.length), below(random, 200)];
    const piece = bytes.subarray(from, from + length);
    return Uint8Array.from([...bytes.subarray(0, from), ...piece, ...bytes.subarray(from)]);
  },
  // A piece left out.
  (bytes, random) => {
    const [from, length] = [below(random, bytes.length), below(random, 200)];
    return Uint8Array.from([...bytes.subarray(0, from), ...bytes.subarray(from + length)]);
  },
];

/** A file made wrong; equal seeds make equal files. */
export function mutate(bytes: Uint8Array, seed: number): Uint8Array<ArrayBuffer> {
  const random = seededRandom(seed);
  const change = MUTATIONS[below(random, MUTATIONS.length)];
  return new Uint8Array(change ? change(bytes, random) : bytes);
}

const WRONG: readonly unknown[] = [
  null,
  {},
  [],
  [null],
  'x',
  -1,
  1e9,
  3.5,
  true,
  [{}],
  [[[]]],
  4294967295,
];

/** The description of a GLB with one of its values, anywhere, replaced by something wrong. */
export function mutateDescription(glb: Uint8Array, seed: number): Uint8Array<ArrayBuffer> {
  const random = seededRandom(seed);
  const view = new DataView(glb.buffer, glb.byteOffset, glb.byteLength);
  const length = view.getUint32(12, true);
  const description = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + length))) as object;
  const places: (readonly [Record<string, unknown>, string])[] = [];
  const visit = (value: unknown): void => {
    if (typeof value !== 'object' || value === null) return;
    for (const [key, member] of Object.entries(value)) {
      places.push([value as Record<string, unknown>, key]);
      visit(member);
    }
  };
  visit(description);
  const place = places[below(random, places.length)];
  if (place) place[0][place[1]] = WRONG[below(random, WRONG.length)];
  const text = new TextEncoder().encode(JSON.stringify(description));
  const padded = new Uint8Array(Math.ceil(text.length / 4) * 4).fill(32);
  padded.set(text);
  const made = new Uint8Array(20 + padded.length + glb.length - 20 - length);
  made.set(glb.subarray(0, 20));
  made.set(padded, 20);
  made.set(glb.subarray(20 + length), 20 + padded.length);
  new DataView(made.buffer).setUint32(8, made.length, true);
  new DataView(made.buffer).setUint32(12, padded.length, true);
  return made;
}
