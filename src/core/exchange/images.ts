import { decode as decodeJpeg } from 'jpeg-js';
import { decode as decodePng } from 'fast-png';
import parseExr from 'parse-exr';
import { AppError, errorMessage } from '../base/diagnostic';
import { boundedPng, checkPngHeader } from './bounded-png';
import { readExrHeader } from './exr-header';
import { IMAGE_LIMITS, assertSize, broken } from './image-types';
import type { DecodedImage, ImageFormat } from './image-types';
import { readRadiance } from './radiance';

/** The format by the first bytes; null for anything else. */
export function findImageFormat(bytes: Uint8Array): ImageFormat | null {
  const starts = (...head: number[]): boolean => head.every((byte, k) => bytes[k] === byte);
  if (starts(0x89, 0x50, 0x4e, 0x47)) return 'PNG';
  if (starts(0xff, 0xd8, 0xff)) return 'JPEG';
  if (starts(0x76, 0x2f, 0x31, 0x01)) return 'OpenEXR';
  if (starts(0x23, 0x3f)) return 'Radiance HDR';
  return null;
}
/** The media type of each format, as IANA lists it. */
export const MEDIA_TYPES: Readonly<Record<ImageFormat, string>> = {
  PNG: 'image/png',
  JPEG: 'image/jpeg',
  OpenEXR: 'image/x-exr',
  'Radiance HDR': 'image/vnd.radiance',
};

/**
 * Refuses what is not one of the formats, or larger than the limit, by its first bytes only.
 * @throws AppError with what is wrong
 */
export function assertImage(bytes: Uint8Array): ImageFormat {
  if (bytes.length > IMAGE_LIMITS.bytes)
    throw new AppError(
      'image.too-large',
      `The image has ${String(Math.ceil(bytes.length / 1048576))} MB; the limit is ` +
        `${String(IMAGE_LIMITS.bytes / 1048576)} MB.`,
      'Reduce it or store it compressed.',
      { kept: 'Nothing was changed.', status: 413 },
    );
  const format = findImageFormat(bytes);
  if (!format) throw broken('The file is not a PNG, JPEG, OpenEXR or Radiance HDR image.');
  return format;
}

/** Width and height out of a JPEG's header; null where they are not found. */
function jpegSize(bytes: Uint8Array): readonly [number, number] | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  for (let at = 2; at + 9 < bytes.length && bytes[at] === 0xff;) {
    const marker = bytes[at + 1] as number;
    // Start of a frame; 0xc4, 0xc8 and 0xcc are other segments.
    if (marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker)) {
      return [view.getUint16(at + 7), view.getUint16(at + 5)];
    }
    at += 2 + view.getUint16(at + 2);
  }
  return null;
}

/** A block of 8 × 8 pixels takes a bit at the very least. */
const JPEG_PIXELS_PER_BYTE = 8 * 8 * 8;

function assertJpegLength(bytes: Uint8Array): void {
  const size = jpegSize(bytes);
  if (!size) throw broken('The JPEG image cannot be read: its size is not found.');
  assertSize(...size);
  if (size[0] * size[1] > bytes.length * JPEG_PIXELS_PER_BYTE) {
    throw broken('The JPEG image cannot be read: it holds far less than the size it states.');
  }
}

/**
 * Refuses what is not one of the formats, or states what its length cannot hold, by its header
 * only.
 * @throws AppError that says what is wrong with the file
 */
export function checkImageHeader(bytes: Uint8Array): ImageFormat {
  const format = assertImage(bytes);
  if (format === 'OpenEXR') readExrHeader(bytes);
  if (format === 'JPEG') assertJpegLength(bytes);
  if (format === 'PNG') checkPngHeader(bytes);
  return format;
}

/**
 * Unpacks an image. Headers are held against the file's length first, so that a file takes no more
 * memory than an honest one of its length could. Meant for workers that can be ended all the same.
 * @throws AppError that says what is wrong with the file
 */
export function decodeImage(bytes: Uint8Array): DecodedImage {
  const format = assertImage(bytes);
  try {
    switch (format) {
      case 'PNG':
        return fromPng(bytes);
      case 'JPEG': {
        assertJpegLength(bytes);
        const { width, height, data } = decodeJpeg(bytes, {
          useTArray: true,
          formatAsRGBA: true,
          maxMemoryUsageInMB: 2048,
          maxResolutionInMP: Math.ceil(IMAGE_LIMITS.pixels / 1e6),
        });
        return { format, width, height, pixels: data, top: 255 };
      }
      case 'OpenEXR':
        return fromExr(bytes);
      case 'Radiance HDR':
        return readRadiance(bytes);
    }
  } catch (cause) {
    if (cause instanceof AppError) throw cause;
    throw broken(`The ${format} image cannot be read: ${errorMessage(cause)}.`);
  }
}

