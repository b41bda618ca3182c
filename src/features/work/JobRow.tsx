'use client';
import Link from 'next/link';
import { cancelJob } from '@/contract/jobs';
import type { Job, JobState } from '@/contract/jobs';
import { useChange } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { ProblemNote } from '@/ui/ProblemNote';
import { Progress } from '@/ui/Progress';
import { tellProblem } from '@/ui/tell-problem';

const WORDS: Readonly<Record<JobState, string>> = {
  waiting: 'Waiting',
  running: 'Running',
  done: 'Done',
  refused: 'Refused',
  failed: 'Failed',
};
/** Marks differ in shape, not only in colour. */
const MARKS: Readonly<Record<JobState, string>> = {
  waiting: '○',
  running: '◐',
  done: '●',
  refused: '✕',
  failed: '!',
};
/** How long it took, in the unit that tells it best. */
function duration({ startedAt, endedAt }: Job): string {
  if (!startedAt || !endedAt) return '';
  const seconds = (Date.parse(endedAt) - Date.parse(startedAt)) / 1000;
  return seconds < 90
    ? `in ${seconds.toFixed(seconds < 10 ? 1 : 0)} s`
    : `in ${(seconds / 60).toFixed(0)} min`;
}

/** Where what came of it is to be seen. */
function ResultLink({ job }: { readonly job: Job }) {
  const entryId = job.result?.['entryId'];
  if (job.state !== 'done' || typeof entryId !== 'string') return null;
  return (
    <Link className="ml-3 text-[12px] underline" href={`/library/${entryId}`}>
      Open in the library
    </Link>
  );
}

const when = new Intl.DateTimeFormat('en-GB', { dateStyle: 'short', timeStyle: 'short' });

/** One job: how far it is, what came of it and why, and a way to end it. */
export function JobRow({ job, withOwner }: { readonly job: Job; readonly withOwner: boolean }) {
  const cancel = useChange(cancelJob);
  const isTrouble = job.state === 'refused' || job.state === 'failed';
  return (
    <tr className="border-b border-line align-top" data-testid="job" data-state={job.state}>
      <td className={`py-2 ${isTrouble ? 'text-madder' : ''}`}>
        <span aria-hidden className="figures mr-1.5 inline-block w-3 text-center">
          {MARKS[job.state]}
        </span>
        {WORDS[job.state]} <span className="figures text-[11px] text-soft">{duration(job)}</span>
      </td>
      <td className="py-2 pr-4">
        <span className="font-semibold">{job.title}</span>
        <ResultLink job={job} />
        {job.state === 'running' ? (
          <Progress
            share={job.progress}
            label={job.step || 'Begun'}
            className="mt-1 max-w-[360px]"
          />
        ) : null}
        {job.state === 'waiting' && job.step ? (
          <p className="text-[12px] text-soft">{job.step}</p>
        ) : null}
        {job.reason ? (
          <ProblemNote problem={job.reason} className="mt-1 max-w-[70ch]" testId="job-reason" />
        ) : null}
      </td>
      {withOwner ? <td className="py-2 text-soft">{job.ownerName ?? 'the studio'}</td> : null}
      <td className="figures py-2 text-[12px] text-soft">
        <time dateTime={job.createdAt}>{when.format(new Date(job.createdAt))}</time>
      </td>
      <td className="py-1.5 text-right">
        {job.mayCancel ? (
          <Button
            aria-label={`Cancel ${job.title}`}
            disabled={cancel.isPending}
            onClick={() => {
              cancel.mutate({ params: { id: job.id }, body: {} }, { onError: tellProblem });
            }}
          >
            Cancel
          </Button>
        ) : null}
      </td>
    </tr>
  );
}
