'use client';
import { useEffect, useRef } from 'react';
import { orderedStops, stopPlaces } from '@/core/compile/ramp-rows';
import { shortNumber } from '@/ui/NumberField';
import { rampGradient } from '@/ui/ramp-gradient';
import type { RampBarProps, RampDomain } from './edited-ramp';
import { inWindow, moved, outOfWindow, roundTicks, zoomed } from './ramp-window';
import type { RampWindow } from './ramp-window';
import { StopHandle } from './StopHandle';

const HEIGHT = 58;
const BAR_HEIGHT = 22;

/** The ramp as it looks, the values that arrive over it, its stops to drag, and its axis. */
export function RampBar(props: RampBarProps) {
  const { ramp, modes, domain, window: part, histogram, reading, onAdd } = props;
  const bar = useRef<HTMLDivElement>(null);
  useWheel(bar, part, props.onWindow);
  const placeAt = (clientX: number): number => {
    const box = bar.current?.getBoundingClientRect();
    const share = box ? (clientX - box.left) / box.width : 0;
    return Math.min(1, Math.max(0, outOfWindow(part, share)));
  };
  const stops = orderedStops(ramp, modes.layout);
  const places = stopPlaces(stops, modes.layout);
  return (
    <div className="mb-2">
      <div
        ref={bar}
        className="relative border border-line"
        style={{ height: HEIGHT }}
        data-testid="ramp-bar"
        title={
          'Double-click adds a stop. Ctrl and the wheel zoom, the wheel alone moves along. ' +
          'Alt and a click explains a point that uses this place.'
        }
        onClick={(event) => {
          if (event.altKey) props.onExplain?.(placeAt(event.clientX));
        }}
        onDoubleClick={(event) => {
          onAdd(placeAt(event.clientX));
        }}
      >
        <div
          className="absolute inset-x-0 bottom-0"
          style={{
            height: BAR_HEIGHT,
            background: rampGradient(ramp, modes, (share) => outOfWindow(part, share)),
          }}
        />
        {histogram ? <Arriving histogram={histogram} part={part} /> : null}
        {reading === null ? null : <Reading at={inWindow(part, reading)} value={reading} />}
        {stops.map((stop, k) => {
          const place = places[k] ?? 0;
          const beside = places.filter((each) => each === place).length;
          const before = places.slice(0, k).filter((each) => each === place).length;
          return (
            <StopHandle
              key={`${stop.id} ${String(k)}`}
              {...props}
              stop={stop}
              place={place}
              pile={{ size: beside, index: before }}
              placeAt={placeAt}
            />
          );
        })}
      </div>
      <Axis part={part} domain={domain} />
    </div>
  );
}

/** The wheel looks closer with Ctrl held, and along the ramp without: it changes no value. */
function useWheel(
  bar: { readonly current: HTMLDivElement | null },
  part: RampWindow,
  onWindow: (window: RampWindow) => void,
): void {
  useEffect(() => {
    const element = bar.current;
    if (!element) return;
    const turn = (event: WheelEvent): void => {
      const isLooking = event.ctrlKey || part.to - part.from < 1;
      if (!isLooking) return;
      event.preventDefault();
      const box = element.getBoundingClientRect();
      const at = outOfWindow(part, (event.clientX - box.left) / box.width);
      const along = (event.deltaX || event.deltaY) / box.width;
      onWindow(
        event.ctrlKey
          ? zoomed(part, 2 ** (event.deltaY / 240), at)
          : moved(part, along * (part.to - part.from)),
      );
    };
    element.addEventListener('wheel', turn, { passive: false });
    return () => {
      element.removeEventListener('wheel', turn);
    };
  }, [bar, part, onWindow]);
}

/** Round numbers under the bar: values where the domain is known, else shares of the ramp. */
function Axis({ part, domain }: { readonly part: RampWindow; readonly domain: RampDomain | null }) {
  const { from, to } = domain ?? { from: 0, to: 1 };
  const valueAt = (place: number): number => from + place * (to - from);
  const ends = [valueAt(part.from), valueAt(part.to)];
  const ticks = roundTicks(Math.min(...ends), Math.max(...ends), 8);
  return (
    <div
      className="figures relative mt-[8px] h-[14px] text-[10.5px] text-soft"
      data-testid="ramp-axis"
      aria-label={domain ? 'Values along the ramp' : 'Shares of the ramp'}
      role="img"
    >
      {from === to
        ? null
        : ticks.map((tick) => (
            <span
              key={tick}
              className="absolute top-0 -translate-x-1/2 leading-[14px]"
              style={{ left: `${String(inWindow(part, (tick - from) / (to - from)) * 100)}%` }}
            >
              {shortNumber(tick)}
            </span>
          ))}
    </div>
  );
}

/** Which part of the ramp the surface under the pointer uses. */
function Reading({ at, value }: { readonly at: number; readonly value: number }) {
  if (at < 0 || at > 1) return null;
  return (
    <span
      className="pointer-events-none absolute inset-y-0 z-10 w-0 border-l-2 border-weld"
      style={{ left: `${String(at * 100)}%` }}
      data-testid="ramp-reading"
      data-place={value.toFixed(4)}
    />
  );
}

interface ArrivingProps {
  readonly histogram: Uint32Array;
  readonly part: RampWindow;
}

function Arriving({ histogram, part }: ArrivingProps) {
  const tallest = Math.max(1, ...histogram);
  const [first, width] = [part.from * histogram.length, (part.to - part.from) * histogram.length];
  return (
    <svg
      className="absolute inset-x-0 top-0"
      width="100%"
      height={HEIGHT - BAR_HEIGHT}
      viewBox={`${String(first)} 0 ${String(width)} 1`}
      preserveAspectRatio="none"
      role="img"
      aria-label="How often each value arrives"
      data-testid="ramp-histogram"
    >
      {[...histogram].map((count, k) => (
        <rect
          key={k}
          x={k}
          width={1}
          y={1 - Math.sqrt(count / tallest)}
          height={Math.sqrt(count / tallest)}
          fill="var(--seam)"
        />
      ))}
    </svg>
  );
}
