import { AppError } from '../core/base/diagnostic';
import { fitStrip } from '../core/edit/ramp-strip';
import type { StripColumn } from '../core/edit/ramp-strip';
import { IMAGE_LIMITS } from '../core/exchange/image-types';
import type { DecodedImage } from '../core/exchange/image-types';
import { assertImage } from '../core/exchange/images';
import { decodeSrgb } from '../core/surface/colour-science';
import { decodeApart } from '../workers/decode-apart';
import { aboutFile } from './upload';

/** Columns that a strip is read by: more than a ramp has stops, fewer than an image may have. */
const MOST_COLUMNS = 1024;

/** The colours along the longer side of an image, read at its middle. */
function columnsOf({ width, height, pixels, top }: DecodedImage): readonly StripColumn[] {
  const [long, isWide] = [Math.max(width, height), width >= height];
  const count = Math.min(MOST_COLUMNS, long);
  return Array.from({ length: count }, (_, k) => {
    const along = Math.round((k / Math.max(1, count - 1)) * (long - 1));
    const [x, y] = isWide ? [along, height >> 1] : [width >> 1, along];
    const at = (y * width + x) * 4;
    const channel = (c: number): number => (pixels[at + c] ?? 0) / (top || 1);
    const linear = (c: number): number => (top === 0 ? channel(c) : decodeSrgb(channel(c)));
    return { colour: [linear(0), linear(1), linear(2)], alpha: channel(3) };
  });
}

/**
 * Fits a ramp to a strip image: read along its longer side, from the left or from the top.
 * @throws AppError where the file is no image or has a single pixel
 */
export async function readStripImage(file: File): Promise<ReturnType<typeof fitStrip>> {
  try {
    if (file.size > IMAGE_LIMITS.bytes)
      throw new AppError('image.too-large', 'It is larger than 64 MB.', 'Reduce it first.');
    const bytes = new Uint8Array(await file.arrayBuffer());
    assertImage(bytes);
    const columns = columnsOf(await decodeApart(bytes));
    if (columns.length < 2)
      throw new AppError(
        'ramp.strip-too-small',
        'It has a single pixel; a ramp needs at least two.',
        'Choose an image in which the ramp runs from left to right or from top to bottom.',
      );
    return fitStrip(columns);
  } catch (error) {
    throw aboutFile(file, error);
  }
}
