'use client';
import { changeStop, toggleOpen } from '@/core/edit/ramps';
import { SEGMENTS } from '@/core/graph/document';
import type { RampStop, RampValue, Segment } from '@/core/graph/document';
import { STOP_ASPECTS } from '@/core/nodes/ramp-table';
import type { RampModes } from '@/core/nodes/ramp-table';
import { focusBoard } from '@/ui/focus-board';
import { Choose } from '@/ui/Choose';
import { ColourField } from '@/ui/ColourField';
import type { ColourSource } from '@/ui/ColourPanel';
import { NumberField } from '@/ui/NumberField';
import type { ChangeRamp, RampDomain } from './edited-ramp';

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
  readonly domain: RampDomain | null;
  readonly onDone: () => void;
  /** Where a colour may be taken from. */
  readonly sources: () => readonly ColourSource[];
}

/** What there is to set on the chosen stop. */
export function StopFields(props: Props) {
  return (
    <div className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1.5 text-[12px]">
      <StopValues {...props} />
      <StopInputs {...props} />
    </div>
  );
}

/** Place, colour, alpha and way of one stop. */
function StopValues({ ramp, stop, layout, domain, sources, onChange, onDone }: Props) {
  const set = (change: Partial<RampStop>, label: string, gesture: string | null = null): void => {
    onChange(changeStop(ramp, stop.id, change), gesture, label);
  };
  return (
    <>
      <StopPlace {...{ stop, layout, domain, set }} />
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

interface PlaceProps extends Pick<Props, 'stop' | 'layout' | 'domain'> {
  readonly set: (change: Partial<RampStop>, label: string) => void;
}

/** Where a stop stands: as a value of the domain, and as a share of the ramp. */
function StopPlace({ stop, layout, domain, set }: PlaceProps) {
  return (
    <>
      {layout === 'placed' && domain && (domain.from !== 0 || domain.to !== 1) ? (
        <NumberField
          label="Stop value"
          value={domain.from + stop.position * (domain.to - domain.from)}
          {...{ low: Math.min(domain.from, domain.to), high: Math.max(domain.from, domain.to) }}
          onCommit={(value) => {
            const width = domain.to - domain.from;
            if (width !== 0) set({ position: (value - domain.from) / width }, 'Moved a stop');
          }}
        />
      ) : null}
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
      title="What is opened can be wired on the board, or driven by a dial."
    >
      opened as inputs of the node:
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
