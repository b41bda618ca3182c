'use client';
import { useState } from 'react';
import { toast } from 'sonner';
import { MOST_REPEATS } from '@/core/edit/repeat';
import { repeatAsList, toggleOff } from '@/state/rewiring';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';

/** What there is to do with several chosen nodes at once. */
export function SelectionBench({ ids }: { readonly ids: readonly string[] }) {
  return (
    <div className="flex flex-wrap items-center gap-3 text-ink" data-testid="selection-bench">
      <strong>{ids.length} nodes</strong>
      <Button
        onClick={() => {
          toggleOff(ids);
        }}
        title="Ctrl+. ; off, they pass on what comes in"
      >
        Switch off or on
      </Button>
      <RepeatField ids={ids} />
      <span className="text-soft">Ctrl+G packages them as a group.</span>
    </div>
  );
}

/** Repeats a chain into the list it ends in. */
export function RepeatField({ ids }: { readonly ids: readonly string[] }) {
  const [count, setCount] = useState(5);
  return (
    <span className="flex items-center gap-1.5">
      <Button
        title="Copies of the chain, all wired into the list it ends in"
        onClick={() => {
          const refused = repeatAsList(ids, count);
          if (refused !== null) toast.error(refused);
        }}
      >
        Repeat in its list
      </Button>
      <NumberField
        className="!w-[52px]"
        label="How many in all"
        value={count}
        low={2}
        high={MOST_REPEATS}
        step={1}
        isWhole
        onCommit={setCount}
      />
      times
    </span>
  );
}
