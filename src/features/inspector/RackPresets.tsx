'use client';
import { useState } from 'react';
import type { ReactNode } from 'react';
import { Popover } from 'radix-ui';
import { toast } from 'sonner';
import type { PresetGiven } from '@/contract/presets';
import { describeError } from '@/core/base/problem';
import type { RampModes } from '@/core/nodes/ramp-table';
import { usePresetActs, usePresets } from '@/state/presets';
import { Button } from '@/ui/Button';
import { ProblemNote } from '@/ui/ProblemNote';
import { KeepPreset } from '@/ui/presets/KeepPreset';
import { PresetRows, RackRows } from '@/ui/presets/PresetRows';
import type { PresetRow } from '@/ui/presets/PresetRows';
import { tellProblem } from '@/ui/tell-problem';

type Kept = Pick<PresetGiven, 'kind' | 'value'>;
interface Props {
  /** What is kept: “ramp”, “curve”. */
  readonly noun: string;
  readonly kept: Kept;
  /** What ships with the application. */
  readonly shipped: readonly PresetRow[];
  readonly modes?: RampModes;
  readonly onTake: (row: PresetRow) => void;
  /** More to take from or to keep, under the list. */
  readonly more?: (close: () => void) => ReactNode;
}

/** Values to start from, those that stand on racks, and a place to keep the present one. */
export function RackPresets(props: Props) {
  const [isOpen, setOpen] = useState(false);
  const close = (): void => {
    setOpen(false);
  };
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button>Presets …</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="top"
          align="start"
          sideOffset={4}
          collisionPadding={8}
          aria-label={`Presets of ${props.noun}s`}
          className={
            'z-40 flex max-h-[60vh] w-[320px] flex-col gap-2 overflow-auto border border-seam ' +
            'bg-panel p-2 text-[12px] shadow-lg'
          }
          onKeyDown={(event) => {
            if (event.key !== 'Escape') event.stopPropagation();
          }}
        >
          <Lists {...props} onClose={close} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Lists({
  noun,
  kept,
  shipped,
  modes,
  onTake,
  more,
  onClose,
}: Props & { readonly onClose: () => void }) {
  const { data: list, error } = usePresets({ kind: kept.kind });
  const { keep, forget } = usePresetActs();
  const take = (row: PresetRow): void => {
    onTake(row);
    onClose();
  };
  return (
    <>
      <PresetRows title="Shipped with Bright Loom" rows={shipped} modes={modes} onTake={take} />
      {error ? <ProblemNote problem={describeError(error)} /> : null}
      <RackRows
        list={list}
        modes={modes}
        onTake={take}
        onForget={(id) => {
          forget(id).catch(tellProblem);
        }}
      />
      {list?.presets.length === 0 ? (
        <p>None on your racks yet. Give this one a name below to keep it.</p>
      ) : null}
      {list?.hasMore ? <p className="text-soft">The library lists the others.</p> : null}
      {more?.(onClose)}
      <KeepPreset
        what={`this ${noun}`}
        list={list}
        onKeep={(name, rack) => {
          keep({ ...kept, name, rack: rack.id }).then(() => {
            toast(`Kept ${name} on the ${rack.name} rack`);
          }, tellProblem);
        }}
      />
    </>
  );
}
