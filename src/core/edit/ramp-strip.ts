import { rampSample } from '../compile/ramp-rows';
import { LIMITS } from '../graph/document';
import type { RampStop, RampValue, Triple } from '../graph/document';
import type { RampModes } from '../nodes/ramp-table';
import { encodeSrgb } from '../surface/colour-science';

/** Pixels of a strip image of a ramp: as wide as an 8-bit value has steps, twice. */
export const STRIP = { width: 512, height: 32 } as const;

/** A column of a strip: colour in linear Rec. 709, not premultiplied, and alpha. */
export interface StripColumn {
  readonly colour: Triple;
  readonly alpha: number;
}

/** RGBA bytes of a ramp drawn from left to right, colours in sRGB, `STRIP` pixels. */
export function drawStrip(ramp: RampValue, modes: RampModes): Uint8Array<ArrayBuffer> {
  const pixels = new Uint8Array(STRIP.width * STRIP.height * 4);
  for (let x = 0; x < STRIP.width; x++) {
    const { colour, alpha } = rampSample(ramp, modes, x / (STRIP.width - 1));
    const bytes = [...colour.map((channel) => encodeSrgb(within(channel))), within(alpha)];
    for (let y = 0; y < STRIP.height; y++)
      bytes.forEach((byte, c) => {
        pixels[(y * STRIP.width + x) * 4 + c] = Math.round(byte * 255);
      });
  }
  return pixels;
}

const within = (value: number): number => Math.min(1, Math.max(0, value));
const PLAIN: RampModes = { layout: 'placed', blend: 'light' };
/** Differences that an 8-bit image cannot show. */
const INVISIBLE = 1 / 255;

const differenceBetween = (a: StripColumn, b: StripColumn): number =>
  Math.max(
    Math.abs(a.alpha - b.alpha),
    ...a.colour.map((channel, c) =>
      Math.abs(encodeSrgb(within(channel)) - encodeSrgb(within(b.colour[c] ?? 0))),
    ),
  );

/**
 * A ramp of linear pieces that follows the columns of a strip from left to right: a stop is put
 * where the ramp differs most, until it is nowhere visible or the ramp is full.
 * @param columns at least two
 * @returns the ramp, and its largest remaining difference in sRGB, 0–1
 */
export function fitStrip(columns: readonly StripColumn[]): {
  readonly ramp: RampValue;
  readonly difference: number;
} {
  const last = columns.length - 1;
  const chosen = new Set([0, last]);
  for (;;) {
    const ramp = {
      stops: stopsAt(
        columns,
        [...chosen].sort((a, b) => a - b),
      ),
    };
    const differences = columns.map((column, k) =>
      differenceBetween(column, rampSample(ramp, PLAIN, k / last)),
    );
    const difference = differences.reduce((most, each) => Math.max(most, each), 0);
    const worst = differences.indexOf(difference);
    if (difference <= INVISIBLE || chosen.size >= LIMITS.rampStops || chosen.has(worst))
      return { ramp, difference };
    chosen.add(worst);
  }
}

const stopsAt = (columns: readonly StripColumn[], chosen: readonly number[]): RampStop[] =>
  chosen.map((column, k) => ({
    id: `s${String(k + 1)}`,
    position: Number((column / (columns.length - 1)).toFixed(4)),
    colour: columns[column]?.colour ?? [0, 0, 0],
    alpha: columns[column]?.alpha ?? 1,
    segment: 'linear',
  }));
