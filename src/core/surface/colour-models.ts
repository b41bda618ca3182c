import { decodeSrgb, encodeSrgb, fromHex, fromOklabColour, toOklabColour } from './colour-science';

type Colour = readonly [number, number, number];

/** Limits of a number of a colour model, and the difference of one step of it. */
interface Channel {
  readonly name: string;
  readonly low: number;
  readonly high: number;
  readonly step: number;
}
/** A way to write a colour as three numbers. */
export interface ColourModel {
  readonly id: string;
  readonly title: string;
  readonly channels: readonly [Channel, Channel, Channel];
  /** @param colour linear Rec. 709 */
  readonly read: (colour: Colour) => Colour;
  readonly write: (numbers: Colour) => Colour;
}

const map = (colour: Colour, change: (x: number) => number): Colour => [
  change(colour[0]),
  change(colour[1]),
  change(colour[2]),
];
const encode = (x: number): number => encodeSrgb(Math.max(0, x));

/**
 * Hue in degrees, saturation and value in percent, of sRGB numbers. Source: A. R. Smith, Color
 * Gamut Transform Pairs, 1978.
 */
function toHsv(colour: Colour): Colour {
  const [r, g, b] = map(colour, encode);
  const most = Math.max(r, g, b);
  const range = most - Math.min(r, g, b);
  const sixth =
    range === 0
      ? 0
      : most === r
        ? ((g - b) / range + 6) % 6
        : most === g
          ? (b - r) / range + 2
          : (r - g) / range + 4;
  return [sixth * 60, most === 0 ? 0 : (range / most) * 100, most * 100];
}

function fromHsv([hue, saturation, value]: Colour): Colour {
  const [s, v] = [saturation / 100, value / 100];
  const channel = (from: number): number => {
    const k = (from + (((hue % 360) + 360) % 360) / 60) % 6;
    return decodeSrgb(v - v * s * Math.max(0, Math.min(k, 4 - k, 1)));
  };
  return [channel(5), channel(3), channel(1)];
}

/** Lightness in percent, chroma, and hue in degrees. Source: Oklab, B. Ottosson, 2020. */
function toOklch(colour: Colour): Colour {
  const [lightness, a, b] = toOklabColour(colour);
  const chroma = Math.hypot(a, b);
  const hue = chroma < 1e-4 ? 0 : (Math.atan2(b, a) * 180) / Math.PI;
  return [lightness * 100, chroma, (hue + 360) % 360];
}

function fromOklch([lightness, chroma, hue]: Colour): Colour {
  const angle = (hue * Math.PI) / 180;
  const lab: Colour = [lightness / 100, chroma * Math.cos(angle), chroma * Math.sin(angle)];
  return map(fromOklabColour(lab), (x) => Math.max(0, x));
}

const channels = (names: readonly [string, string, string], high: number, step: number) =>
  names.map((name) => ({ name, low: 0, high, step })) as unknown as ColourModel['channels'];
const RGB = ['red', 'green', 'blue'] as const;

/** The numbers a colour is edited in. */
export const COLOUR_MODELS: readonly ColourModel[] = [
  {
    id: 'bytes',
    title: '0–255',
    channels: channels(RGB, 255, 1),
    read: (colour) => map(colour, (x) => encode(x) * 255),
    write: (numbers) => map(numbers, (x) => decodeSrgb(x / 255)),
  },
  {
    id: 'linear',
    title: 'linear',
    channels: channels(RGB, 1000, 0.01),
    read: (colour) => colour,
    write: (numbers) => numbers,
  },
  {
    id: 'hsv',
    title: 'hue, saturation, value',
    channels: [
      { name: 'hue', low: -360, high: 720, step: 1 },
      { name: 'saturation', low: 0, high: 100, step: 1 },
      { name: 'value', low: 0, high: 100, step: 1 },
    ],
    read: toHsv,
    write: fromHsv,
  },
  {
    id: 'oklch',
    title: 'lightness, chroma, hue',
    channels: [
      { name: 'lightness', low: 0, high: 100, step: 1 },
      { name: 'chroma', low: 0, high: 0.5, step: 0.005 },
      { name: 'perceived hue', low: -360, high: 720, step: 1 },
    ],
    read: toOklch,
    write: fromOklch,
  },
];

/** A linear colour as text that keeps all of it. Source: CSS Color 4, `color()`. */
export const colourText = (colour: Colour): string =>
  `color(srgb-linear ${colour.map((x) => String(Number(x.toPrecision(7)))).join(' ')})`;

/** Reads a colour: `#rrggbb`, `#rgb`, `rgb(…)` of 0–255, or `color(srgb-linear …)`. */
export function readColourText(text: string): Colour | null {
  const trimmed = text.trim().slice(0, 200).toLowerCase();
  const short = /^#?([0-9a-f])([0-9a-f])([0-9a-f])$/.exec(trimmed);
  if (short)
    return fromHex(
      short
        .slice(1)
        .map((x) => x + x)
        .join(''),
    );
  const call = /^(rgb|color)\(\s*(srgb-linear\s+)?(.+)\)$/.exec(trimmed);
  if (!call || (call[1] === 'color') !== (call[2] !== undefined)) return fromHex(trimmed);
  const numbers = (call[3] ?? '').split(/[\s,]+/).map(Number);
  const [r = NaN, g = NaN, b = NaN] = numbers;
  if (numbers.length !== 3 || numbers.some((x) => !Number.isFinite(x) || x < 0)) return null;
  return call[1] === 'color'
    ? [r, g, b]
    : map([r, g, b], (x) => decodeSrgb(Math.min(255, x) / 255));
}
