'use client';
import { useState } from 'react';
import { isEnded } from '@/contract/jobs';
import type { Job, JobState } from '@/contract/jobs';
import { describeError } from '@/core/base/problem';
import { useJobs } from '@/state/use-jobs';
import { ProblemNote } from '@/ui/ProblemNote';
import { JobRow } from './JobRow';

const FILTERS = [
  { id: 'open', title: 'Not ended', holds: (state: JobState) => !isEnded(state) },
  {
    id: 'trouble',
    title: 'Refused or failed',
    holds: (state: JobState) => state === 'refused' || state === 'failed',
  },
  { id: 'all', title: 'All', holds: () => true },
] as const;

/** Background work: what waits, what runs and how far it is, what came of the rest. */
export function WorkScreen({ maySeeAll }: { readonly maySeeAll: boolean }) {
  const [everybody, setEverybody] = useState(false);
  const [shown, setShown] = useState<(typeof FILTERS)[number]['id']>('all');
  const { data, error } = useJobs(everybody);
  const filter = FILTERS.find(({ id }) => id === shown) ?? FILTERS[2];
  const jobs = data?.jobs.filter(({ state }) => filter.holds(state));
  return (
    <>
      <h1 className="mb-1 text-[18px] font-semibold">Work</h1>
      <p className="mb-3 text-soft">
        What the studio’s workers do for {everybody ? 'everybody' : 'you'} in the background.
      </p>
      <div className="mb-3 flex flex-wrap items-center gap-4">
        <div role="group" aria-label="Which jobs are shown" className="flex gap-3">
          {FILTERS.map(({ id, title, holds }) => (
            <button
              key={id}
              type="button"
              aria-pressed={shown === id}
              className={`px-1 ${shown === id ? 'border-b-2 border-weld' : 'text-soft'}`}
              onClick={() => {
                setShown(id);
              }}
            >
              {title}{' '}
              <span className="figures text-[11px]">
                {data ? data.jobs.filter(({ state }) => holds(state)).length : ''}
              </span>
            </button>
          ))}
        </div>
        {maySeeAll ? (
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="accent-weld"
              checked={everybody}
              onChange={(event) => {
                setEverybody(event.target.checked);
              }}
            />
            Everybody’s
          </label>
        ) : null}
      </div>
      {error ? <ProblemNote problem={describeError(error)} className="mb-3" /> : null}
      {jobs ? (
        <JobTable jobs={jobs} withOwner={everybody} />
      ) : (
        <p className="text-soft">Looking …</p>
      )}
    </>
  );
}

function JobTable({
  jobs,
  withOwner,
}: {
  readonly jobs: readonly Job[];
  readonly withOwner: boolean;
}) {
  if (jobs.length === 0) return <p className="text-soft">There is no such work at the moment.</p>;
  return (
    <table className="w-full max-w-[1100px] border-collapse">
      <thead>
        <tr className="border-b border-line text-left text-[12px] text-soft">
          <th className="w-[140px] py-1 font-normal">State</th>
          <th className="font-normal">What</th>
          {withOwner ? <th className="w-[140px] font-normal">For</th> : null}
          <th className="w-[130px] font-normal">Asked for</th>
          <th className="w-[90px] font-normal">
            <span className="sr-only">Cancel</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {jobs.map((job) => (
          <JobRow key={job.id} job={job} withOwner={withOwner} />
        ))}
      </tbody>
    </table>
  );
}
