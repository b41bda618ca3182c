import { encode } from 'fast-png';

/** RGBA bytes as a PNG. */
export function encodeRgba(
  width: number,
  height: number,
  pixels: Uint8Array | Uint8ClampedArray,
): Uint8Array<ArrayBuffer> {
  return new Uint8Array(
    encode({
      width,
      height,
      channels: 4,
      depth: 8,
      data: new Uint8Array(pixels.buffer as ArrayBuffer, pixels.byteOffset, pixels.length),
    }),
  );
}
