import type { ExampleFit } from '../nodes/define';

/** Values that a mask is to hold, and values that it is not to hold. */
export interface Example {
  readonly inside: readonly number[];
  readonly outside: readonly number[];
}
/** The values of a node's inputs, by the names of the fit. */
export type FittedValues = Readonly<Record<string, number>>;

/** What fits an example: the values to take, or that nothing separates it. */
export type Fitted =
  | {
      readonly kind: 'fits';
      /** By input; those that stay as they are are left out. */
      readonly values: FittedValues;
      /** Whether what arrives is to be turned over first, 1 − x. */
      readonly isTurned: boolean;
      /** In a sentence: what was found and why. */
      readonly because: string;
    }
  | { readonly kind: 'nothing separates'; readonly because: string };

const short = (value: number): string => String(Number(value.toPrecision(4)));
const tidy = (value: number): number => Number(value.toPrecision(5));
const span = (values: readonly number[]): readonly [number, number] => [
  Math.min(...values),
  Math.max(...values),
];

/** How many values lie on the wrong side of the best single edge. */
function wrongAtBest({ inside, outside }: Example): number {
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

/** An edge and a width that lie in a gap, moved as little as possible. */
function edgeWithin(
  [low, high]: readonly [number, number],
  now: { readonly edge: number; readonly width: number },
): { readonly edge: number; readonly width: number } {
  const width = Math.min(now.width, high - low);
  const [least, most] = [low + width / 2, high - width / 2];
  return { edge: Math.min(most, Math.max(least, now.edge)), width };
}

function fitEdge(
  example: Example,
  now: FittedValues,
  { edge, width }: Extract<ExampleFit, { kind: 'edge' }>,
): Fitted {
  const [inLow, inHigh] = span(example.inside);
  const [outLow, outHigh] = span(example.outside);
  const isTurned = inHigh < outLow;
  if (!isTurned && outHigh >= inLow) {
    const wrong = wrongAtBest(example);
    return {
      kind: 'nothing separates',
      because:
        `The values overlap: in here ${short(inLow)} to ${short(inHigh)}, not there ` +
        `${short(outLow)} to ${short(outHigh)}. The best edge leaves ${String(wrong)} of ` +
        `${String(example.inside.length + example.outside.length)} on the wrong side.`,
    };
  }
  const gap: readonly [number, number] = isTurned ? [1 - outLow, 1 - inHigh] : [outHigh, inLow];
  const found = edgeWithin(gap, { edge: now[edge] ?? 0.5, width: now[width] ?? 0 });
  const values = Object.fromEntries(
    [[edge, tidy(found.edge)] as const, [width, tidy(found.width)] as const].filter(
      ([name, value]) => value !== now[name],
    ),
  );
  const moved = Object.keys(values).length === 0 && !isTurned;
  return {
    kind: 'fits',
    values,
    isTurned,
    because: moved
      ? 'The edge separates them already.'
      : `Between them lie ${short(gap[0])} to ${short(gap[1])}` +
        `${isTurned ? ' once it is turned over' : ''}; the edge and its width are moved there ` +
        'by as little as possible.',
  };
}

/** Limits of a band: as they are, or moved into the gap beside what it is to hold. */
function limitWithin(now: number, [low, high]: readonly [number, number]): number {
  return Math.min(high, Math.max(low, now));
}

function fitBand(
  { inside, outside }: Example,
  now: FittedValues,
  { centre, width }: Extract<ExampleFit, { kind: 'band' }>,
): Fitted {
  const [low, high] = span(inside);
  const between = outside.filter((value) => value >= low && value <= high);
  if (between.length > 0)
    return {
      kind: 'nothing separates',
      because:
        `${String(between.length)} of “not there” lie among “in here”, ${short(low)} to ` +
        `${short(high)}: no band holds the one without the other.`,
    };
  const below = Math.max(-Infinity, ...outside.filter((value) => value < low));
  const above = Math.min(Infinity, ...outside.filter((value) => value > high));
  const [middle, wide] = [now[centre] ?? 0.5, now[width] ?? 0];
  const from = limitWithin(middle - wide / 2, [(below + low) / 2, low]);
  const to = limitWithin(middle + wide / 2, [high, (above + high) / 2]);
  return {
    kind: 'fits',
    values: { [centre]: tidy((from + to) / 2), [width]: tidy(to - from) },
    isTurned: false,
    because:
      `“In here” lies at ${short(low)} to ${short(high)}; the ends of the band are moved by as ` +
      'little as possible, at most half-way to what is not to be there.',
  };
}

/**
 * Fits a mask to an example, changing as little as possible. An edge is put into the gap between
 * the two sorts of values, and made no wider than that; a band around what it is to hold.
 * @param now what the inputs hold; those of the fit must be numbers
 * @returns null while either sort has no value
 */
export function fitExample(
  { inside, outside }: Example,
  now: FittedValues,
  fit: ExampleFit,
): Fitted | null {
  const example = {
    inside: inside.filter((value) => Number.isFinite(value)),
    outside: outside.filter((value) => Number.isFinite(value)),
  };
  if (example.inside.length === 0 || example.outside.length === 0) return null;
  return fit.kind === 'edge' ? fitEdge(example, now, fit) : fitBand(example, now, fit);
}
