import { orderedStops, stopPlaces } from '../compile/ramp-rows';
import { isRamp, isTriple } from '../graph/document';
import type { InputValue, NodeInstance, RampStop, RampValue } from '../graph/document';
import type { RampModes, StopAspect } from '../nodes/ramp-table';

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
  const ramp = node.values[input];
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
