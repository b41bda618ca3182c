/** The part of a ramp that its bar shows, shares of the whole. */
export interface RampWindow {
  readonly from: number;
  readonly to: number;
}
export const WHOLE: RampWindow = { from: 0, to: 1 };
/** The smallest part that is shown. */
const LEAST = 1 / 256;

export const isWhole = ({ from, to }: RampWindow): boolean => from <= 0 && to >= 1;

/** The window made smaller or larger by a factor, the place `at` staying where it is. */
export function zoomed({ from, to }: RampWindow, factor: number, at: number): RampWindow {
  const width = Math.min(1, Math.max(LEAST, (to - from) * factor));
  const side = (at - from) / (to - from);
  const start = Math.min(1 - width, Math.max(0, at - side * width));
  return { from: start, to: start + width };
}

/** The window moved along the ramp. */
export function moved({ from, to }: RampWindow, by: number): RampWindow {
  const width = to - from;
  const start = Math.min(1 - width, Math.max(0, from + by));
  return { from: start, to: start + width };
}

/** Where a place along the ramp lies in the window, 0–1 within it. */
export const inWindow = ({ from, to }: RampWindow, place: number): number =>
  (place - from) / (to - from);
export const outOfWindow = ({ from, to }: RampWindow, share: number): number =>
  from + share * (to - from);

/** Round numbers between two, about `count` of them, ascending. */
export function roundTicks(low: number, high: number, count: number): readonly number[] {
  const span = high - low;
  if (!(span > 0) || !Number.isFinite(span)) return [low];
  const rough = span / count;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = ([1, 2, 5, 10].find((each) => each * power >= rough) ?? 10) * power;
  const first = Math.ceil(low / step - 1e-9);
  const last = Math.floor(high / step + 1e-9);
  return Array.from({ length: last - first + 1 }, (_, k) =>
    Number(((first + k) * step).toPrecision(12)),
  );
}
