import { LEAST_WIDTH, monotoneSlopes } from '../base/monotone';
import type { CurveValue, RampStop, RampValue, Triple } from '../graph/document';
import {
  CLEAR_WEIGHT,
  CURVE_COLUMNS,
  CURVE_ROW,
  CURVE_ROWS,
  RAMP_COLUMNS,
  RAMP_MODES,
  RAMP_ROW,
  RAMP_ROWS,
  colourWeight,
} from '../nodes/ramp-table';
import type { RampModes } from '../nodes/ramp-table';
import { fromOklabColour, toOklabColour } from '../surface/colour-science';

/** The stops in the order of their rows: by place; where they are shares, as they stand. */
export function orderedStops(ramp: RampValue, layout: RampModes['layout']): readonly RampStop[] {
  const stops =
    layout === 'proportions'
      ? [...ramp.stops]
      : [...ramp.stops].sort((a, b) => a.position - b.position);
  return stops.slice(0, RAMP_ROWS);
}

/**
 * Where each stop begins, 0–1: as placed; at every nth part; or after the shares of those before
 * it (all equal where no share is above 0).
 */
export function stopPlaces(
  stops: readonly RampStop[],
  layout: RampModes['layout'],
): readonly number[] {
  if (layout === 'placed') return stops.map((stop) => stop.position);
  const shares = stops.map((stop) => (layout === 'bands' ? 1 : Math.max(0, stop.position)));
  const total = shares.reduce((sum, share) => sum + share, 0);
  let before = 0;
  return shares.map((share, k) => {
    const place = total > 0 ? before / total : k / stops.length;
    before += share;
    return place;
  });
}

const isOpen = (ramp: RampValue): boolean =>
  ramp.stops.some((stop) => (stop.open?.length ?? 0) > 0);

/**
 * Writes a ramp's table: a row for each stop and, after the last possible row, their number. Where
 * a stop is open, colours and places stand as typed and the program computes the rest; otherwise
 * colours are weighed by `colourWeight`, in the space they are blended in.
 */
export function writeRamp(
  into: Float32Array,
  base: number,
  ramp: RampValue,
  modes: RampModes,
): void {
  const stops = orderedStops(ramp, modes.layout);
  into[base + RAMP_ROWS * RAMP_ROW] = Math.max(1, stops.length);
  const live = isOpen(ramp);
  const places = live ? stops.map((stop) => stop.position) : stopPlaces(stops, modes.layout);
  const channels = stops.map((stop) =>
    live ? [...stop.colour, stop.alpha] : blendChannels(stop, modes),
  );
  const slopes = [0, 1, 2, 3].map((c) =>
    monotoneSlopes(
      places,
      channels.map((row) => row[c] ?? 0),
    ),
  );
  stops.forEach((_, k) => {
    const before = stops[k - 1];
    const row = base + k * RAMP_ROW;
    const width = k > 0 ? (places[k] ?? 0) - (places[k - 1] ?? 0) : 0;
    const holds = !before || (!live && (width <= LEAST_WIDTH || modes.layout !== 'placed'));
    into[row + RAMP_COLUMNS.start] = places[k - 1] ?? 0;
    into[row + RAMP_COLUMNS.inverseWidth] = width > LEAST_WIDTH ? 1 / width : 0;
    into[row + RAMP_COLUMNS.mode] = holds ? RAMP_MODES.hold : RAMP_MODES[before.segment];
    into[row + RAMP_COLUMNS.position] = places[k] ?? 0;
    channels[k]?.forEach((channel, c) => {
      into[row + RAMP_COLUMNS.red + c] = channel;
    });
    slopes.forEach((slope, c) => {
      into[row + RAMP_COLUMNS.slopes + c] = slope[k] ?? 0;
    });
  });
}

/**
 * A stop's colour as it is blended: weighed by how much it covers, in linear light or Oklab; then
 * its alpha.
 */
function blendChannels(stop: RampStop, { blend }: RampModes): readonly number[] {
  const colour = blend === 'perceptual' ? toOklabColour(stop.colour) : stop.colour;
  return [...colour.map((channel) => channel * colourWeight(stop.alpha)), stop.alpha];
}

