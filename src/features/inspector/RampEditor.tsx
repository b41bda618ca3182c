'use client';
import { useRef, useState } from 'react';
import type { RampStop, RampValue, Segment } from '@/core/graph/document';
import { LIMITS } from '@/core/graph/document';
import { toHex } from '@/core/surface/colour-science';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { ColourField } from '@/ui/ColourField';
import { NumberField } from '@/ui/NumberField';

interface Props { readonly ramp: RampValue; readonly histogram: Uint32Array | null; readonly onChange: (ramp: RampValue, gesture: string | null, label: string) => void; readonly onDone: () => void }

const HEIGHT = 58;
const SEGMENTS = [{ value: 'linear', title: 'Linear' }, { value: 'smooth', title: 'Smooth' }, { value: 'hold', title: 'Hold' }];
const sorted = (stops: readonly RampStop[]): readonly RampStop[] => [...stops].sort((a, b) => a.position - b.position);

/** A CSS gradient close to what the ramp gives; exact colours come from the network. */
function gradientOf(stops: readonly RampStop[]): string {
  const parts = sorted(stops).flatMap((stop, k, all) => {
    const next = all[k + 1];
    const at = `${toHex(stop.colour)} ${(stop.position * 100).toFixed(2)}%`;
    return stop.segment === 'hold' && next ? [at, `${toHex(stop.colour)} ${(next.position * 100).toFixed(2)}%`] : [at];
  });
  return `linear-gradient(90deg, ${parts.join(', ')})`;
}

function mixAt(stops: readonly RampStop[], position: number): RampStop['colour'] {
  const all = sorted(stops);
  const after = all.find((stop) => stop.position >= position), before = [...all].reverse().find((stop) => stop.position <= position);
  if (!after || !before) return (after ?? before)?.colour ?? [0.5, 0.5, 0.5];
  const t = after.position > before.position ? (position - before.position) / (after.position - before.position) : 0;
  return [0, 1, 2].map((k) => (before.colour[k] ?? 0) + ((after.colour[k] ?? 0) - (before.colour[k] ?? 0)) * t) as unknown as RampStop['colour'];
}

/** The stops of a ramp over the histogram of the values that arrive. */
export function RampEditor({ ramp, histogram, onChange, onDone }: Props) {
  const bar = useRef<HTMLDivElement>(null);
  const [chosenId, setChosenId] = useState(ramp.stops[0]?.id ?? '');
  const chosen = ramp.stops.find((stop) => stop.id === chosenId) ?? ramp.stops[0];
  const replace = (id: string, change: Partial<RampStop>, gesture: string | null, label: string): void => { onChange({ stops: ramp.stops.map((stop) => (stop.id === id ? { ...stop, ...change } : stop)) }, gesture, label); };
  const place = (clientX: number): number => {
    const box = bar.current?.getBoundingClientRect();
    return box ? Math.min(1, Math.max(0, (clientX - box.left) / box.width)) : 0;
  };
  const add = (position: number): void => {
    if (ramp.stops.length >= LIMITS.rampStops) return;
    let k = 1;
    while (ramp.stops.some((stop) => stop.id === `s${String(k)}`)) k++;
    const stop: RampStop = { id: `s${String(k)}`, position, colour: mixAt(ramp.stops, position), alpha: 1, segment: 'linear' };
    onChange({ stops: [...ramp.stops, stop] }, null, 'Added a stop');
    setChosenId(stop.id);
  };
  const remove = (id: string): void => { if (ramp.stops.length > 2) onChange({ stops: ramp.stops.filter((stop) => stop.id !== id) }, null, 'Removed a stop'); };
  const reverse = (): void => {
    const all = sorted(ramp.stops);
    const segments = all.map((stop) => stop.segment);
    onChange({ stops: all.map((stop, k): RampStop => ({ ...stop, position: 1 - stop.position, segment: segments[k - 1] ?? stop.segment })).reverse() }, null, 'Reversed the ramp');
  };
  const tallest = Math.max(1, ...(histogram ?? []));
  return (
    <div className="w-full max-w-[460px]" data-testid="ramp-editor">
      <div ref={bar} className="relative border border-line" style={{ height: HEIGHT }} onDoubleClick={(event) => { add(place(event.clientX)); }}>
        <div className="absolute inset-x-0 bottom-0 h-[22px]" style={{ background: gradientOf(ramp.stops) }} />
        {histogram && (
          <svg className="absolute inset-x-0 top-0" width="100%" height={HEIGHT - 22} viewBox={`0 0 ${String(histogram.length)} 1`} preserveAspectRatio="none" role="img" aria-label="How often each value arrives" data-testid="ramp-histogram">
            {[...histogram].map((count, k) => <rect key={k} x={k} width={1} y={1 - Math.sqrt(count / tallest)} height={Math.sqrt(count / tallest)} fill="var(--seam)" />)}
          </svg>
        )}
        {ramp.stops.map((stop) => (
          <button key={stop.id} type="button" data-testid={`stop-${stop.id}`} aria-label={`Stop at ${stop.position.toFixed(2)}`} aria-pressed={stop.id === chosen?.id}
            className={`absolute bottom-[-7px] h-[38px] w-[11px] -translate-x-1/2 cursor-ew-resize touch-none border ${stop.id === chosen?.id ? 'border-weld' : 'border-ink'}`}
            style={{ left: `${String(stop.position * 100)}%`, background: toHex(stop.colour) }}
            onPointerDown={(event) => { event.currentTarget.setPointerCapture(event.pointerId); setChosenId(stop.id); }}
            onPointerMove={(event) => { if (event.currentTarget.hasPointerCapture(event.pointerId)) replace(stop.id, { position: Number(place(event.clientX).toFixed(4)) }, `stop ${stop.id}`, 'Moved a stop'); }}
            onPointerUp={(event) => { event.currentTarget.releasePointerCapture(event.pointerId); onDone(); }}
            onKeyDown={(event) => {
              event.stopPropagation();
              if (event.key === 'Delete') remove(stop.id);
              const step = event.key === 'ArrowLeft' ? -0.01 : event.key === 'ArrowRight' ? 0.01 : 0;
              if (step !== 0) replace(stop.id, { position: Math.min(1, Math.max(0, stop.position + step)) }, null, 'Moved a stop');
            }} />
        ))}
      </div>
      {chosen && (
        <div className="mt-3 flex flex-wrap items-center gap-2 text-[12px]">
          <NumberField label="Stop position" value={chosen.position} low={0} high={1} onCommit={(position) => { replace(chosen.id, { position }, null, 'Moved a stop'); }} />
          <ColourField label="Stop colour" value={chosen.colour} compact onChange={(colour) => { replace(chosen.id, { colour }, `colour ${chosen.id}`, 'Coloured a stop'); }} />
          <Choose label="Way to the next stop" value={chosen.segment} items={SEGMENTS} onChange={(segment) => { replace(chosen.id, { segment: segment as Segment }, null, 'Changed a stop'); }} />
          <Button onClick={() => { add(0.5); }}>Add stop</Button>
          <Button onClick={() => { remove(chosen.id); }} disabled={ramp.stops.length <= 2}>Remove</Button>
          <Button onClick={reverse}>Reverse</Button>
        </div>
      )}
    </div>
  );
}
