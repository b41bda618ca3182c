import { isRamp } from '../graph/document';
import type { RampValue } from '../graph/document';
import type { ExampleFit } from '../nodes/define';
import { limit, nothing, numberOf, short, tidy } from './example';
import type { ExampleNumbers, Fitted, FittedValues } from './example';
import { gapBetween } from './fit-edges';

/** Places of all stops once those of one pair lie in the gap; none passes another. */
function placesWith(places: readonly number[], pair: number, low: number, high: number): number[] {
  const one = limit(places[pair] ?? 0, low, high);
  const two = limit(places[pair + 1] ?? 1, one, high);
  return places.map((place, k) =>
    k === pair
      ? one
      : k === pair + 1
        ? two
        : k < pair
          ? Math.min(place, one)
          : Math.max(place, two),
  );
}

/**
 * Moves the stops of a ramp so that it passes from one colour to the next between the two sorts.
 * Of all pairs of neighbours the one is taken for which the stops move least in all.
 */
export function fitStops(
  example: ExampleNumbers,
  now: FittedValues,
  fit: Extract<ExampleFit, { kind: 'stops' }>,
): Fitted {
  const ramp = now[fit.stops];
  const [from, to] = [numberOf(now, fit.from, 0), numberOf(now, fit.to, 1)];
  if (ramp === undefined || !isRamp(ramp) || from === to)
    return nothing('The ends of the ramp are one: it has no stops between them.');
  if (ramp.stops.some(({ open }) => open?.includes('position')))
    return nothing('A stop’s place is wired or driven: it cannot be moved here.');
  const placed = (value: number): number => (value - from) / (to - from);
  const gap = gapBetween({
    inside: example.inside.map(placed),
    outside: example.outside.map(placed),
  });
  if ('because' in gap) return nothing(gap.because);
  const [low, high] = [Math.max(0, gap.low), Math.min(1, gap.high)];
  if (low > high)
    return nothing('Both lie beyond the same end of the ramp; move From or To first.');
  const places = ramp.stops.map(({ position }) => position);
  const tries = places.slice(1).map((_, pair) => placesWith(places, pair, low, high));
  const cost = (tried: readonly number[]): number =>
    tried.reduce((sum, place, k) => sum + Math.abs(place - (places[k] ?? 0)), 0);
  const [best = places] = [...tries].sort((a, b) => cost(a) - cost(b));
  const isThere = cost(best) === 0;
  const next: RampValue = {
    stops: ramp.stops.map((stop, k) => ({ ...stop, position: tidy(best[k] ?? stop.position) })),
  };
  return {
    kind: 'fits',
    values: isThere ? {} : { [fit.stops]: next },
    isTurned: false,
    because: isThere
      ? 'The stops separate them already.'
      : `Between them lie ${short(low)} to ${short(high)} of the ramp; the stops that need it ` +
        'are moved there by as little as possible.',
  };
}
