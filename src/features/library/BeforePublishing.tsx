'use client';
import { useEffect, useState } from 'react';
import { askConsequences } from '@/contract/shelf';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import { call } from '@/state/api';
import { useConsequences } from '@/state/releases';
import { Button } from '@/ui/Button';
import { ProblemNote } from '@/ui/ProblemNote';
import { ConsequenceList } from './ConsequenceList';

interface Props {
  readonly entryId: string;
  readonly groupId: string;
  /** Saves the material; what is looked at is what is saved. */
  readonly save: () => Promise<{ readonly materialId: string; readonly revision: number }>;
  readonly onSeen: (isSeen: boolean) => void;
}

/** The author sees what the release does to those who use the entry, before it goes out. */
export function BeforePublishing({ entryId, groupId, save, onSeen }: Props) {
  const [id, setId] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  const { data } = useConsequences(id);
  const isDone = data?.materials.every(({ state }) => state !== 'waiting') ?? false;
  useEffect(() => {
    onSeen(isDone);
  }, [isDone, onSeen]);
  const ask = async (): Promise<void> => {
    setProblem(null);
    try {
      const body = { version: null, candidate: { ...(await save()), groupId } };
      setId((await call(askConsequences, { params: { id: entryId }, body })).id);
    } catch (error) {
      setProblem(describeError(error));
    }
  };
  return (
    <section className="border-t border-line pt-2" aria-label="Consequences">
      <h3 className="text-[12px] text-soft">What it does to those who use it</h3>
      {problem ? <ProblemNote problem={problem} /> : null}
      {id === '' ? (
        <Button
          onClick={() => {
            void ask();
          }}
        >
          Look at the consequences
        </Button>
      ) : (
        <ConsequenceList id={id} />
      )}
    </section>
  );
}
