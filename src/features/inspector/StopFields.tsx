'use client';
import {
  changeStop,
  distribute,
  mirrored,
  reverse,
  toggleOpen,
  withSegments,
} from '@/core/edit/ramps';
import { LIMITS, SEGMENTS } from '@/core/graph/document';
import type { RampStop, RampValue, Segment } from '@/core/graph/document';
import { STOP_ASPECTS } from '@/core/nodes/ramp-table';
import type { RampModes } from '@/core/nodes/ramp-table';
import { Button } from '@/ui/Button';
import { focusBoard } from '@/ui/focus-board';
import { Choose } from '@/ui/Choose';
import { ColourField } from '@/ui/ColourField';
import type { ColourSource } from '@/ui/ColourPanel';
import { NumberField } from '@/ui/NumberField';
import type { ChangeRamp } from './change-ramp';

const WAYS: Record<Segment, string> = {
  linear: 'Linear',
  smooth: 'Smooth',
  spline: 'Spline',
  hold: 'Hold',
};

interface Props {
  readonly ramp: RampValue;
  readonly stop: RampStop;
  readonly layout: RampModes['layout'];
  readonly onChange: ChangeRamp;
  /** At a place, or in the widest gap. */
  readonly onAdd: (place: number | null) => void;
  readonly onRemove: (id: string) => void;
  readonly onDone: () => void;
  /** Where a colour may be taken from. */
  readonly sources: () => readonly ColourSource[];
}

/** What there is to set on the chosen stop, and on the ramp as a whole. */
export function StopFields(props: Props) {
  const { ramp, stop, layout, onChange, onAdd, onRemove } = props;
  return (
    <div className="mt-3 flex flex-wrap items-center gap-2 text-[12px]">
      <StopValues {...props} />
      <Button
        onClick={() => {
          onAdd(null);
        }}
        title="In the widest gap"
        disabled={ramp.stops.length >= LIMITS.rampStops}
      >
        Add stop
      </Button>
      <Button
        onClick={() => {
          onRemove(stop.id);
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
      {layout === 'placed' ? <SpreadButtons ramp={ramp} stop={stop} onChange={onChange} /> : null}
      <StopInputs {...props} />
    </div>
  );
}

/** Place, colour, alpha and way of one stop. */
function StopValues({ ramp, stop, layout, sources, onChange, onDone }: Props) {
  const set = (change: Partial<RampStop>, label: string, gesture: string | null = null): void => {
    onChange(changeStop(ramp, stop.id, change), gesture, label);
  };
  return (
    <>
      {layout === 'bands' ? null : (
        <NumberField
          label={layout === 'placed' ? 'Stop position' : 'Stop share'}
          value={stop.position}
          {...(layout === 'placed' ? { low: 0, high: 1 } : { low: 0, high: 100000 })}
          onCommit={(position) => {
            set({ position }, 'Moved a stop');
          }}
        />
      )}
      <ColourField
        label="Stop colour"
        value={stop.colour}
        compact
        sources={sources}
        onChange={(colour) => {
          set({ colour }, 'Coloured a stop', `colour ${stop.id}`);
        }}
        onDone={onDone}
      />
      <NumberField
        className="!w-[52px]"
        label="Stop alpha"
        value={stop.alpha}
        low={0}
        high={1}
        onCommit={(alpha) => {
          set({ alpha }, 'Changed a stop');
        }}
      />
      {layout === 'placed' ? (
        <Choose
          focusAfter={focusBoard}
          label="Way to the next stop"
          value={stop.segment}
          items={[...SEGMENTS]
            .reverse()
            .map((segment) => ({ value: segment, title: WAYS[segment] }))}
          onChange={(segment) => {
            set({ segment: segment as Segment }, 'Changed a stop');
          }}
        />
      ) : null}
    </>
  );
}

function SpreadButtons({ ramp, stop, onChange }: Pick<Props, 'ramp' | 'stop' | 'onChange'>) {
  const reflected = mirrored(ramp, LIMITS.rampStops);
  return (
    <>
      <Button
        title="The way of this stop for all of them"
        onClick={() => {
          onChange(withSegments(ramp, stop.segment), null, `Made all ways ${stop.segment}`);
        }}
      >
        All ways
      </Button>
      <Button
        onClick={() => {
          onChange(distribute(ramp), null, 'Distributed the stops');
        }}
      >
        Distribute
      </Button>
      <Button
        onClick={() => {
          if (reflected) onChange(reflected, null, 'Mirrored the ramp');
        }}
        disabled={reflected === null}
      >
        Mirror
      </Button>
    </>
  );
}

/** Which aspects of the stop are inputs of the node, to be wired or driven. */
function StopInputs({ ramp, stop, layout, onChange }: Props) {
  const aspects = STOP_ASPECTS.filter((aspect) => layout !== 'bands' || aspect !== 'position');
  return (
    <span
      className="flex items-center gap-1 text-soft"
      role="group"
      aria-label="Inputs of this stop"
    >
      as input
      {aspects.map((aspect) => {
        const isOpen = stop.open?.includes(aspect) ?? false;
        return (
          <button
            key={aspect}
            type="button"
            aria-pressed={isOpen}
            className={
              'press rounded-[2px] border px-1 text-[11px] ' +
              (isOpen ? 'border-weld text-ink' : 'border-line')
            }
            onClick={() => {
              const label = isOpen ? 'Closed an input' : 'Opened an input';
              onChange(toggleOpen(ramp, stop.id, aspect), null, label);
            }}
          >
            {layout === 'proportions' && aspect === 'position' ? 'share' : aspect}
          </button>
        );
      })}
    </span>
  );
}
