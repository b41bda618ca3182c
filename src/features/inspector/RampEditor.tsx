'use client';
import { useState } from 'react';
import { addStop, moveStop, widestGap } from '@/core/edit/ramps';
import type { RampValue } from '@/core/graph/document';
import type { RampModes } from '@/core/nodes/ramp-table';
import type { PlacedFinding } from '@/state/findings-state';
import { useFindings } from '@/state/use-findings';
import type { ColourSource } from '@/ui/ColourPanel';
import { RampBar } from './RampBar';
import type { ChangeRamp } from './change-ramp';
import { StopFields } from './StopFields';

interface Props {
  readonly ramp: RampValue;
  readonly modes: RampModes;
  readonly histogram: Uint32Array | null;
  readonly faults: readonly PlacedFinding[];
  readonly onChange: ChangeRamp;
  readonly onDone: () => void;
  readonly sources: () => readonly ColourSource[];
}

/** The stops of a ramp over the histogram of the values that arrive. */
export function RampEditor({ ramp, modes, histogram, faults, sources, onChange, onDone }: Props) {
  const [chosenId, setChosenId] = useState(ramp.stops[0]?.id ?? '');
  const shown = useFindings((state) => state.shown);
  const [followed, setFollowed] = useState<PlacedFinding | null>(null);
  if (shown !== followed) {
    // A finding that was gone to chooses its stop.
    setFollowed(shown);
    if (shown?.place.stop !== undefined) setChosenId(shown.place.stop);
  }
  const chosen = ramp.stops.find((stop) => stop.id === chosenId) ?? ramp.stops[0];
  const remove = (id: string): void => {
    const last = ramp.stops.findLastIndex((stop) => stop.id === id);
    if (ramp.stops.length > 2 && last >= 0)
      onChange({ stops: ramp.stops.toSpliced(last, 1) }, null, 'Removed a stop');
  };
  const add = (place: number | null): void => {
    const added = addStop(ramp, modes, place ?? widestGap(ramp, modes), chosen?.position ?? 10);
    if (!added) return;
    onChange(added.ramp, null, 'Added a stop');
    setChosenId(added.id);
  };
  return (
    <div className="w-full max-w-[520px]" data-testid="ramp-editor">
      <RampBar
        ramp={ramp}
        modes={modes}
        histogram={histogram}
        chosenId={chosen?.id ?? null}
        faultyStops={new Set(faults.flatMap(({ place }) => place.stop ?? []))}
        onChoose={setChosenId}
        onAdd={add}
        onRemove={remove}
        onMove={(id, place, gesture) => {
          const moved = moveStop(ramp, modes, id, place);
          const label = modes.layout === 'placed' ? 'Moved a stop' : 'Moved a border';
          if (moved) onChange(moved, gesture, label);
        }}
        onDone={onDone}
      />
      {chosen ? (
        <StopFields
          ramp={ramp}
          stop={chosen}
          layout={modes.layout}
          onChange={onChange}
          onAdd={add}
          onRemove={remove}
          onDone={onDone}
          sources={sources}
        />
      ) : null}
    </div>
  );
}
