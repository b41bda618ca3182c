'use client';
import { useEffect, useState } from 'react';
import { addStop, moveStop, moveStopsBeside, widestGap } from '@/core/edit/ramps';
import type { RampValue } from '@/core/graph/document';
import type { PlacedFinding } from '@/state/findings-state';
import { clearLevel, showLevel, watchArriving } from '@/state/probe';
import type { WatchedInput } from '@/state/stores';
import { useFindings } from '@/state/use-findings';
import { useProbe } from '@/state/use-stores';
import type { ColourSource } from '@/ui/ColourPanel';
import { RampBar } from './RampBar';
import type { ChangeRamp, EditedRamp, RampDomain } from './edited-ramp';
import { RampTools } from './RampTools';
import { WHOLE } from './ramp-window';
import { StopFields } from './StopFields';

interface Props extends EditedRamp {
  /** What arrives at the ramp, to be read on the stage. */
  readonly watched: WatchedInput;
  readonly histogram: Uint32Array | null;
  readonly faults: readonly PlacedFinding[];
  readonly onChange: ChangeRamp;
  readonly onDone: () => void;
  readonly sources: () => readonly ColourSource[];
  /** Explains the point of the surface at which such a value arrives. */
  readonly onExplain?: (value: number) => void;
}

const valueAt = ({ from, to }: RampDomain, place: number): number => from + place * (to - from);

/** Which stop is chosen; a finding that was gone to chooses its stop. */
function useChosenStop(ramp: RampValue) {
  const [chosenId, setChosenId] = useState(ramp.stops[0]?.id ?? '');
  const shown = useFindings((state) => state.shown);
  const [followed, setFollowed] = useState<PlacedFinding | null>(null);
  if (shown !== followed) {
    setFollowed(shown);
    if (shown?.place.stop !== undefined) setChosenId(shown.place.stop);
  }
  const chosen = ramp.stops.find((stop) => stop.id === chosenId) ?? ramp.stops[0];
  return { chosen, choose: setChosenId };
}

/** The place along the ramp that the surface under the pointer uses, 0–1; null for none. */
function useReading(domain: RampDomain | null, { path, input }: WatchedInput): number | null {
  const node = path.join('/');
  useEffect(() => watchArriving({ path: node.split('/'), input }), [node, input]);
  const value = useProbe((state) => state.reading?.[0] ?? null);
  if (!domain || value === null || domain.from === domain.to) return null;
  return Math.min(1, Math.max(0, (value - domain.from) / (domain.to - domain.from)));
}

/** What moves, adds and removes stops. */
function editsOf({ ramp, modes, domain, onChange }: Props, choose: (id: string) => void) {
  return {
    remove: (id: string): void => {
      const last = ramp.stops.findLastIndex((stop) => stop.id === id);
      if (ramp.stops.length > 2 && last >= 0)
        onChange({ stops: ramp.stops.toSpliced(last, 1) }, null, 'Removed a stop');
    },
    add: (place: number | null): void => {
      const added = addStop(ramp, modes, place ?? widestGap(ramp, modes));
      if (!added) return;
      onChange(added.ramp, null, 'Added a stop');
      choose(added.id);
    },
    move: (id: string, place: number, gesture: string | null, apart: boolean): void => {
      const isPlaced = modes.layout === 'placed';
      const next =
        isPlaced && !apart ? moveStopsBeside(ramp, id, place) : moveStop(ramp, modes, id, place);
      if (!next) return;
      const at = next.stops.find((stop) => stop.id === id)?.position ?? 0;
      if (gesture !== null && domain && isPlaced) showLevel(valueAt(domain, at));
      onChange(next, gesture, isPlaced ? 'Moved a stop' : 'Moved a border');
    },
  };
}

/** The stops of a ramp over the histogram of the values that arrive. */
export function RampEditor(props: Props) {
  const { ramp, modes, domain, watched, histogram, faults, sources, onChange, onDone } = props;
  const { onExplain } = props;
  const { chosen, choose } = useChosenStop(ramp);
  const [part, setPart] = useState(WHOLE);
  const reading = useReading(domain, watched);
  const { move, remove, add } = editsOf(props, choose);
  return (
    <div className="w-full max-w-[760px]" data-testid="ramp-editor">
      <RampBar
        ramp={ramp}
        modes={modes}
        domain={domain}
        window={part}
        onWindow={setPart}
        histogram={histogram}
        reading={reading}
        chosenId={chosen?.id ?? null}
        faultyStops={new Set(faults.flatMap(({ place }) => place.stop ?? []))}
        onChoose={choose}
        onAdd={add}
        onRemove={remove}
        onMove={move}
        onExplain={
          domain && onExplain
            ? (place) => {
                onExplain(valueAt(domain, place));
              }
            : null
        }
        onDone={() => {
          clearLevel();
          onDone();
        }}
      />
      {chosen ? (
        <RampTools
          {...{ ramp, modes, domain, stop: chosen, window: part, onWindow: setPart }}
          onChange={onChange}
          onAdd={add}
          onRemove={remove}
        />
      ) : null}
      {chosen ? (
        <StopFields
          {...{ ramp, stop: chosen, layout: modes.layout, domain, onChange, onDone, sources }}
        />
      ) : null}
    </div>
  );
}
