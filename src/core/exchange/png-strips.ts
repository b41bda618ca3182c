import { Deflate } from 'pako';

/** What a PNG holds: greyscale, RGB or RGBA, 8 or 16 bits a channel. */
export interface PngLayout {
  readonly width: number;
  readonly height: number;
  readonly channels: 1 | 3 | 4;
  readonly depth: 8 | 16;
  /**
   * What its numbers mean to readers that honour it: colours for the eye, or quantities as they
   * are.
   */
  readonly meaning: 'sRGB' | 'linear';
}
/**
 * Some rows of a PNG, compressed on their own: a finished IDAT chunk, and what is needed to check
 * the whole.
 */
export interface PngStrip {
  readonly chunk: Uint8Array<ArrayBuffer>;
  readonly adler: number;
  readonly length: number;
}

const SYNC_FLUSH = 2,
  FINISH = 4;
/** Little is gained above it on grainy maps, and it costs three times as long. */
const LEVEL = 3;
const COLOUR_TYPES = { 1: 0, 3: 2, 4: 6 } as const;
const SUB = 1;
const ADLER = 65521;

const CRC_TABLE = Uint32Array.from({ length: 256 }, (_, n) => {
  let c = n;
  for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
  return c;
});

/** CRC-32 of a PNG chunk's type and data (PNG, third edition, annex D). */
function crc32(bytes: Uint8Array): number {
  let c = 0xffffffff;
  for (let k = 0; k < bytes.length; k++)
    c = (CRC_TABLE[(c ^ (bytes[k] as number)) & 255] as number) ^ (c >>> 8);
  return (c ^ 0xffffffff) >>> 0;
}

/** Adler-32 (RFC 1950). */
function adler32(bytes: Uint8Array): number {
  let a = 1,
    b = 0;
  for (let at = 0; at < bytes.length;) {
    const until = Math.min(bytes.length, at + 5552);
    for (; at < until; at++) {
      a += bytes[at] as number;
      b += a;
    }
    a %= ADLER;
    b %= ADLER;
  }
  return ((b << 16) | a) >>> 0;
}

/**
 * The Adler-32 of two stretches of bytes, from those of each: b counts every byte of the first once
 * more for each byte of the second.
 */
function joinAdler(first: number, second: number, secondLength: number): number {
  const a = ((first & 65535) + (second & 65535) - 1 + ADLER) % ADLER;
  const b =
    ((first >>> 16) + (second >>> 16) + (secondLength % ADLER) * ((first & 65535) - 1 + ADLER)) %
    ADLER;
  return ((b << 16) | a) >>> 0;
}

/** A PNG chunk: length, type, data and check sum. */
export function makeChunk(type: string, parts: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const length = parts.reduce((sum, part) => sum + part.length, 0);
  const chunk = new Uint8Array(length + 12);
  const view = new DataView(chunk.buffer);
  view.setUint32(0, length);
  for (let k = 0; k < 4; k++) chunk[4 + k] = type.charCodeAt(k);
  let at = 8;
  for (const part of parts) {
    chunk.set(part, at);
    at += part.length;
  }
  view.setUint32(at, crc32(chunk.subarray(4, at)));
  return chunk;
}

/**
 * Values 0–1 as PNG rows: big-endian, each row behind its filter byte, each byte less the one a
 * pixel to its left.
 */
function filteredRows(layout: PngLayout, values: Float32Array): Uint8Array<ArrayBuffer> {
  const perRow = layout.width * layout.channels;
  const row = (perRow * layout.depth) / 8 + 1;
  const raw = new Uint8Array((values.length / perRow) * row);
  for (let from = 0, start = 0; from < values.length; from += perRow, start += row) {
    raw[start] = SUB;
    if (layout.depth === 8) filterBytes(values, from, perRow, layout.channels, raw, start + 1);
    else filterWords(values, from, perRow, layout.channels, raw, start + 1);
  }
  return raw;
}

