/** Closer points share a place: a slope between them would leave single precision. */
export const LEAST_WIDTH = 1e-30;

/**
 * Slopes at points so that the cubic through them never swings beyond its neighbours. Points that
 * share a place break the curve there. Source: M. Steffen, Astronomy and Astrophysics 239, 1990,
 * with straight ends.
 * @param places rising
 */
export function monotoneSlopes(places: readonly number[], values: readonly number[]): number[] {
  const secant = (k: number): number | null => {
    const width = (places[k + 1] ?? NaN) - (places[k] ?? NaN);
    return width > LEAST_WIDTH ? ((values[k + 1] ?? 0) - (values[k] ?? 0)) / width : null;
  };
  return places.map((_, k) => {
    const [before, after] = [secant(k - 1), secant(k)];
    if (before === null || after === null) return before ?? after ?? 0;
    const [left, right] = [
      (places[k] ?? 0) - (places[k - 1] ?? 0),
      (places[k + 1] ?? 0) - (places[k] ?? 0),
    ];
    return steffenSlope(before, left, after, right);
  });
}

/** The slope between two straight pieces of slopes `before` and `after` and the widths given. */
export function steffenSlope(before: number, left: number, after: number, right: number): number {
  const parabola = (before * right + after * left) / (left + right);
  return (
    (Math.sign(before) + Math.sign(after)) *
    Math.min(Math.abs(before), Math.abs(after), 0.5 * Math.abs(parabola))
  );
}
