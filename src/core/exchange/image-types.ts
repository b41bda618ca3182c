import { AppError } from '../base/diagnostic';

/** The largest image that is read: bytes of the file, pixels a side and in all. */
export const IMAGE_LIMITS = { bytes: 64 * 1024 * 1024, side: 16384, pixels: 8192 * 8192 } as const;
/** The formats images are read in. */
export type ImageFormat = 'PNG' | 'JPEG' | 'OpenEXR' | 'Radiance HDR';

/**
 * An image as its file holds it: RGBA, rows from the top. Whole numbers are encoded, 0 to `top`;
 * floats are linear and may exceed 1.
 */
export interface DecodedImage {
  readonly format: ImageFormat;
  readonly width: number;
  readonly height: number;
  readonly pixels: Uint8Array | Uint8ClampedArray | Uint16Array | Float32Array;
  /** The number that stands for 1; 0 where pixels are floats. */
  readonly top: 255 | 65535 | 0;
}

/** A file that cannot be read, with the reason. */
export const broken = (
  why: string,
  action = 'Save the image again, as PNG, JPEG, OpenEXR or Radiance HDR.',
): AppError => new AppError('image.broken', why, action, { kept: 'Nothing was changed.' });

/** @throws AppError where the size is beyond what is read */
export function assertSize(width: number, height: number): void {
  if (!(width >= 1 && height >= 1)) throw broken('The image has no pixels.');
  const size = `${String(width)} × ${String(height)}`;
  if (width > IMAGE_LIMITS.side || height > IMAGE_LIMITS.side)
    throw new AppError(
      'image.too-large',
      `The image is ${size}; a side may have up to ${String(IMAGE_LIMITS.side)} pixels.`,
      'Reduce it first.',
      { kept: 'Nothing was changed.', status: 413 },
    );
  if (width * height > IMAGE_LIMITS.pixels)
    throw new AppError(
      'image.too-large',
      `The image is ${size}: ${((width * height) / 1e6).toFixed(0)} million pixels; the ` +
        `limit is ${(IMAGE_LIMITS.pixels / 1e6).toFixed(0)} million.`,
      'Reduce it first.',
      { kept: 'Nothing was changed.', status: 413 },
    );
}