/** Blended channels at t, in double precision, from typed values only. */
function channelsAt(ramp: RampValue, modes: RampModes, t: number): readonly number[] {
  const stops = orderedStops(ramp, modes.layout);
  const places = stopPlaces(stops, modes.layout);
  const channels = stops.map((stop) => blendChannels(stop, modes));
  const after = places.findIndex((place) => place > t);
  const k = after < 0 ? stops.length - 1 : Math.max(0, after - 1);
  const [from, to] = [channels[k] ?? [0, 0, 0, 1], channels[k + 1]];
  const segment = modes.layout === 'placed' ? stops[k]?.segment : 'hold';
  if (after <= 0 || !to || segment === 'hold') return from;
  const width = (places[k + 1] ?? 0) - (places[k] ?? 0);
  const u = (t - (places[k] ?? 0)) / width;
  const way = segment === 'linear' ? u : u * u * (3 - 2 * u);
  return from.map((channel, c) => {
    const slopes =
      segment === 'spline'
        ? monotoneSlopes(
            places,
            channels.map((row) => row[c] ?? 0),
          )
        : [];
    const bulge = u * (1 - u) * width * ((slopes[k] ?? 0) * (1 - u) - (slopes[k + 1] ?? 0) * u);
    return channel + ((to[c] ?? 0) - channel) * way + (segment === 'spline' ? bulge : 0);
  });
}

/**
 * The colour a ramp shows at t, linear Rec. 709 and not premultiplied, and its alpha: for drawing
 * it beside its stops.
 */
export function rampSample(
  ramp: RampValue,
  modes: RampModes,
  t: number,
): { readonly colour: Triple; readonly alpha: number } {
  const mixed = channelsAt(ramp, modes, t);
  const alpha = mixed[3] ?? 1;
  const straight = [0, 1, 2].map(
    (c) => (mixed[c] ?? 0) / Math.max(colourWeight(alpha), CLEAR_WEIGHT),
  ) as unknown as Triple;
  return { colour: modes.blend === 'perceptual' ? fromOklabColour(straight) : straight, alpha };
}

/** The colour a ramp shows at t, as `rampSample` gives it. */
export const rampColour = (ramp: RampValue, modes: RampModes, t: number): Triple =>
  rampSample(ramp, modes, t).colour;

/**
 * Writes a curve's table: a row for each point; then their number, and where the curve begins and
 * ends.
 */
export function writeCurve(into: Float32Array, base: number, curve: CurveValue): void {
  const points = [...curve.points].sort((a, b) => a[0] - b[0]).slice(0, CURVE_ROWS);
  const slopes = monotoneSlopes(
    points.map(([x]) => x),
    points.map(([, y]) => y),
  );
  points.forEach(([x, y], k) => {
    const row = base + k * CURVE_ROW;
    const start = points[k - 1]?.[0] ?? x;
    into[row + CURVE_COLUMNS.start] = start;
    // Points above each other make a jump, as steep as single precision allows.
    into[row + CURVE_COLUMNS.inverseWidth] =
      k === 0 ? 0 : x - start > LEAST_WIDTH ? 1 / (x - start) : 1e30;
    into[row + CURVE_COLUMNS.value] = y;
    into[row + CURVE_COLUMNS.slope] = slopes[k] ?? 0;
  });
  into.set([points[0]?.[0] ?? 0, points.at(-1)?.[0] ?? 1], base + points.length * CURVE_ROW);
  into[base + (CURVE_ROWS + 1) * CURVE_ROW] = Math.max(1, points.length);
}

/** A curve's value at x in double precision; it holds beyond its ends. */
export function curveValue(curve: CurveValue, x: number): number {
  const points = [...curve.points].sort((a, b) => a[0] - b[0]);
  const slopes = monotoneSlopes(
    points.map((point) => point[0]),
    points.map((point) => point[1]),
  );
  const after = points.findIndex((point) => point[0] > x);
  if (after < 0) return points.at(-1)?.[1] ?? 0;
  if (after === 0) return points[0]?.[1] ?? 0;
  const [[x0, y0], [x1, y1]] = [points[after - 1] ?? [0, 0], points[after] ?? [1, 1]];
  const width = x1 - x0,
    u = (x - x0) / width;
  return (
    y0 +
    (y1 - y0) * u * u * (3 - 2 * u) +
    u * (1 - u) * width * ((slopes[after - 1] ?? 0) * (1 - u) - (slopes[after] ?? 0) * u)
  );
}
