import { own } from '../base/own';
import { orderedStops, rampSample, stopPlaces } from '../compile/ramp-rows';
import { LIMITS, isRamp, isTriple } from '../graph/document';
import type { InputValue, NodeInstance, RampStop, RampValue, Segment } from '../graph/document';
import type { RampModes, StopAspect } from '../nodes/ramp-table';
import { freshId } from './board';

/**
 * A ramp in which what is typed for an open stop is replaced; unchanged where the value does not
 * fit.
 */
export function withStop(
  node: NodeInstance,
  {
    input,
    id,
    aspect,
  }: { readonly input: string; readonly id: string; readonly aspect: StopAspect },
  value: InputValue | undefined,
): InputValue {
  const ramp = own(node.values, input);
  if (!isRamp(ramp)) return ramp ?? 0;
  const fits = aspect === 'colour' ? isTriple(value) : typeof value === 'number';
  return fits
    ? { stops: ramp.stops.map((stop) => (stop.id === id ? { ...stop, [aspect]: value } : stop)) }
    : ramp;
}

/** Opens an aspect of a stop as an input of the node, or closes it. */
export function toggleOpen(ramp: RampValue, id: string, aspect: StopAspect): RampValue {
  return {
    stops: ramp.stops.map((stop) => {
      if (stop.id !== id) return stop;
      const { open = [], ...rest } = stop;
      const next = open.includes(aspect)
        ? open.filter((each) => each !== aspect)
        : [...open, aspect];
      return next.length > 0 ? { ...rest, open: next } : rest;
    }),
  };
}

/**
 * The values of a node whose ramps are laid out in another way: what was seen stays, as far as the
 * layout allows.
 */
export function rearranged(
  node: NodeInstance,
  from: RampModes['layout'],
  to: RampModes['layout'],
): NodeInstance['values'] {
  return Object.fromEntries(
    Object.entries(node.values).map(([id, value]) => [
      id,
      isRamp(value) ? rearrangeStops(value, from, to) : value,
    ]),
  );
}

/** Places become shares (up to the next stop, in per cent), and shares places. */
export function rearrangeStops(
  ramp: RampValue,
  from: RampModes['layout'],
  to: RampModes['layout'],
): RampValue {
  if (from === to || (from !== 'proportions' && to !== 'proportions')) return ramp;
  const stops = orderedStops(ramp, from);
  const places = stopPlaces(stops, from);
  const position = (k: number): number =>
    to === 'proportions'
      ? Math.round(Math.max(1, ((places[k + 1] ?? 1) - (places[k] ?? 0)) * 100))
      : (places[k] ?? 0);
  return { stops: stops.map((stop, k) => ({ ...stop, position: position(k) })) };
}

/** Stops in turn at equal distances, from 0 to 1. */
export function distribute(ramp: RampValue): RampValue {
  const stops = orderedStops(ramp, 'placed');
  return {
    stops: stops.map((stop, k) => ({
      ...stop,
      position: stops.length > 1 ? k / (stops.length - 1) : 0,
    })),
  };
}

/** The ramp run backwards; each way keeps its shape. */
export function reverse(ramp: RampValue, layout: RampModes['layout']): RampValue {
  const stops = orderedStops(ramp, layout);
  if (layout === 'proportions') return { stops: [...stops].reverse() };
  return {
    stops: stops
      .map((stop, k): RampStop => ({
        ...stop,
        position: 1 - stop.position,
        segment: stops[k - 1]?.segment ?? stop.segment,
      }))
      .reverse(),
  };
}

/**
 * The ramp once forwards and once backwards, in half the room each; null where that would be more
 * stops than a ramp may have.
 */
export function mirrored(ramp: RampValue, most: number): RampValue | null {
  const stops = orderedStops(ramp, 'placed');
  const taken = new Set(stops.map((stop) => stop.id));
  const fresh = (): string => {
    let k = 1;
    while (taken.has(`s${String(k)}`)) k++;
    taken.add(`s${String(k)}`);
    return `s${String(k)}`;
  };
  const forwards = stops.map((stop) => ({ ...stop, position: stop.position / 2 }));
  const back = [...stops].reverse().map((stop, k, all): RampStop => {
    const { open: _closed, ...plain } = stop;
    return {
      ...plain,
      id: fresh(),
      position: 1 - stop.position / 2,
      segment: all[k + 1]?.segment ?? stop.segment,
    };
  });
  const turns = forwards.at(-1)?.position === back[0]?.position ? back.slice(1) : back;
  const [end] = back;
  const whole = forwards.map((stop, k) =>
    k === forwards.length - 1 && end && turns !== back ? { ...stop, segment: end.segment } : stop,
  );
  return whole.length + turns.length > most ? null : { stops: [...whole, ...turns] };
}