function filterBytes(
  values: Float32Array,
  from: number,
  count: number,
  channels: number,
  raw: Uint8Array,
  start: number,
): void {
  for (let k = 0; k < count; k++) {
    const left = k < channels ? 0 : ((values[from + k - channels] as number) * 255 + 0.5) | 0;
    raw[start + k] = (((values[from + k] as number) * 255 + 0.5) | 0) - left;
  }
}

function filterWords(
  values: Float32Array,
  from: number,
  count: number,
  channels: number,
  raw: Uint8Array,
  start: number,
): void {
  for (let k = 0; k < count; k++) {
    const word = ((values[from + k] as number) * 65535 + 0.5) | 0;
    const left = k < channels ? 0 : ((values[from + k - channels] as number) * 65535 + 0.5) | 0;
    raw[start + k * 2] = (word >>> 8) - (left >>> 8);
    raw[start + k * 2 + 1] = word - left;
  }
}

/**
 * Compresses some rows of a PNG. Strips may be packed in any order and by different workers: each
 * ends on a byte, so that their streams stand one after another (RFC 1951, stored block of length
 * 0).
 * @param values row by row from the top, 0–1, `channels` for each pixel
 * @param place whether these are the first rows of the picture, and whether they are the last
 */
export function packRows(
  layout: PngLayout,
  values: Float32Array,
  place: { readonly isFirst: boolean; readonly isLast: boolean },
): PngStrip {
  const raw = filteredRows(layout, values);
  const parts: Uint8Array[] = place.isFirst ? [Uint8Array.of(0x78, 0x5e)] : [];
  const deflate = new Deflate({ level: LEVEL, raw: true });
  deflate.onData = (part) => {
    parts.push(part);
  };
  deflate.push(raw, place.isLast ? FINISH : SYNC_FLUSH);
  return { chunk: makeChunk('IDAT', parts), adler: adler32(raw), length: raw.length };
}

/**
 * Rec. 709's white and primaries, x and y, times 100,000. Source: PNG, third edition, §11.3.2
 * (gAMA, cHRM, sRGB).
 */
const REC_709 = [31270, 32900, 64000, 33000, 30000, 60000, 15000, 6000];

/**
 * Says what the numbers mean. Without it readers that honour PNG take linear quantities for sRGB.
 */
function colourSpace(meaning: PngLayout['meaning']): Uint8Array[] {
  const words = (values: readonly number[]): Uint8Array => {
    const bytes = new Uint8Array(values.length * 4);
    values.forEach((value, k) => {
      new DataView(bytes.buffer).setUint32(k * 4, value);
    });
    return bytes;
  };
  // For readers that know no sRGB chunk the same stands beside it, as the standard asks.
  const gamma = (value: number): Uint8Array => makeChunk('gAMA', [words([value])]);
  const primaries = makeChunk('cHRM', [words(REC_709)]);
  return meaning === 'linear'
    ? [gamma(100_000), primaries]
    : [makeChunk('sRGB', [Uint8Array.of(0)]), gamma(45_455), primaries];
}

/** A whole PNG from its strips, in order from the top. */
export function joinStrips(
  { width, height, channels, depth, meaning }: PngLayout,
  strips: readonly PngStrip[],
): Uint8Array<ArrayBuffer> {
  const header = new Uint8Array(13);
  const view = new DataView(header.buffer);
  view.setUint32(0, width);
  view.setUint32(4, height);
  header.set([depth, COLOUR_TYPES[channels], 0, 0, 0], 8);
  const check = new Uint8Array(4);
  new DataView(check.buffer).setUint32(
    0,
    strips.reduce((sum, strip) => joinAdler(sum, strip.adler, strip.length), 1),
  );
  const parts = [
    Uint8Array.of(137, 80, 78, 71, 13, 10, 26, 10),
    makeChunk('IHDR', [header]),
    ...colourSpace(meaning),
    ...strips.map((strip) => strip.chunk),
    makeChunk('IDAT', [check]),
    makeChunk('IEND', []),
  ];
  const file = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    file.set(part, at);
    at += part.length;
  }
  return file;
}
