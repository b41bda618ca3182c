import { useQueryClient } from '@tanstack/react-query';
import type { QueryClient, UseQueryResult } from '@tanstack/react-query';
import { useEffect } from 'react';
import { getJob, isEnded, listJobs, watchJobs } from '../contract/jobs';
import type { Job } from '../contract/jobs';
import { routeAddress } from './api';
import { keyOfCall, useCall } from './use-call';

type JobList = { readonly jobs: readonly Job[] };
const LISTS = [{}, { all: 'yes' }] as const;

/** Puts a job as it is now where it was read before. */
function takeIn(client: QueryClient, job: Job): void {
  client.setQueryData<Job>(keyOfCall(getJob, { id: job.id }), job);
  for (const query of LISTS) {
    client.setQueryData<JobList>(
      keyOfCall(listJobs, {}, query),
      (old) => old && { jobs: merged(old.jobs, job) },
    );
  }
}

/** The list with a job as it is now; a new one comes first, where the list is one it belongs to. */
function merged(jobs: readonly Job[], job: Job): readonly Job[] {
  const isListed = jobs.some(({ id }) => id === job.id);
  return isListed ? jobs.map((each) => (each.id === job.id ? job : each)) : [job, ...jobs];
}

/**
 * Hears of jobs while it is wanted: each change arrives by itself, and what was missed is read
 * again.
 */
function useJobEvents(isWanted: boolean): void {
  const client = useQueryClient();
  useEffect(() => {
    if (!isWanted) return;
    const source = new EventSource(routeAddress(watchJobs));
    const readAgain = (): void => {
      void client.invalidateQueries({ queryKey: [getJob.path] });
      void client.invalidateQueries({ queryKey: [listJobs.path] });
    };
    source.addEventListener('job', ({ data }: MessageEvent<string>) => {
      takeIn(client, JSON.parse(data) as Job);
    });
    source.addEventListener('missed', readAgain);
    return () => {
      source.close();
    };
  }, [client, isWanted]);
}

/** A job, as it changes, until it has ended. @param id empty: none */
export function useJob(id: string): UseQueryResult<Job> {
  const found = useCall(getJob, { params: { id } }, { enabled: id !== '' });
  useJobEvents(id !== '' && !(found.data && isEnded(found.data.state)));
  return found;
}

/** One's jobs, or everybody's, as they change. */
export function useJobs(all: boolean): UseQueryResult<JobList> {
  const found = useCall(listJobs, { params: {}, query: all ? { all: 'yes' } : {} });
  useJobEvents(true);
  return found;
}
