import { add, dot, normalise } from '../base/vector';
import type { Vec3 } from '../base/vector';
import { isTriple } from '../graph/document';
import type { ExampleFit } from '../nodes/define';
import { changed, limit, nothing, numberOf, short, span, tidy } from './example';
import type { Example, ExampleNumbers, Fitted, FittedValues, Sample } from './example';

type Fit<Kind extends ExampleFit['kind']> = Extract<ExampleFit, { kind: Kind }>;
/** What a band is to hold, and the nearest values on either side that it is not to hold. */
interface Held {
  readonly low: number;
  readonly high: number;
  readonly below: number;
  readonly above: number;
}

/** The values of “in here” in a row, where none of the others lies among them. */
function heldInRow({ inside, outside }: ExampleNumbers): Held | { readonly because: string } {
  const [low, high] = span(inside);
  const among = outside.filter((value) => value >= low && value <= high).length;
  if (among > 0)
    return {
      because:
        `${String(among)} of “not there” lie among “in here”, ${short(low)} to ${short(high)}: ` +
        'no band holds the one without the other.',
    };
  return {
    low,
    high,
    below: Math.max(-Infinity, ...outside.filter((value) => value < low)),
    above: Math.min(Infinity, ...outside.filter((value) => value > high)),
  };
}

/** The same on a wheel of so many degrees: the shortest way round past all of “in here”. */
function heldOnWheel(
  { inside, outside }: ExampleNumbers,
  round: number,
): Held | { readonly because: string } {
  const sorted = [...inside].sort((a, b) => a - b);
  const past = (from: number, value: number): number => (((value - from) % round) + round) % round;
  const ways = sorted.flatMap((low, k) => {
    const before = sorted[(k + sorted.length - 1) % sorted.length] ?? low;
    const length = past(low, before);
    const places = outside.map((value) => past(low, value));
    if (places.some((place) => place <= length)) return [];
    return [
      {
        low,
        high: low + length,
        below: low - round + Math.max(...places),
        above: low + Math.min(...places),
      },
    ];
  });
  const [shortest] = ways.sort((a, b) => a.high - a.low - (b.high - b.low));
  return (
    shortest ?? {
      because: 'On the wheel of hues “not there” lies on either side among “in here”.',
    }
  );
}

/**
 * A band whose ends are moved by as little as possible, at most half-way to what it is not to hold,
 * and whose border ends before that.
 */
function bandAround(
  { low, high, below, above }: Held,
  now: FittedValues,
  { centre, width, softness }: Pick<Fit<'band'>, 'centre' | 'width' | 'softness'>,
  round = 0,
): Readonly<Record<string, number>> {
  const wide = Math.max(0, numberOf(now, width, 0));
  const given = numberOf(now, centre, 0.5);
  const middle = round > 0 ? given + round * Math.round(((low + high) / 2 - given) / round) : given;
  const from = limit(middle - wide / 2, (below + low) / 2, low);
  const to = limit(middle + wide / 2, high, (above + high) / 2);
  const soft = Math.min(numberOf(now, softness, 0), from - below, above - to);
  const place = (from + to) / 2;
  return changed(now, {
    [centre]: tidy(round > 0 ? ((place % round) + round) % round : place),
    [width]: tidy(to - from),
    [softness]: tidy(Math.max(0, soft)),
  });
}

/** A band of values, or of hues. */
export function fitBand(example: ExampleNumbers, now: FittedValues, fit: Fit<'band'>): Fitted {
  const held = fit.wheel ? heldOnWheel(example, fit.wheel) : heldInRow(example);
  if ('because' in held) return nothing(held.because);
  const values = bandAround(held, now, fit, fit.wheel);
  return {
    kind: 'fits',
    values,
    isTurned: false,
    because:
      Object.keys(values).length === 0
        ? 'The band holds the one without the other already.'
        : `“In here” lies at ${short(held.low)} to ${short(held.high)}; the ends of the band ` +
          'are moved by as little as possible, at most half-way to what is not to be there.',
  };
}

/** A place on the wheel of hues, degrees; no number for a grey. Of linear channels. */
export function hueDegrees([r = 0, g = 0, b = 0]: Sample): number {
  const most = Math.max(r, g, b);
  const chroma = most - Math.min(r, g, b);
  if (!(chroma > 0)) return Number.NaN;
  const sixths =
    most === r ? (g - b) / chroma + 6 : most === g ? (b - r) / chroma + 2 : (r - g) / chroma + 4;
  return (sixths * 60) % 360;
}

const vector = ([x = 0, y = 0, z = 0]: Sample): Vec3 => [x, y, z];

/**
 * A direction, and a band of how far surfaces face it: the present direction where that will do,
 * else the mean of the normals to be held.
 */
export function fitFacing(
  { inside, outside }: Example,
  now: FittedValues,
  fit: Fit<'facing'>,
): Fitted {
  const held = now[fit.direction];
  const present: Vec3 = normalise(held !== undefined && isTriple(held) ? held : [0, 0, 1]);
  const sum = inside.reduce<Vec3>((all, normal) => add(all, vector(normal)), [0, 0, 0]);
  const mean = normalise(sum);
  let because = '';
  for (const direction of [present, mean]) {
    const facing = (normals: readonly Sample[]): number[] =>
      normals.map((normal) => dot(vector(normal), direction));
    const row = heldInRow({ inside: facing(inside), outside: facing(outside) });
    if ('because' in row) {
      because = `Of how far they face ${direction.map(short).join(', ')}: ${row.because}`;
      continue;
    }
    const [x, y, z] = direction.map(tidy);
    const isNew = direction === mean;
    return {
      kind: 'fits',
      values: {
        ...(isNew ? { [fit.direction]: [x ?? 0, y ?? 0, z ?? 1] as const } : {}),
        ...bandAround(row, now, fit),
      },
      isTurned: false,
      because:
        `${isNew ? 'Towards the mean of what “in here” faces' : 'Towards the same direction'}; ` +
        'the ends of the band are moved by as little as possible.',
    };
  }
  return nothing(because);
}
