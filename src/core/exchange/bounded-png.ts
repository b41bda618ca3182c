import { Inflate } from 'pako';
import { assertSize, broken } from './image-types';
import { makeChunk } from './png-strips';

const SIGNATURE = 8;
const COLOUR_CHANNELS: Readonly<Record<number, number>> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 };
/** Deflate makes at most so much of a byte. Source: zlib, technical details (1032 : 1). */
const DEFLATE_RATIO = 1040;
/**
 * First column and row, and steps, of the seven passes of an interlaced image. Source: PNG, third
 * edition, §8.
 */
const PASSES = [
  [0, 0, 8, 8],
  [4, 0, 8, 8],
  [0, 4, 4, 8],
  [2, 0, 4, 4],
  [0, 2, 2, 4],
  [1, 0, 2, 2],
  [0, 1, 1, 2],
] as const;

interface Chunk {
  readonly type: string;
  readonly data: Uint8Array;
}

/** The chunks of a PNG, no further than the file reaches. */
function* chunksOf(bytes: Uint8Array): Generator<Chunk> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let at = SIGNATURE; at + 12 <= bytes.length;) {
    const length = view.getUint32(at);
    if (at + 12 + length > bytes.length)
      throw broken('The PNG image cannot be read: it is cut off.');
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    yield { type, data: bytes.subarray(at + 8, at + 8 + length) };
    if (type === 'IEND') return;
    at += 12 + length;
  }
  throw broken('The PNG image cannot be read: it is cut off.');
}

/** Bytes of its rows, each behind its filter byte, as its header states them. */
function statedBytes(header: Uint8Array): number {
  const view = new DataView(header.buffer, header.byteOffset, header.byteLength);
  if (header.length !== 13) throw broken('The PNG image cannot be read: its header is damaged.');
  const [width, height] = [view.getUint32(0), view.getUint32(4)];
  const [depth, colour, , , interlaced] = header.subarray(8) as unknown as number[];
  assertSize(width, height);
  const channels = COLOUR_CHANNELS[colour ?? -1];
  if (channels === undefined || ![1, 2, 4, 8, 16].includes(depth ?? 0)) {
    throw broken('The PNG image cannot be read: its kind of pixels is unknown.');
  }
  const rows = (w: number, h: number): number =>
    w > 0 && h > 0 ? h * (1 + Math.ceil((w * channels * (depth ?? 8)) / 8)) : 0;
  if (interlaced !== 1) return rows(width, height);
  const sizes = PASSES.map(([x, y, dx, dy]) =>
    rows(Math.ceil((width - x) / dx), Math.ceil((height - y) / dy)),
  );
  return sizes.reduce((sum, size) => sum + size, 0);
}

/**
 * Refuses a PNG whose header is damaged, or states a size that its data cannot hold. @throws
 * AppError
 */
export function checkPngHeader(bytes: Uint8Array): void {
  let stated: number | null = null;
  let packed = 0;
  for (const { type, data } of chunksOf(bytes)) {
    if (type === 'IHDR') stated = statedBytes(data);
    if (type === 'IDAT') packed += data.length;
  }
  assertHolds(packed, stated ?? statedBytes(new Uint8Array()));
}

function assertHolds(packed: number, stated: number): void {
  if (packed * DEFLATE_RATIO < stated) {
    throw broken('The PNG image cannot be read: it holds far less than the size it states.');
  }
}

/** What its data unpacks to, no more than so many bytes: whatever comes beyond is not unpacked. */
function inflateWithin(parts: readonly Uint8Array[], most: number): Uint8Array<ArrayBuffer> {
  const packed = parts.reduce((sum, part) => sum + part.length, 0);
  assertHolds(packed, most);
  const rows = new Uint8Array(most);
  let filled = 0;
  const inflate = new Inflate({ chunkSize: 65536 });
  inflate.onData = (chunk: Uint8Array): void => {
    rows.set(chunk.subarray(0, Math.min(chunk.length, most - filled)), filled);
    filled += Math.min(chunk.length, most - filled);
  };
  for (const part of parts) {
    // In small pieces, as a piece is unpacked whole before anybody can stop it.
    for (let at = 0; at < part.length && filled < most && !inflate.err; at += 4096) {
      inflate.push(part.subarray(at, at + 4096), false);
    }
  }
  if (filled < most) throw broken('The PNG image cannot be read: its data ends too early.');
  return rows;
}

/**
 * Bytes in zlib's form without compressing them (RFC 1950, RFC 1951 §3.2.4); the check sum is left
 * out.
 */
function storedZlib(bytes: Uint8Array): Uint8Array<ArrayBuffer> {
  const blocks = Math.max(1, Math.ceil(bytes.length / 65535));
  const made = new Uint8Array(2 + blocks * 5 + bytes.length + 4);
  made.set([0x78, 0x01]);
  let to = 2;
  for (let k = 0; k < blocks; k++) {
    const block = bytes.subarray(k * 65535, (k + 1) * 65535);
    const { length } = block;
    made.set(
      [k === blocks - 1 ? 1 : 0, length & 255, length >> 8, ~length & 255, (~length >> 8) & 255],
      to,
    );
    made.set(block, to + 5);
    to += 5 + length;
  }
  return made;
}

/**
 * The same image as a PNG that cannot surprise its reader: only the chunks that make pixels, and
 * data of just the length that its header states, not compressed. What hostile files pack beyond is
 * never unpacked.
 * @throws AppError that says what is wrong with the file
 */
export function boundedPng(bytes: Uint8Array): Uint8Array<ArrayBuffer> {
  const kept = new Map<string, Uint8Array>();
  const data: Uint8Array[] = [];
  for (const chunk of chunksOf(bytes)) {
    if (chunk.type === 'IDAT') data.push(chunk.data);
    else if (['IHDR', 'PLTE', 'tRNS'].includes(chunk.type)) kept.set(chunk.type, chunk.data);
  }
  const rows = inflateWithin(data, statedBytes(kept.get('IHDR') ?? new Uint8Array()));
  const parts = ['IHDR', 'PLTE', 'tRNS'].flatMap((type) => {
    const content = kept.get(type);
    return content ? [makeChunk(type, [content])] : [];
  });
  const all = [
    bytes.subarray(0, SIGNATURE),
    ...parts,
    makeChunk('IDAT', [storedZlib(rows)]),
    makeChunk('IEND', []),
  ];
  const made = new Uint8Array(all.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of all) {
    made.set(part, at);
    at += part.length;
  }
  return made;
}
