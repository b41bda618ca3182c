'use client';
import { History, Redo2, Undo2 } from 'lucide-react';
import { Popover } from 'radix-ui';
import { redo, redoSteps, undo, undoSteps } from '@/state/editing';
import type { DocumentState } from '@/state/stores';
import { useDocument } from '@/state/use-stores';
import { Button } from '@/ui/Button';

/** Undo, redo, and all steps by name. */
export function HistoryMenu() {
  const past = useDocument((state) => state.past.at(-1)?.label);
  const future = useDocument((state) => state.future.at(-1)?.label);
  return (
    <span className="flex">
      <Button
        look="quiet"
        aria-label="Undo"
        title={past ? `Undo: ${past} (Ctrl+Z)` : 'Nothing to undo'}
        disabled={!past}
        onClick={() => {
          undo();
        }}
      >
        <Undo2 size={14} />
      </Button>
      <Button
        look="quiet"
        aria-label="Redo"
        title={future ? `Redo: ${future} (Ctrl+Y)` : 'Nothing to redo'}
        disabled={!future}
        onClick={() => {
          redo();
        }}
      >
        <Redo2 size={14} />
      </Button>
      <Popover.Root>
        <Popover.Trigger asChild>
          <Button
            look="quiet"
            aria-label="History"
            title="Every step, by name"
            disabled={!past && !future}
          >
            <History size={14} />
          </Button>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="end"
            sideOffset={6}
            aria-label="History"
            className={
              'z-40 max-h-[60vh] w-[250px] overflow-auto border border-line bg-panel p-1 ' +
              'text-[12px] text-ink shadow-xl'
            }
          >
            <Steps />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </span>
  );
}

type Step = DocumentState['past'][number];

function Steps() {
  const past = useDocument((state) => state.past);
  const future = useDocument((state) => state.future);
  return (
    <ol className="flex flex-col">
      {future.map((step, k) => (
        <StepRow
          key={`ahead ${String(k)}`}
          step={step}
          isAhead
          onChoose={() => {
            redoSteps(future.length - k);
          }}
        />
      ))}
      <li className="stitched my-0.5 px-2 py-1 font-semibold" aria-current="step">
        Now
      </li>
      {past.toReversed().map((step, k) => (
        <StepRow
          key={`behind ${String(past.length - k)}`}
          step={step}
          isAhead={false}
          onChoose={() => {
            undoSteps(k + 1);
          }}
        />
      ))}
    </ol>
  );
}

interface RowProps {
  readonly step: Step;
  readonly isAhead: boolean;
  readonly onChoose: () => void;
}
function StepRow({ step, isAhead, onChoose }: RowProps) {
  return (
    <li>
      <button
        type="button"
        title={isAhead ? 'Does it again' : 'Goes back to before this'}
        className={
          'min-h-[24px] w-full px-2 text-left hover:bg-raised ' + (isAhead ? 'text-soft' : '')
        }
        onClick={onChoose}
      >
        {step.label}
      </button>
    </li>
  );
}
