import type { AppError } from '../base/diagnostic';
import { assertSize, broken as brokenImage } from './image-types';

const broken = (why: string): AppError => brokenImage(`The OpenEXR image cannot be read: ${why}.`);

/** The longest name, and the most attributes and channels, that are read. */
const MOST = { name: 255, attributes: 500, channels: 64 };
/** Bytes of a sample by its kind: whole number, half, float. */
const SAMPLE_BYTES = [4, 2, 4] as const;
/** Rows of a chunk by the kind of compression. Source: OpenEXR file layout, openexr.com. */
const CHUNK_ROWS = [1, 1, 1, 16, 32, 16, 32, 32, 32, 256] as const;
/**
 * Bytes of an entry by its type, where that is fixed: readers go by the type, whatever length the
 * entry states.
 */
const TYPE_BYTES: Readonly<Record<string, number>> = {
  box2i: 16,
  box2f: 16,
  chromaticities: 32,
  compression: 1,
  double: 8,
  envmap: 1,
  float: 4,
  int: 4,
  keycode: 28,
  lineOrder: 1,
  m33f: 36,
  m44f: 64,
  rational: 8,
  tiledesc: 9,
  timecode: 8,
  v2f: 8,
  v2i: 8,
  v3f: 12,
  v3i: 12,
};

/** No compression in use makes more than this of a byte. */
const MOST_RATIO = 4096;

/** What the header of an OpenEXR file says, checked against the file's length. */
export interface ExrHeader {
  readonly width: number;
  readonly height: number;
  /** Bytes of a pixel, all channels together. */
  readonly pixelBytes: number;
  /** Where the table of chunks begins. */
  readonly end: number;
}

/** Reads a file from the front and never past its end. */
class Cursor {
  private readonly view: DataView;
  constructor(
    private readonly bytes: Uint8Array,
    public at: number,
  ) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  private take(count: number): number {
    const { at } = this;
    if (at + count > this.bytes.length) throw broken('it ends inside its header');
    this.at += count;
    return at;
  }
  byte = (): number => this.view.getUint8(this.take(1));
  whole = (): number => this.view.getInt32(this.take(4), true);
  skip = (count: number): void => void this.take(count);

  /** Text up to a zero byte. */
  text(): string {
    const end = this.bytes.indexOf(0, this.at);
    if (end < 0) throw broken('it ends inside its header');
    if (end - this.at > MOST.name) throw broken('a name in its header is too long');
    const text = new TextDecoder('latin1').decode(this.bytes.subarray(this.at, end));
    this.at = end + 1;
    return text;
  }
}

/** Bytes of a pixel, from the list of channels. */
function channelBytes(cursor: Cursor): number {
  let bytes = 0;
  for (let count = 0; cursor.text() !== ''; count++) {
    if (count >= MOST.channels) throw broken('it has too many channels');
    const size = SAMPLE_BYTES[cursor.whole()];
    if (size === undefined) throw broken('a channel is of an unknown kind');
    cursor.skip(4);
    const [x, y] = [cursor.whole(), cursor.whole()];
    if (x !== 1 || y !== 1) throw broken('a channel has fewer samples than the image has pixels');
    bytes += size;
  }
  return bytes;
}

/**
 * Reads the header of an OpenEXR of one part, and holds it against the file's length before
 * anything is unpacked.
 * @throws AppError that says what is wrong with the file
 */
export function readExrHeader(bytes: Uint8Array): ExrHeader {
  const cursor = new Cursor(bytes, 4);
  const version = cursor.whole();
  if ((version & 0xff) !== 2 || (version & 0xffff_f900) !== 0) {
    throw broken('only files of one part, in lines or tiles, are read');
  }
  const found = { window: null as readonly number[] | null, pixelBytes: 0, compression: 0 };
  for (let count = 0; ; count++) {
    const name = cursor.text();
    if (name === '') break;
    if (count >= MOST.attributes) throw broken('its header has too many entries');
    const type = cursor.text();
    const size = cursor.whole();
    const { at } = cursor;
    if (size < 0 || size !== (TYPE_BYTES[type] ?? size)) throw broken('its header is damaged');
    cursor.skip(size);
    const inside = new Cursor(bytes.subarray(0, at + size), at);
    if (name === 'dataWindow') found.window = [0, 1, 2, 3].map(() => inside.whole());
    else if (name === 'channels') {
      found.pixelBytes = channelBytes(inside);
      if (inside.at !== at + size) throw broken('its list of channels is damaged');
    } else if (name === 'compression') found.compression = inside.byte();
  }
  if (!found.window || found.pixelBytes === 0) throw broken('its header is incomplete');
  const [left = 0, top = 0, right = 0, bottom = 0] = found.window;
  const [width, height] = [right - left + 1, bottom - top + 1];
  assertSize(width, height);
  const header = { width, height, pixelBytes: found.pixelBytes, end: cursor.at };
  assertLength(header, bytes.length, found.compression, (version & 0x200) !== 0);
  return header;
}

/** Refuses a file that is too short for what it states. */
function assertLength(
  header: ExrHeader,
  length: number,
  compression: number,
  isTiled: boolean,
): void {
  const { width, height, pixelBytes, end } = header;
  const rows = CHUNK_ROWS[compression];
  if (rows === undefined) throw broken('its kind of compression is unknown');
  const chunks = isTiled ? 1 : Math.ceil(height / rows);
  const least = chunks * 16 + (width * height * pixelBytes) / (compression === 0 ? 1 : MOST_RATIO);
  if (end + least > length) throw broken('it holds far less than the size it states');
}