/** The shares on both sides of a border of a ramp by proportions, with the border put elsewhere. */
function shiftBorder(
  stops: readonly RampStop[],
  places: readonly number[],
  k: number,
  place: number,
): readonly RampStop[] {
  const total = stops.reduce((sum, stop) => sum + Math.max(0, stop.position), 0);
  const [low, high] = [places[k - 1] ?? 0, places[k + 1] ?? 1];
  const border = Math.min(high, Math.max(low, place));
  const share = (part: number): number => Number((part * total).toFixed(2));
  return stops.map((stop, at) =>
    at === k - 1
      ? { ...stop, position: share(border - low) }
      : at === k
        ? { ...stop, position: share(high - border) }
        : stop,
  );
}

/** Puts a stop, or the border before it, at a place along the ramp, 0–1; null if it cannot move. */
export function moveStop(
  ramp: RampValue,
  { layout }: RampModes,
  id: string,
  place: number,
): RampValue | null {
  const within = Math.min(1, Math.max(0, place));
  if (layout === 'placed') return changeStop(ramp, id, { position: Number(within.toFixed(4)) });
  const stops = orderedStops(ramp, layout);
  const k = stops.findIndex((stop) => stop.id === id);
  return layout === 'proportions' && k > 0
    ? { stops: shiftBorder(stops, stopPlaces(stops, layout), k, within) }
    : null;
}

/** The stops that stand where one stands, itself included, in their order along the ramp. */
export function stopsBeside(ramp: RampValue, id: string): readonly string[] {
  const place = ramp.stops.find((stop) => stop.id === id)?.position;
  return orderedStops(ramp, 'placed')
    .filter(({ position }) => position === place)
    .map((stop) => stop.id);
}

/**
 * Puts a stop of a ramp as placed at a place, 0–1, together with all that stand at the same one:
 * a hard border stays one.
 */
export function moveStopsBeside(ramp: RampValue, id: string, place: number): RampValue {
  const together = new Set(stopsBeside(ramp, id));
  const position = Number(Math.min(1, Math.max(0, place)).toFixed(4));
  return {
    stops: ramp.stops.map((stop) => (together.has(stop.id) ? { ...stop, position } : stop)),
  };
}

/** The ramp with one stop changed. */
export const changeStop = (ramp: RampValue, id: string, change: Partial<RampStop>): RampValue => ({
  stops: ramp.stops.map((stop) => (stop.id === id ? { ...stop, ...change } : stop)),
});

/**
 * A new stop at a place along the ramp, 0–1: in the colour and alpha the ramp has there, going on
 * the way that leads there, so that as far as the layout allows nothing looks different. Of shares
 * it takes its part of the share it stands in. Null when there are as many as there may be.
 */
export function addStop(
  ramp: RampValue,
  modes: RampModes,
  place: number,
): { readonly ramp: RampValue; readonly id: string } | null {
  if (ramp.stops.length >= LIMITS.rampStops) return null;
  const stops = orderedStops(ramp, modes.layout);
  const places = stopPlaces(stops, modes.layout);
  const after = stops.findIndex((_, at) => (places[at] ?? 0) > place);
  const at = after < 0 ? stops.length : after;
  const [before, start, end] = [stops[at - 1], places[at - 1] ?? 0, places[at] ?? 1];
  const left = end > start ? Math.min(1, Math.max(0, (place - start) / (end - start))) : 1;
  const isShare = modes.layout === 'proportions';
  const id = freshId('s', new Set(ramp.stops.map((stop) => stop.id)));
  const stop: RampStop = {
    id,
    position: isShare ? (before?.position ?? 1) * (1 - left) : place,
    ...rampSample(ramp, modes, place),
    segment: before?.segment ?? 'linear',
  };
  const kept = stops.map((each, k) =>
    isShare && k === at - 1 ? { ...each, position: each.position * left } : each,
  );
  return { ramp: { stops: kept.toSpliced(at, 0, stop) }, id };
}

/** The middle of the widest gap along a ramp, 0–1; its ends are borders of gaps, too. */
export function widestGap(ramp: RampValue, { layout }: RampModes): number {
  const places = stopPlaces(orderedStops(ramp, layout), layout);
  const ends = [0, ...places, 1].toSorted((a, b) => a - b);
  const widths = ends.slice(1).map((end, k) => end - (ends[k] ?? 0));
  const widest = widths.indexOf(Math.max(...widths));
  return ((ends[widest] ?? 0) + (ends[widest + 1] ?? 1)) / 2;
}

/** The ramp with one way from every stop to the next. */
export const withSegments = (ramp: RampValue, segment: Segment): RampValue => ({
  stops: ramp.stops.map((stop) => ({ ...stop, segment })),
});

/** A copied stop put into a ramp at a place, with an id of its own; null where it is full. */
export function insertStop(ramp: RampValue, stop: RampStop, place: number): RampValue | null {
  if (ramp.stops.length >= LIMITS.rampStops) return null;
  const { open: _closed, ...plain } = stop;
  const id = freshId('s', new Set(ramp.stops.map((each) => each.id)));
  const after = ramp.stops.findIndex(({ position }) => position > place);
  const at = after < 0 ? ramp.stops.length : after;
  return { stops: ramp.stops.toSpliced(at, 0, { ...plain, id, position: place }) };
}
