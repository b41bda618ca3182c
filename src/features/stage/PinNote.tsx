'use client';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { CHANNELS } from '@/core/explain/explain-points';
import { walkStrand } from '@/core/edit/walk';
import { parseResultKey } from '@/core/graph/result-key';
import { boardAt } from '@/core/edit/board';
import { togglePin } from '@/state/editing';
import { pinName } from '@/state/pin-name';
import { stores } from '@/state/stores';
import { useDocument, useResults, useView } from '@/state/use-stores';
import { shortNumber } from '@/ui/NumberField';

/** Pins what is one step up or down the strands of the pinned output, where there is something. */
function walk(pin: string, way: 'up' | 'down'): void {
  const { document } = stores.document.getState();
  const board = boardAt(document, parseResultKey(pin).path.slice(0, -1));
  const next = walkStrand(document, board, pin, way);
  if (next !== null) stores.view.setState({ pin: next });
}

/** What is pinned, by name, with its range; arrow keys walk along its strands. */
export function PinNote() {
  const pin = useView((state) => state.pin);
  const name = useDocument(({ document }) => (pin === null ? '' : pinName(document, pin)));
  if (pin === null) return null;
  return (
    <div
      className={
        'flex flex-wrap items-center gap-x-2 bg-weld ' + 'px-2 py-1 text-[12px] text-weld-ink'
      }
      data-testid="pinned"
      onKeyDown={(event) => {
        if (event.key === 'ArrowLeft' || event.key === 'ArrowUp') walk(pin, 'up');
        else if (event.key === 'ArrowRight' || event.key === 'ArrowDown') walk(pin, 'down');
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    >
      <Step
        label="What feeds it"
        onStep={() => {
          walk(pin, 'up');
        }}
      >
        <ChevronLeft size={13} />
      </Step>
      <span>Pinned, shown flat: {name}</span>
      <Step
        label="What it feeds"
        onStep={() => {
          walk(pin, 'down');
        }}
      >
        <ChevronRight size={13} />
      </Step>
      <ChannelChoice pin={pin} />
      <PinnedRange pin={pin} />
      <button
        type="button"
        className="underline"
        onClick={() => {
          togglePin(pin);
        }}
      >
        back to the surface
      </button>
    </div>
  );
}

interface StepProps {
  readonly label: string;
  readonly onStep: () => void;
  readonly children: React.ReactNode;
}

function Step({ label, onStep, children }: StepProps) {
  return (
    <button
      type="button"
      aria-label={label}
      title={`${label}; arrow keys walk on`}
      className="grid h-[24px] w-[24px] place-items-center border border-weld-ink/40"
      onClick={onStep}
    >
      {children}
    </button>
  );
}

/** Which channel of a pinned vector or colour is shown, as grey; all of them unless chosen. */
function ChannelChoice({ pin }: { readonly pin: string }) {
  const kind = useResults((state) => state.taps.get(pin)?.kind ?? 'scalar');
  const channel = useView((state) => state.channel);
  const names = CHANNELS[kind];
  if (names.length < 2) return null;
  return (
    <span className="flex" role="group" aria-label="Channel that is shown">
      {[null, ...names.keys()].map((each) => (
        <button
          key={each}
          type="button"
          aria-pressed={channel === each}
          title={each === null ? 'All channels' : `Channel ${names[each] ?? ''} alone, as grey`}
          className={
            'min-h-[24px] min-w-[24px] border border-weld-ink/40 px-1 ' +
            (channel === each ? 'bg-weld-ink text-weld' : '')
          }
          onClick={() => {
            stores.view.setState({ channel: each });
          }}
        >
          {each === null ? 'all' : names[each]}
        </button>
      ))}
    </span>
  );
}

/** From which to which value it runs, beside the greys they have. */
function PinnedRange({ pin }: { readonly pin: string }) {
  const statistics = useResults((state) => state.taps.get(pin)?.statistics ?? null);
  if (!statistics) return null;
  return (
    <span className="flex items-center gap-1" title="Black is 0, white is 1">
      <span className="figures">{shortNumber(Number(statistics.minimum.toPrecision(3)))}</span>
      <span
        className="h-[8px] w-[46px] border border-weld-ink/40"
        style={{ background: 'linear-gradient(90deg, #000, #fff)' }}
        aria-hidden
      />
      <span className="figures">{shortNumber(Number(statistics.maximum.toPrecision(3)))}</span>
    </span>
  );
}
