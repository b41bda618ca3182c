import type Joi from 'joi';
import { AppError, errorMessage } from '@/core/base/diagnostic';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import { isBusy, isOutOfSpace, isUnreachable } from '@/db/client';
import { endJob, forgetEarlierJobs, noteProgress } from '@/db/queries/jobs';
import type { JobEnd, JobRow } from '@/db/queries/jobs';
import { log, loggable } from '../log';
import type { JobKind } from './define-job';

/** How a try went: the job has ended, or it may be tried again. */
export type TryOutcome =
  | { readonly ended: true; readonly state: string }
  | { readonly ended: false; readonly reason: Problem };

const isTransient = (error: unknown): boolean =>
  isUnreachable(error) || isBusy(error) || isOutOfSpace(error);

/** Tries a job that this worker has taken on; writes its end where it has one. */
export async function tryJob(row: JobRow, kind: JobKind<unknown>): Promise<TryOutcome> {
  const workerId = row.workerId ?? '';
  const report = (progress: number, step: string): Promise<void> =>
    noteProgress(row.id, workerId, Math.min(1, Math.max(0, progress)), step);
  const finish = async (end: JobEnd): Promise<TryOutcome> => {
    const ended = await endJob(row.id, workerId, end);
    if (ended?.state === 'done') await forgetEarlierJobs(ended);
    return { ended: true, state: end.state };
  };
  try {
    const { error, value } = kind.form.validate(row.request, {
      convert: false,
    }) as {
      error?: Joi.ValidationError;
      value: unknown;
    };
    if (error) return await finish({ state: 'refused', reason: notUnderstood(error.message) });
    const result = await kind.run(value, { userId: row.userId, report });
    return await finish({ state: 'done', result });
  } catch (error) {
    if (error instanceof AppError) return finish(refusal(error));
    log().error({ job: row.id, kind: row.kind, ...loggable(error) }, 'a try of a job failed');
    return { ended: false, reason: unforeseen(error) };
  }
}

const refusal = (error: AppError): JobEnd => ({
  state: 'refused',
  reason: describeError(error),
  ...(isResult(error.details) ? { result: error.details } : {}),
});
const isResult = (details: unknown): details is Readonly<Record<string, unknown>> =>
  typeof details === 'object' && details !== null && !Array.isArray(details);

const notUnderstood = (why: string): Problem => ({
  code: 'job.request',
  message: `The request cannot be understood by this release: ${why}.`,
  kept: 'Nothing was changed.',
  action: 'Ask for it again.',
});

function unforeseen(error: unknown): Problem {
  const problem = describeError(error);
  if (!isTransient(error)) return { ...problem, code: 'job.failed', message: errorMessage(error) };
  return {
    code: 'job.database',
    message: 'The database could not be reached or had no room.',
    kept: 'Nothing was changed.',
    action: 'Ask for it again when it is back.',
  };
}
