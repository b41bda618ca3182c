'use client';
import { useState } from 'react';
import { Popover } from 'radix-ui';
import { Trash2 } from 'lucide-react';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { forgetRamp, keepRamp, listRamps } from '@/contract/ramps';
import { describeError } from '@/core/base/problem';
import type { RampValue } from '@/core/graph/document';
import type { RampModes } from '@/core/nodes/ramp-table';
import { call } from '@/state/api';
import { Button } from '@/ui/Button';
import { IconButton } from '@/ui/IconButton';
import { ProblemNote } from '@/ui/ProblemNote';
import { tellProblem } from '@/ui/tell-problem';
import { gradientOf } from './RampBar';
import { RAMP_PRESETS } from './ramp-presets';
import type { RampToolsProps } from './edited-ramp';
import { WHOLE } from './ramp-window';

const KEY = ['ramps'];
const PLAIN: RampModes = { layout: 'placed', blend: 'light' };

interface Row {
  readonly name: string;
  readonly ramp: RampValue;
  /** Of a ramp that one keeps. */
  readonly id?: string;
}

/** Ramps to start from, and those one keeps. */
export function RampPresets({ ramp, modes, onChange }: RampToolsProps) {
  const [isOpen, setOpen] = useState(false);
  const take = ({ name, ramp: taken }: Row): void => {
    onChange(taken, null, `Took the ramp ${name}`);
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
          aria-label="Presets of ramps"
          className={
            'z-40 flex max-h-[60vh] w-[300px] flex-col gap-2 overflow-auto border border-seam ' +
            'bg-panel p-2 text-[12px] shadow-lg'
          }
          onKeyDown={(event) => {
            if (event.key !== 'Escape') event.stopPropagation();
          }}
        >
          <Rows title="From the studio" rows={RAMP_PRESETS} modes={modes} onTake={take} />
          <KeptRamps ramp={ramp} modes={modes} onTake={take} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

interface KeptProps {
  readonly ramp: RampValue;
  readonly modes: RampModes;
  readonly onTake: (row: Row) => void;
}

function KeptRamps({ ramp, modes, onTake }: KeptProps) {
  const client = useQueryClient();
  const kept = useQuery({ queryKey: KEY, queryFn: ({ signal }) => call(listRamps, { signal }) });
  const renew = (): void => void client.invalidateQueries({ queryKey: KEY });
  const rows = kept.data?.ramps ?? [];
  return (
    <>
      {kept.error ? <ProblemNote problem={describeError(kept.error)} /> : null}
      <Rows
        title="Kept by me"
        rows={rows}
        modes={modes}
        onTake={onTake}
        onForget={(id) => {
          call(forgetRamp, { params: { id } }).then(renew, tellProblem);
        }}
      />
      <KeepForm
        taken={new Set(rows.map(({ name }) => name))}
        onKeep={(name) => {
          call(keepRamp, { body: { name, ramp } }).then(renew, tellProblem);
        }}
      />
    </>
  );
}

interface FormProps {
  readonly taken: ReadonlySet<string>;
  readonly onKeep: (name: string) => void;
}

function KeepForm({ taken, onKeep }: FormProps) {
  const [name, setName] = useState('');
  const trimmed = name.trim();
  return (
    <form
      className="flex items-center gap-1 border-t border-line pt-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (!trimmed) return;
        onKeep(trimmed);
        setName('');
      }}
    >
      <input
        aria-label="Name to keep this ramp under"
        placeholder="Name for this ramp"
        maxLength={80}
        value={name}
        onChange={(event) => {
          setName(event.target.value);
        }}
        className="min-w-0 flex-1 border border-line bg-ground px-1.5 py-0.5"
      />
      <Button type="submit" disabled={!trimmed}>
        {taken.has(trimmed) ? 'Replace' : 'Keep'}
      </Button>
    </form>
  );
}

interface RowsProps {
  readonly title: string;
  readonly rows: readonly Row[];
  readonly modes: RampModes;
  readonly onTake: (row: Row) => void;
  readonly onForget?: (id: string) => void;
}

function Rows({ title, rows, modes, onTake, onForget }: RowsProps) {
  return (
    <section>
      <h3 className="mb-1 text-soft">{title}</h3>
      {rows.length === 0 ? <p>None yet. Give this one a name below to keep it.</p> : null}
      <ul className="flex flex-col gap-1">
        {rows.map((row) => (
          <li key={row.id ?? row.name} className="flex items-center gap-1">
            <button
              type="button"
              className="press flex min-w-0 flex-1 items-center gap-2 border border-line p-0.5"
              onClick={() => {
                onTake(row);
              }}
            >
              <span
                className="h-[20px] w-[120px] shrink-0"
                style={{ background: gradientOf(row.ramp, { ...PLAIN, ...modes }, WHOLE) }}
              />
              <span className="truncate">{row.name}</span>
            </button>
            {row.id !== undefined && onForget ? (
              <IconButton
                name={`Forget ${row.name}`}
                onClick={() => {
                  onForget(row.id ?? '');
                }}
              >
                <Trash2 size={13} />
              </IconButton>
            ) : null}
          </li>
        ))}
      </ul>
    </section>
  );
}
