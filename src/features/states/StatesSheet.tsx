'use client';
import { useState } from 'react';
import type { ModelEntry } from '@/contract/models';
import { describeError } from '@/core/base/problem';
import type { Evaluation } from '@/state/evaluation';
import { useStates } from '@/state/kept-states';
import type { Saver } from '@/state/saving';
import { ProblemNote } from '@/ui/ProblemNote';
import { Sheet } from '@/ui/Sheet';
import { CompareStates } from './CompareStates';
import { KeepState } from './KeepState';
import { RevisionList } from './RevisionList';
import { StateStrip } from './StateStrip';
import type { Sides } from './side-choices';

interface Props {
  readonly open: boolean;
  readonly onClose: () => void;
  readonly evaluation: Evaluation;
  readonly saver: Saver;
  readonly models: readonly ModelEntry[];
  readonly onModel: (id: string, name: string) => Promise<void>;
}

/** The kept states of the open material, and any two of its states beside each other. */
export function StatesSheet({ open, onClose, ...given }: Props) {
  return (
    <Sheet
      docks
      open={open}
      width={520}
      onClose={onClose}
      title="States"
      description="Moments of this material, kept to come back to and to compare."
    >
      {open ? <States {...given} /> : null}
    </Sheet>
  );
}

function States({ evaluation, saver, models, onModel }: Omit<Props, 'open' | 'onClose'>) {
  const { data, error } = useStates();
  const [sides, setSides] = useState<Sides>({ before: null, after: { of: 'now' } });
  const states = data?.states ?? NONE;
  return (
    <div className="flex flex-col gap-3" data-testid="states">
      <KeepState saver={saver} count={states.length} />
      {error ? <ProblemNote problem={describeError(error)} /> : null}
      <StateStrip
        states={states}
        sides={sides}
        onModel={async (id) => {
          await onModel(id, models.find((model) => model.id === id)?.name ?? 'Model');
        }}
        onChoose={(place, side) => {
          setSides((now) => ({ ...now, [place]: side }));
        }}
      />
      <RevisionList
        evaluation={evaluation}
        sides={sides}
        onChoose={(place, side) => {
          setSides((now) => ({ ...now, [place]: side }));
        }}
      />
      <CompareStates
        evaluation={evaluation}
        models={models}
        states={states}
        sides={sides}
        onSides={setSides}
      />
    </div>
  );
}
const NONE: never[] = [];
