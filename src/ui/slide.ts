/** The range a value is slid over, and the difference of one step. */
export interface SlideRange {
  readonly low: number;
  readonly high: number;
  readonly step: number;
}
interface Keys {
  readonly shiftKey: boolean;
  readonly ctrlKey: boolean;
}

/** Whole numbers stay whole; else Shift divides a step by ten. Ctrl makes it ten steps. */
export function stepFor({ step }: Pick<SlideRange, 'step'>, keys: Keys): number {
  if (keys.ctrlKey) return step * 10;
  return keys.shiftKey && !isWhole(step) ? step / 10 : step;
}

const isWhole = (step: number): boolean => step >= 1 && Number.isInteger(step);

/** How far the value goes for a move: a tenth of it with Shift. */
export const speedOf = (keys: Keys): number => (keys.shiftKey ? 0.1 : 1);

export const within = (value: number, low: number, high: number): number =>
  Math.min(high, Math.max(low, value));

/** The nearest whole number of steps from `from`, without the last digits of a division. */
export const roundTo = (value: number, step: number, from = 0): number =>
  Number((from + Math.round((value - from) / step) * step).toPrecision(12));

/** A value at whole steps from the low end, within range. */
export const settle = (value: number, { low, high, step }: SlideRange): number =>
  within(roundTo(value, step, low), low, high);

/** The value after a key, or nothing where the key does not belong to a slider. */
export function slideByKey(
  key: string,
  value: number,
  range: SlideRange,
  keys: Keys,
): number | null {
  const step = stepFor(range, keys);
  const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1, PageUp: 10, PageDown: -10 };
  if (key === 'Home') return range.low;
  if (key === 'End') return range.high;
  if (!(key in by)) return null;
  const next = value + (by[key as keyof typeof by] ?? 0) * step;
  return within(Number(next.toPrecision(12)), range.low, range.high);
}
