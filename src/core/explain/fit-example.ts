import { assertNever } from '../base/assert';
import type { ExampleFit } from '../nodes/define';
import type { Example, ExampleNumbers, Fitted, FittedValues, Sample } from './example';
import { fitBand, fitFacing, hueDegrees } from './fit-bands';
import { fitEdge, fitTwoEdges } from './fit-edges';
import { fitStops } from './fit-stops';

/** The inputs whose values a fit starts from and may change. */
export function inputsOf(fit: ExampleFit): readonly string[] {
  switch (fit.kind) {
    case 'edge':
      return [fit.edge, fit.width];
    case 'edges':
      return [fit.lower, fit.upper];
    case 'band':
      return [fit.centre, fit.width, fit.softness];
    case 'facing':
      return [fit.direction, fit.centre, fit.width, fit.softness];
    case 'stops':
      return [fit.stops, fit.from, fit.to];
    default:
      return assertNever(fit);
  }
}

/**
 * Fits a mask to an example, changing as little as possible. An edge is put into the gap between
 * the two sorts of values, and made no wider than that; a band around what it is to hold; stops of
 * a ramp on either side of the gap.
 * @param now what the inputs of the fit hold
 * @returns null while either sort has no value
 */
export function fitExample(
  { inside, outside }: Example,
  now: FittedValues,
  fit: ExampleFit,
): Fitted | null {
  const valid = (samples: readonly Sample[]): readonly Sample[] =>
    samples.filter((sample) => sample.length > 0 && sample.every(Number.isFinite));
  const example: Example = { inside: valid(inside), outside: valid(outside) };
  if (example.inside.length === 0 || example.outside.length === 0) return null;
  if (fit.kind === 'facing') return fitFacing(example, now, fit);
  const numbers = numbersOf(example, fit);
  if (numbers.inside.length === 0 || numbers.outside.length === 0)
    return { kind: 'nothing separates', because: 'What was marked is grey: it has no hue.' };
  switch (fit.kind) {
    case 'edge':
      return fitEdge(numbers, now, fit);
    case 'edges':
      return fitTwoEdges(numbers, now, fit);
    case 'band':
      return fitBand(numbers, now, fit);
    case 'stops':
      return fitStops(numbers, now, fit);
    default:
      return assertNever(fit);
  }
}

/** One number a sample: the first lane, or the hue of a colour; greys are left out. */
function numbersOf({ inside, outside }: Example, fit: ExampleFit): ExampleNumbers {
  const isHue = fit.kind === 'band' && fit.wheel !== undefined;
  const read = (samples: readonly Sample[]): readonly number[] =>
    samples
      .map((sample) => (isHue ? hueDegrees(sample) : (sample[0] ?? Number.NaN)))
      .filter(Number.isFinite);
  return { inside: read(inside), outside: read(outside) };
}
