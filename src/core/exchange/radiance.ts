import type { AppError } from '../base/diagnostic';
import { assertSize, broken as brokenImage } from './image-types';
import type { DecodedImage } from './image-types';

const broken = (why: string): AppError =>
  brokenImage(`The Radiance HDR image cannot be read: ${why}.`);

/**
 * Reads a Radiance picture (RGBE, run-length encoded or flat, rows from the top or the bottom).
 * Source: G. Ward, Real Pixels, Graphics Gems II, 1991, and the file format of the RADIANCE manual.
 * @throws AppError where the file breaks off or contradicts itself
 */
export function readRadiance(bytes: Uint8Array): DecodedImage {
  const lines: string[] = [];
  let at = 0;
  while (at < bytes.length && lines.length < 200) {
    const end = bytes.indexOf(0x0a, at);
    if (end < 0) break;
    const line = new TextDecoder('latin1').decode(bytes.subarray(at, end)).trim();
    at = end + 1;
    lines.push(line);
    if (/^[+-][XY] \d+ [+-][XY] \d+$/.test(line)) break;
  }
  const match = /^([+-])Y (\d+) \+X (\d+)$/.exec(lines.at(-1) ?? '');
  if (!match) throw broken('it does not say its size in a way that is supported (rows first)');
  if (lines.some((line) => line.startsWith('FORMAT=') && line !== 'FORMAT=32-bit_rle_rgbe'))
    throw broken('its colours are not RGBE');
  const [height, width] = [Number(match[2]), Number(match[3])];
  assertSize(width, height);
  if (bytes.length - at < height * leastRow(width))
    throw broken('it holds far less than the size it states');
  const pixels = new Float32Array(width * height * 4);
  const row = new Uint8Array(width * 4);
  for (let y = 0; y < height; y++) {
    at = readRow(bytes, at, row, width);
    const to = (match[1] === '-' ? y : height - 1 - y) * width * 4;
    for (let x = 0; x < width; x++) {
      const exponent = row[x * 4 + 3] as number;
      const scale = exponent > 0 ? 2 ** (exponent - 136) : 0;
      for (let c = 0; c < 3; c++)
        pixels[to + x * 4 + c] = exponent > 0 ? ((row[x * 4 + c] as number) + 0.5) * scale : 0;
      pixels[to + x * 4 + 3] = 1;
    }
  }
  return { format: 'Radiance HDR', width, height, pixels, top: 0 };
}

/** Bytes that a row takes at the least: a run of 127 takes two for each channel. */
const leastRow = (width: number): number => Math.min(width * 4, 4 + 8 * Math.ceil(width / 127));

/** Fills one row of RGBE, one byte for each channel in turn; gives back where the next begins. */
function readRow(bytes: Uint8Array, start: number, row: Uint8Array, width: number): number {
  let at = start;
  const next = (): number => {
    if (at >= bytes.length) throw broken('it ends too early');
    return bytes[at++] as number;
  };
  const isPacked =
    width >= 8 &&
    width <= 32767 &&
    bytes[at] === 2 &&
    bytes[at + 1] === 2 &&
    (((bytes[at + 2] as number) << 8) | (bytes[at + 3] as number)) === width;
  if (!isPacked) {
    for (let k = 0; k < width * 4; k++) row[k] = next();
    return at;
  }
  at += 4;
  for (let c = 0; c < 4; c++)
    for (let x = 0; x < width;) {
      const count = next();
      const isRun = count > 128;
      const length = isRun ? count - 128 : count;
      if (length === 0 || x + length > width)
        throw broken('a row is longer than the image is wide');
      const value = isRun ? next() : 0;
      for (let k = 0; k < length; k++) row[(x + k) * 4 + c] = isRun ? value : next();
      x += length;
    }
  return at;
}
