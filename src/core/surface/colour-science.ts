import { OKLAB } from '../nodes/colour-lanes';

/** Linear light to sRGB, 0–1. Source: IEC 61966-2-1:1999. */
export function encodeSrgb(linear: number): number {
  return linear <= 0.0031308 ? linear * 12.92 : 1.055 * Math.pow(linear, 1 / 2.4) - 0.055;
}

/** sRGB to linear light, 0–1. Source: IEC 61966-2-1:1999. */
export function decodeSrgb(encoded: number): number {
  return encoded <= 0.04045 ? encoded / 12.92 : Math.pow((encoded + 0.055) / 1.055, 2.4);
}

/** A linear colour as `#rrggbb` in sRGB; channels are limited to 0–1. */
export function toHex(colour: readonly number[]): string {
  return `#${colour
    .slice(0, 3)
    .map((c) =>
      Math.round(encodeSrgb(Math.min(1, Math.max(0, c))) * 255)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
}

/** `#rrggbb` as a linear colour; null when it is not one. */
export function fromHex(text: string): readonly [number, number, number] | null {
  const match = /^#?([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/i.exec(text.trim());
  if (!match) return null;
  const channel = (k: number): number => decodeSrgb(parseInt(match[k] as string, 16) / 255);
  return [channel(1), channel(2), channel(3)];
}

type Colour = readonly [number, number, number];
const times = (matrix: readonly Colour[], v: Colour): Colour =>
  matrix.map((row) => row[0] * v[0] + row[1] * v[1] + row[2] * v[2]) as unknown as Colour;

/**
 * Linear Rec. 709 to Oklab; channels below 0 count as 0. Source: B. Ottosson, 2020 (public domain).
 */
export function toOklabColour(colour: Colour): Colour {
  return times(
    OKLAB.toLab,
    times(OKLAB.toCone, colour.map((c) => Math.max(0, c)) as unknown as Colour).map((c) =>
      Math.cbrt(c),
    ) as unknown as Colour,
  );
}

/** Oklab to linear Rec. 709. */
export const fromOklabColour = (lab: Colour): Colour =>
  times(OKLAB.fromCone, times(OKLAB.fromLab, lab).map((c) => c * c * c) as unknown as Colour);
