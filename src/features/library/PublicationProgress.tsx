'use client';
import { useEffect, useEffectEvent } from 'react';
import { cancelJob } from '@/contract/jobs';
import type { Job } from '@/contract/jobs';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import { useChange } from '@/state/use-call';
import { useJob } from '@/state/use-jobs';
import { Button } from '@/ui/Button';
import { ProblemNote } from '@/ui/ProblemNote';
import { Progress } from '@/ui/Progress';
import { tellProblem } from '@/ui/tell-problem';

interface Props {
  readonly id: string;
  /** It is done; what came of it stands in its result. */
  readonly onDone: (job: Job | undefined) => void;
  /** It was refused or has failed. */
  readonly onEnded: (reason: Problem | null) => void;
}

/**
 * How far a publication is, until it has ended. It goes on when this is closed; the page Work shows
 * it.
 */
export function PublicationProgress({ id, onDone, onEnded }: Props) {
  const { data: job, error } = useJob(id);
  const cancel = useChange(cancelJob);
  const ended = useEffectEvent((state: string) => {
    if (state === 'done') onDone(job);
    else if (state === 'refused' || state === 'failed') onEnded(job?.reason ?? null);
  });
  const state = job?.state;
  useEffect(() => {
    if (state) ended(state);
  }, [state]);
  if (error) return <ProblemNote problem={describeError(error)} />;
  return (
    <div className="flex items-end gap-3" data-testid="publication">
      <Progress
        share={job?.progress ?? 0}
        label={job?.step || 'Waiting for a worker'}
        className="flex-1"
      />
      <Button
        onClick={() => {
          cancel.mutate({ params: { id }, body: {} }, { onError: tellProblem });
        }}
        disabled={cancel.isPending}
      >
        Cancel
      </Button>
    </div>
  );
}
