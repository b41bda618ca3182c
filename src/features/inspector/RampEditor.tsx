'use client';
import { useRef, useState } from 'react';
import { rampColour, stopPlaces, orderedStops } from '@/core/compile/ramp-rows';
import { distribute, mirrored, reverse, toggleOpen } from '@/core/edit/ramps';
import { LIMITS, SEGMENTS } from '@/core/graph/document';
import type { RampStop, RampValue, Segment } from '@/core/graph/document';
import { STOP_ASPECTS } from '@/core/nodes/ramp-table';
import type { RampModes } from '@/core/nodes/ramp-table';
import { toHex } from '@/core/surface/colour-science';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { ColourField } from '@/ui/ColourField';
import { NumberField } from '@/ui/NumberField';

interface Props {
  readonly ramp: RampValue;
  readonly modes: RampModes;
  readonly histogram: Uint32Array | null;
  readonly onChange: (ramp: RampValue, gesture: string | null, label: string) => void;
  readonly onDone: () => void;
}

const HEIGHT = 58;
const SAMPLES = 120;
const WAYS: Record<Segment, string> = {
  linear: 'Linear',
  smooth: 'Smooth',
  spline: 'Spline',
  hold: 'Hold',
};

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

/** The shares on both sides of a border, when the border is put somewhere else. */
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