function fromPng(bytes: Uint8Array): DecodedImage {
  const { width, height, data, channels, depth, palette, transparency } = decodePng(
    boundedPng(bytes),
  );
  const count = width * height;
  if (palette)
    return {
      format: 'PNG',
      width,
      height,
      pixels: unpackPalette(data as Uint8Array, palette, count, width, depth),
      top: 255,
    };
  if (depth < 8)
    return {
      format: 'PNG',
      width,
      height,
      pixels: unpackBits(data as Uint8Array, width, height, depth),
      top: 255,
    };
  const top = depth === 16 ? 65535 : 255;
  const pixels = depth === 16 ? new Uint16Array(count * 4) : new Uint8Array(count * 4);
  const isGrey = channels < 3,
    hasAlpha = channels === 2 || channels === 4;
  // A PNG without alpha may name one colour that is clear.
  const clear =
    !hasAlpha && transparency && transparency.length > 0 ? Array.from(transparency) : null;
  for (let k = 0; k < count; k++) {
    const from = k * channels;
    for (let c = 0; c < 3; c++) pixels[k * 4 + c] = data[from + (isGrey ? 0 : c)] as number;
    const isClear = clear?.every((value, c) => data[from + c] === value) ?? false;
    pixels[k * 4 + 3] = hasAlpha ? (data[from + channels - 1] as number) : isClear ? 0 : top;
  }
  return { format: 'PNG', width, height, pixels, top };
}

function unpackPalette(
  data: Uint8Array,
  palette: readonly number[][],
  count: number,
  width: number,
  depth: number,
): Uint8Array {
  const pixels = new Uint8Array(count * 4);
  const indices = depth < 8 ? unpackSmall(data, width, count / width, depth) : data;
  for (let k = 0; k < count; k++) {
    const [red = 0, green = 0, blue = 0, alpha = 255] = palette[indices[k] as number] ?? [];
    pixels.set([red, green, blue, alpha], k * 4);
  }
  return pixels;
}

/** Samples of 1, 2 or 4 bits, packed from the left, each row beginning with a byte of its own. */
function unpackSmall(data: Uint8Array, width: number, height: number, depth: number): Uint8Array {
  const values = new Uint8Array(width * height);
  const rowBytes = Math.ceil((width * depth) / 8);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const bit = x * depth;
      values[y * width + x] =
        ((data[y * rowBytes + (bit >> 3)] as number) >> (8 - depth - (bit & 7))) &
        ((1 << depth) - 1);
    }
  return values;
}

function unpackBits(data: Uint8Array, width: number, height: number, depth: number): Uint8Array {
  const pixels = new Uint8Array(width * height * 4);
  const scale = 255 / ((1 << depth) - 1);
  unpackSmall(data, width, height, depth).forEach((value, k) => {
    pixels.fill(value * scale, k * 4, k * 4 + 3);
    pixels[k * 4 + 3] = 255;
  });
  return pixels;
}

/** The reader tells the console of every attribute it does not know. */
function quietly<T>(work: () => T): T {
  const { warn, error } = console;
  console.warn = console.error = () => undefined;
  try {
    return work();
  } finally {
    Object.assign(console, { warn, error });
  }
}

const FLOAT_TYPE = 1015,
  SINGLE_CHANNEL = 1028;
function fromExr(bytes: Uint8Array): DecodedImage {
  readExrHeader(bytes);
  // Zeros behind the end: the reader looks for the end of texts without looking at the end of the
  // file.
  const copy = new Uint8Array(bytes.length + 256);
  copy.set(bytes);
  const { width, height, data, format } = quietly(() => parseExr(copy.buffer, FLOAT_TYPE));
  assertSize(width, height);
  const channels = format === SINGLE_CHANNEL ? 1 : 4;
  const pixels = new Float32Array(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      // The reader gives rows from the bottom.
      const from = ((height - 1 - y) * width + x) * channels,
        to = (y * width + x) * 4;
      for (let c = 0; c < 3; c++) pixels[to + c] = data[from + (channels === 1 ? 0 : c)] as number;
      pixels[to + 3] = channels === 1 ? 1 : (data[from + 3] as number);
    }
  return { format: 'OpenEXR', width, height, pixels, top: 0 };
}
