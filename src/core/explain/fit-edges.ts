import type { ExampleFit } from '../nodes/define';
import { changed, limit, nothing, numberOf, short, span, tidy } from './example';
import type { ExampleNumbers, Fitted, FittedValues } from './example';

type Fit<Kind extends ExampleFit['kind']> = Extract<ExampleFit, { kind: Kind }>;

/** The values between the two sorts, and whether “in here” lies below. */
export interface Gap {
  readonly low: number;
  readonly high: number;
  readonly isBelow: boolean;
}

/** How many values lie on the wrong side of the best single edge. */
function wrongAtBest({ inside, outside }: ExampleNumbers): number {
  const places = [...inside, ...outside];
  return Math.min(
    ...places.flatMap((edge) => {
      const above =
        inside.filter((value) => value < edge).length +
        outside.filter((value) => value >= edge).length;
      return [above, places.length - above];
    }),
  );
}

/** What lies between the two sorts; why nothing does, where they overlap. */
export function gapBetween(example: ExampleNumbers): Gap | { readonly because: string } {
  const [inLow, inHigh] = span(example.inside);
  const [outLow, outHigh] = span(example.outside);
  if (inHigh < outLow) return { low: inHigh, high: outLow, isBelow: true };
  if (outHigh < inLow) return { low: outHigh, high: inLow, isBelow: false };
  const wrong = wrongAtBest(example);
  return {
    because:
      `The values overlap: in here ${short(inLow)} to ${short(inHigh)}, not there ` +
      `${short(outLow)} to ${short(outHigh)}. The best edge leaves ${String(wrong)} of ` +
      `${String(example.inside.length + example.outside.length)} on the wrong side.`,
  };
}

/** An edge and its width, put into the gap between the two sorts by as little as possible. */
export function fitEdge(
  example: ExampleNumbers,
  now: FittedValues,
  { edge, width, begins = false }: Fit<'edge'>,
): Fitted {
  const gap = gapBetween(example);
  if ('because' in gap) return nothing(gap.because);
  const { isBelow } = gap;
  const [low, high] = isBelow ? [1 - gap.high, 1 - gap.low] : [gap.low, gap.high];
  const wide = Math.max(0, Math.min(numberOf(now, width, 0), high - low));
  // An edge is the middle of its width, or where it begins.
  const [before, after] = begins ? [0, wide] : [wide / 2, wide / 2];
  const place = limit(numberOf(now, edge, 0.5), low + before, high - after);
  const values = changed(now, { [edge]: tidy(place), [width]: tidy(wide) });
  const isThere = Object.keys(values).length === 0 && !isBelow;
  return {
    kind: 'fits',
    values,
    isTurned: isBelow,
    because: isThere
      ? 'The edge separates them already.'
      : `Between them lie ${short(low)} to ${short(high)}` +
        `${isBelow ? ' once it is turned over' : ''}; the edge and its width are moved there ` +
        'by as little as possible.',
  };
}

/** Two edges, where 0 and where 1 is reached; the order of the two says which sort is kept. */
export function fitTwoEdges(
  example: ExampleNumbers,
  now: FittedValues,
  { lower, upper }: Fit<'edges'>,
): Fitted {
  const gap = gapBetween(example);
  if ('because' in gap) return nothing(gap.because);
  const [first = 0, last = 0] = [numberOf(now, lower, 0.5), numberOf(now, upper, 0.7)]
    .map((end) => limit(end, gap.low, gap.high))
    .sort((a, b) => a - b);
  // Two edges at one place could not say which sort is kept.
  const [least, most] = first < last ? [first, last] : [gap.low, gap.high];
  const [zero, one] = gap.isBelow ? [most, least] : [least, most];
  const values = changed(now, { [lower]: tidy(zero), [upper]: tidy(one) });
  return {
    kind: 'fits',
    values,
    isTurned: false,
    because:
      Object.keys(values).length === 0
        ? 'The edges separate them already.'
        : `Between them lie ${short(gap.low)} to ${short(gap.high)}; both edges are moved ` +
          'there by as little as possible.',
  };
}