/** The stops of a ramp over the histogram of the values that arrive. */
export function RampEditor({ ramp, modes, histogram, onChange, onDone }: Props) {
  const bar = useRef<HTMLDivElement>(null);
  const [chosenId, setChosenId] = useState(ramp.stops[0]?.id ?? '');
  const chosen = ramp.stops.find((stop) => stop.id === chosenId) ?? ramp.stops[0];
  const { layout } = modes;
  const stops = orderedStops(ramp, layout);
  const places = stopPlaces(stops, layout);
  const replace = (
    id: string,
    change: Partial<RampStop>,
    gesture: string | null,
    label: string,
  ): void => {
    onChange(
      { stops: ramp.stops.map((stop) => (stop.id === id ? { ...stop, ...change } : stop)) },
      gesture,
      label,
    );
  };
  const placeAt = (clientX: number): number => {
    const box = bar.current?.getBoundingClientRect();
    return box ? Math.min(1, Math.max(0, (clientX - box.left) / box.width)) : 0;
  };
  const move = (id: string, place: number, gesture: string | null): void => {
    if (layout === 'placed')
      return replace(
        id,
        { position: Number(Math.min(1, Math.max(0, place)).toFixed(4)) },
        gesture,
        'Moved a stop',
      );
    const k = stops.findIndex((stop) => stop.id === id);
    if (layout === 'proportions' && k > 0)
      onChange({ stops: shiftBorder(stops, places, k, place) }, gesture, 'Moved a border');
  };
  const add = (place: number): void => {
    if (ramp.stops.length >= LIMITS.rampStops) return;
    let k = 1;
    while (ramp.stops.some((stop) => stop.id === `s${String(k)}`)) k++;
    const after = stops.findIndex((_, at) => (places[at] ?? 0) > place);
    const position = layout === 'proportions' ? (chosen?.position ?? 10) : place;
    const stop: RampStop = {
      id: `s${String(k)}`,
      position,
      colour: rampColour(ramp, modes, place),
      alpha: 1,
      segment: 'linear',
    };
    const at = after < 0 ? stops.length : after;
    onChange({ stops: [...stops.slice(0, at), stop, ...stops.slice(at)] }, null, 'Added a stop');
    setChosenId(stop.id);
  };
  const remove = (id: string): void => {
    if (ramp.stops.length > 2)
      onChange({ stops: ramp.stops.filter((stop) => stop.id !== id) }, null, 'Removed a stop');
  };
  const mirror = (): void => {
    const next = mirrored(ramp, LIMITS.rampStops);
    if (next) onChange(next, null, 'Mirrored the ramp');
  };
  const tallest = Math.max(1, ...(histogram ?? []));
  return (
    <div className="w-full max-w-[520px]" data-testid="ramp-editor">
      <div
        ref={bar}
        className="relative border border-line"
        style={{ height: HEIGHT }}
        onDoubleClick={(event) => {
          add(placeAt(event.clientX));
        }}
      >
        <div
          className="absolute inset-x-0 bottom-0 h-[22px]"
          style={{ background: gradientOf(ramp, modes) }}
        />
        {histogram && (
          <svg
            className="absolute inset-x-0 top-0"
            width="100%"
            height={HEIGHT - 22}
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
        )}
        {stops.map((stop, k) => (
          <button
            key={stop.id}
            type="button"
            data-testid={`stop-${stop.id}`}
            aria-label={`Stop at ${(places[k] ?? 0).toFixed(2)}`}
            aria-pressed={stop.id === chosen?.id}
            className={
              'absolute bottom-[-7px] h-[38px] w-[11px] -translate-x-1/2 touch-none border ' +
              `${layout === 'bands' ? '' : 'cursor-ew-resize'} ` +
              `${stop.open ? 'border-dashed' : ''} ` +
              (stop.id === chosen?.id ? 'border-weld' : 'border-ink')
            }
            style={{ left: `${String((places[k] ?? 0) * 100)}%`, background: toHex(stop.colour) }}
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              setChosenId(stop.id);
            }}
            onPointerMove={(event) => {
              if (event.currentTarget.hasPointerCapture(event.pointerId))
                move(stop.id, placeAt(event.clientX), `stop ${stop.id}`);
            }}
            onPointerUp={(event) => {
              event.currentTarget.releasePointerCapture(event.pointerId);
              onDone();
            }}
            onKeyDown={(event) => {
              event.stopPropagation();
              if (event.key === 'Delete') remove(stop.id);
              const step =
                event.key === 'ArrowLeft' ? -0.01 : event.key === 'ArrowRight' ? 0.01 : 0;
              if (step !== 0) move(stop.id, (places[k] ?? 0) + step, null);
            }}
          />
        ))}
      </div>
      {chosen && (
        <div className="mt-3 flex flex-wrap items-center gap-2 text-[12px]">
          {layout === 'bands' ? null : (
            <NumberField
              label={layout === 'placed' ? 'Stop position' : 'Stop share'}
              value={chosen.position}
              {...(layout === 'placed' ? { low: 0, high: 1 } : { low: 0, high: 100000 })}
              onCommit={(position) => {
                replace(chosen.id, { position }, null, 'Moved a stop');
              }}
            />
          )}
          <ColourField
            label="Stop colour"
            value={chosen.colour}
            compact
            onChange={(colour) => {
              replace(chosen.id, { colour }, `colour ${chosen.id}`, 'Coloured a stop');
            }}
          />
          <NumberField
            className="!w-[52px]"
            label="Stop alpha"
            value={chosen.alpha}
            low={0}
            high={1}
            onCommit={(alpha) => {
              replace(chosen.id, { alpha }, null, 'Changed a stop');
            }}
          />
          {layout === 'placed' ? (
            <Choose
              label="Way to the next stop"
              value={chosen.segment}
              items={[...SEGMENTS]
                .reverse()
                .map((segment) => ({ value: segment, title: WAYS[segment] }))}
              onChange={(segment) => {
                replace(chosen.id, { segment: segment as Segment }, null, 'Changed a stop');
              }}
            />
          ) : null}
          <Button
            onClick={() => {
              add(0.5);
            }}
            disabled={ramp.stops.length >= LIMITS.rampStops}
          >
            Add stop
          </Button>
          <Button
            onClick={() => {
              remove(chosen.id);
            }}
            disabled={ramp.stops.length <= 2}
          >
            Remove
          </Button>
          <Button
            onClick={() => {
              onChange(reverse(ramp, layout), null, 'Reversed the ramp');
            }}
          >
            Reverse
          </Button>
          {layout === 'placed' ? (
            <Button
              onClick={() => {
                onChange(distribute(ramp), null, 'Distributed the stops');
              }}
            >
              Distribute
            </Button>
          ) : null}
          {layout === 'placed' ? (
            <Button onClick={mirror} disabled={mirrored(ramp, LIMITS.rampStops) === null}>
              Mirror
            </Button>
          ) : null}
          <span
            className="flex items-center gap-1 text-soft"
            role="group"
            aria-label="Inputs of this stop"
          >
            as input
            {STOP_ASPECTS.filter((aspect) => layout !== 'bands' || aspect !== 'position').map(
              (aspect) => (
                <button
                  key={aspect}
                  type="button"
                  aria-pressed={chosen.open?.includes(aspect) ?? false}
                  className={
                    'rounded-[2px] border px-1 text-[11px] ' +
                    (chosen.open?.includes(aspect) ? 'border-weld text-ink' : 'border-line')
                  }
                  onClick={() => {
                    onChange(
                      toggleOpen(ramp, chosen.id, aspect),
                      null,
                      chosen.open?.includes(aspect) ? 'Closed an input' : 'Opened an input',
                    );
                  }}
                >
                  {layout === 'proportions' && aspect === 'position' ? 'share' : aspect}
                </button>
              ),
            )}
          </span>
        </div>
      )}
    </div>
  );
}
