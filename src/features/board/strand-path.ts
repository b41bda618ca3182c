/** Points of a cubic curve between two ports that leave it horizontally. */
export function sampleCurve(
  x1: number,
  y1: number,
  x2: number,
  y2: number,
  count: number,
): readonly (readonly [number, number, number, number])[] {
  const pull = Math.max(28, Math.min(160, Math.abs(x2 - x1) / 2));
  return Array.from({ length: count + 1 }, (_, k) => {
    const t = k / count,
      s = 1 - t;
    const at = (a: number, b: number, c: number, d: number): number =>
      s * s * s * a + 3 * s * s * t * b + 3 * s * t * t * c + t * t * t * d;
    const slope = (a: number, b: number, c: number, d: number): number =>
      3 * s * s * (b - a) + 6 * s * t * (c - b) + 3 * t * t * (d - c);
    const dx = slope(x1, x1 + pull, x2 - pull, x2),
      dy = slope(y1, y1, y2, y2);
    const length = Math.hypot(dx, dy) || 1;
    return [
      at(x1, x1 + pull, x2 - pull, x2),
      at(y1, y1, y2, y2),
      -dy / length,
      dx / length,
    ] as const;
  });
}

/**
 * A curve through places, leaving and entering each of them horizontally, about every sixth pixel.
 */
export function sampleStrand(
  places: readonly (readonly [number, number])[],
): ReturnType<typeof sampleCurve> {
  return places.slice(1).flatMap(([x, y], k) => {
    const [fromX, fromY] = places[k] ?? [x, y];
    const count = Math.min(160, Math.max(16, Math.round(Math.hypot(x - fromX, y - fromY) / 6)));
    return sampleCurve(fromX, fromY, x, y, count).slice(k === 0 ? 0 : 1);
  });
}

/** A thread beside the curve, at a distance that may wave along it. */
export function threadPath(
  points: ReturnType<typeof sampleCurve>,
  offset: (share: number) => number,
): string {
  return points
    .map(([x, y, nx, ny], k) => {
      const d = offset(k / (points.length - 1));
      return `${k === 0 ? 'M' : 'L'}${(x + nx * d).toFixed(1)} ${(y + ny * d).toFixed(1)}`;
    })
    .join('');
}
