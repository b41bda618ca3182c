import type { LaneRange } from '../nodes/advice';

/** What is known of a value over some points. Shares count all points. */
export interface Statistics extends LaneRange {
  readonly notANumber: number;
  readonly constant: boolean;
  /** Each lane for itself. */
  readonly lanes: readonly LaneRange[];
}

/** Values this far outside 0–1 are rounding, not a finding. */
const TOLERANCE = 1e-5;

interface LaneSums extends Omit<LaneRange, 'mean'> {
  readonly sum: number;
  readonly bad: number;
  readonly constant: boolean;
}

function describeLane(lane: Float32Array): LaneSums {
  let minimum = Infinity,
    maximum = -Infinity,
    sum = 0,
    below = 0,
    above = 0,
    bad = 0,
    constant = true;
  const first = lane[0] ?? 0;
  for (const value of lane) {
    if (Math.abs(value - first) > 1e-7 * Math.max(1, Math.abs(value))) constant = false;
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
  return { minimum, maximum, sum, below, above, bad, constant };
}

/** Statistics over all lanes of an output together, and of each. */
export function describeValues(lanes: readonly Float32Array[]): Statistics {
  const each = lanes.map(describeLane);
  const total = (of: (lane: LaneSums) => number): number =>
    each.reduce((sum, lane) => sum + of(lane), 0);
  const count = lanes.reduce((sum, lane) => sum + lane.length, 0);
  const bad = total((lane) => lane.bad);
  const good = count - bad;
  const share = (of: (lane: LaneSums) => number): number => (count ? total(of) / count : 0);
  return {
    minimum: good ? Math.min(...each.map((lane) => lane.minimum)) : NaN,
    maximum: good ? Math.max(...each.map((lane) => lane.maximum)) : NaN,
    mean: good ? total((lane) => lane.sum) / good : NaN,
    below: share((lane) => lane.below),
    above: share((lane) => lane.above),
    notANumber: share((lane) => lane.bad),
    constant: bad === 0 && each.every(({ constant }) => constant),
    lanes: each.map((lane, k) => {
      const points = lanes[k]?.length ?? 0;
      const { minimum, maximum } = lane;
      const mean = points > lane.bad ? lane.sum / (points - lane.bad) : NaN;
      const [below, above] = [lane.below, lane.above].map((some) => (points ? some / points : 0));
      return { minimum, maximum, mean, below: below ?? 0, above: above ?? 0 };
    }),
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
