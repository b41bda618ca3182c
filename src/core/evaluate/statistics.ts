/** What is known of a value over some points. Shares count all points. */
export interface Statistics {
  readonly minimum: number;
  readonly maximum: number;
  readonly mean: number;
  readonly below: number;
  readonly above: number;
  readonly notANumber: number;
  readonly constant: boolean;
}

/** Values this far outside 0–1 are rounding, not a finding. */
const TOLERANCE = 1e-5;

/** Statistics over all lanes of an output together. */
export function describeValues(lanes: readonly Float32Array[]): Statistics {
  let minimum = Infinity,
    maximum = -Infinity,
    sum = 0,
    below = 0,
    above = 0,
    bad = 0,
    count = 0;
  for (const lane of lanes)
    for (const value of lane) {
      count++;
      if (!Number.isFinite(value)) {
        bad++;
        continue;
      }
      if (value < minimum) minimum = value;
      if (value > maximum) maximum = value;
      if (value < -TOLERANCE) below++;
      if (value > 1 + TOLERANCE) above++;
      sum += value;
    }
  const good = count - bad;
  const constant =
    bad === 0 &&
    lanes.every((lane) =>
      lane.every(
        (value) => Math.abs(value - (lane[0] as number)) <= 1e-7 * Math.max(1, Math.abs(value)),
      ),
    );
  return {
    minimum: good ? minimum : NaN,
    maximum: good ? maximum : NaN,
    mean: good ? sum / good : NaN,
    below: count ? below / count : 0,
    above: count ? above / count : 0,
    notANumber: count ? bad / count : 0,
    constant,
  };
}

/**
 * Counts of finite values in equal bins from `low` to `high`; values outside count in the end bins.
 */
export function histogram(
  values: Float32Array,
  bins: number,
  low: number,
  high: number,
): Uint32Array {
  const counts = new Uint32Array(bins);
  const scale = high > low ? bins / (high - low) : 0;
  for (const value of values) {
    if (!Number.isFinite(value)) continue;
    const bin = Math.min(bins - 1, Math.max(0, Math.floor((value - low) * scale)));
    counts[bin] = (counts[bin] as number) + 1;
  }
  return counts;
}
