import { encode } from 'fast-png';
import type { BakedMap } from '../evaluate/bake';

/** A baked map as a PNG, 8 or 16 bits a channel, rows from the top. */
export function encodeMap(map: Pick<BakedMap, 'size' | 'channels' | 'values'>, depth: 8 | 16): Uint8Array<ArrayBuffer> {
  const top = depth === 8 ? 255 : 65535;
  const data = depth === 8 ? new Uint8Array(map.values.length) : new Uint16Array(map.values.length);
  map.values.forEach((value, k) => { data[k] = Math.round(value * top); });
  return new Uint8Array(encode({ width: map.size, height: map.size, channels: map.channels, depth, data }));
}

/** RGBA bytes as a PNG. */
export function encodeRgba(width: number, height: number, pixels: Uint8Array | Uint8ClampedArray): Uint8Array<ArrayBuffer> {
  return new Uint8Array(encode({ width, height, channels: 4, depth: 8, data: new Uint8Array(pixels.buffer as ArrayBuffer, pixels.byteOffset, pixels.length) }));
}

/** The map glTF wants for roughness (green) and metalness (blue). */
export function encodeMetallicRoughness(roughness: BakedMap, metalness: BakedMap): Uint8Array<ArrayBuffer> {
  const values = new Float32Array(roughness.values.length * 3);
  roughness.values.forEach((value, k) => { values[k * 3] = 1; values[k * 3 + 1] = value; values[k * 3 + 2] = metalness.values[k] as number; });
  return encodeMap({ size: roughness.size, channels: 3, values }, 8);
}

/** Base colour with opacity as alpha. */
export function encodeBaseColour(colour: BakedMap, opacity: BakedMap): Uint8Array<ArrayBuffer> {
  const pixels = new Uint8Array(opacity.values.length * 4);
  opacity.values.forEach((value, k) => {
    for (let c = 0; c < 3; c++) pixels[k * 4 + c] = Math.round((colour.values[k * 3 + c] as number) * 255);
    pixels[k * 4 + 3] = Math.round(value * 255);
  });
  return encodeRgba(colour.size, colour.size, pixels);
}
