'use client';
import { useRef } from 'react';
import { orderedStops, rampColour, stopPlaces } from '@/core/compile/ramp-rows';
import type { RampStop, RampValue } from '@/core/graph/document';
import type { RampModes } from '@/core/nodes/ramp-table';
import { toHex } from '@/core/surface/colour-science';

interface Props {
  readonly ramp: RampValue;
  readonly modes: RampModes;
  readonly histogram: Uint32Array | null;
  readonly chosenId: string | null;
  readonly faultyStops: ReadonlySet<string>;
  readonly onChoose: (id: string) => void;
  /** Along the ramp, 0–1. */
  readonly onAdd: (place: number) => void;
  readonly onRemove: (id: string) => void;
  readonly onMove: (id: string, place: number, gesture: string | null) => void;
  readonly onDone: () => void;
}

const HEIGHT = 58;
const BAR_HEIGHT = 22;
const SAMPLES = 120;

/**
 * A CSS gradient through many colours of the ramp, so that holds, splines and perceptual blending
 * look as they will.
 */
function gradientOf(ramp: RampValue, modes: RampModes): string {
  const parts = Array.from(
    { length: SAMPLES + 1 },
    (_, k) => `${toHex(rampColour(ramp, modes, k / SAMPLES))} ${((k / SAMPLES) * 100).toFixed(2)}%`,
  );
  return `linear-gradient(90deg, ${parts.join(', ')})`;
}

/** The ramp as it looks, the values that arrive over it, and its stops to drag. */
export function RampBar(props: Props) {
  const { ramp, modes, histogram, onAdd } = props;
  const bar = useRef<HTMLDivElement>(null);
  const placeAt = (clientX: number): number => {
    const box = bar.current?.getBoundingClientRect();
    return box ? Math.min(1, Math.max(0, (clientX - box.left) / box.width)) : 0;
  };
  const stops = orderedStops(ramp, modes.layout);
  const places = stopPlaces(stops, modes.layout);
  return (
    <div
      ref={bar}
      className="relative border border-line"
      style={{ height: HEIGHT }}
      onDoubleClick={(event) => {
        onAdd(placeAt(event.clientX));
      }}
    >
      <div
        className="absolute inset-x-0 bottom-0"
        style={{ height: BAR_HEIGHT, background: gradientOf(ramp, modes) }}
      />
      {histogram ? <Arriving histogram={histogram} /> : null}
      {stops.map((stop, k) => (
        <StopHandle
          key={`${stop.id} ${String(k)}`}
          {...props}
          stop={stop}
          place={places[k] ?? 0}
          placeAt={placeAt}
        />
      ))}
    </div>
  );
}

function Arriving({ histogram }: { readonly histogram: Uint32Array }) {
  const tallest = Math.max(1, ...histogram);
  return (
    <svg
      className="absolute inset-x-0 top-0"
      width="100%"
      height={HEIGHT - BAR_HEIGHT}
      viewBox={`0 0 ${String(histogram.length)} 1`}
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

interface StopProps extends Props {
  readonly stop: RampStop;
  readonly place: number;
  readonly placeAt: (clientX: number) => number;
}

function StopHandle({ stop, place, placeAt, ...props }: StopProps) {
  const { modes, chosenId, faultyStops, onChoose, onMove, onRemove, onDone } = props;
  const isChosen = stop.id === chosenId;
  const isFaulty = faultyStops.has(stop.id);
  return (
    <button
      type="button"
      data-testid={`stop-${stop.id}`}
      aria-label={`Stop at ${place.toFixed(2)}${isFaulty ? ', with a fault' : ''}`}
      aria-pressed={isChosen}
      className={
        'absolute bottom-[-7px] h-[38px] w-[11px] -translate-x-1/2 touch-none border ' +
        `${modes.layout === 'bands' ? '' : 'cursor-ew-resize'} ` +
        `${stop.open ? 'border-dashed' : ''} ${isFaulty ? 'finding-shown' : ''} ` +
        (isChosen ? 'border-weld' : 'border-ink')
      }
      style={{ left: `${String(place * 100)}%`, background: toHex(stop.colour) }}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        onChoose(stop.id);
      }}
      onFocus={() => {
        onChoose(stop.id);
      }}
      onPointerMove={(event) => {
        if (event.currentTarget.hasPointerCapture(event.pointerId))
          onMove(stop.id, placeAt(event.clientX), `stop ${stop.id}`);
      }}
      onPointerUp={(event) => {
        event.currentTarget.releasePointerCapture(event.pointerId);
        onDone();
      }}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Delete') onRemove(stop.id);
        const step = event.key === 'ArrowLeft' ? -0.01 : event.key === 'ArrowRight' ? 0.01 : 0;
        if (step !== 0) onMove(stop.id, place + step, null);
      }}
    />
  );
}
