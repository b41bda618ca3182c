import { AppError } from '@/core/base/diagnostic';
import type { Job } from '@/contract/jobs';
import { isEnded } from '@/contract/jobs';
import { endJob, findJob, findListedJob, listJobs } from '@/db/queries/jobs';
import type { ListedJob } from '@/db/queries/jobs';
import type { SignedIn } from '../authentication';
import { log, loggable } from '../log';
import { LANES } from './define-job';
import { queue } from './queue';

const MOST_LISTED = 200;
const maySee = (user: SignedIn, userId: string | null): boolean =>
  userId === user.id || user.role === 'librarian';
const notFound = (): AppError =>
  new AppError('job.not-found', 'There is no such job.', '', { status: 404 });

const shown = (user: SignedIn, job: ListedJob): Job => ({
  id: job.id,
  kind: job.kind,
  title: job.title,
  ownerName: job.ownerName,
  state: job.state,
  progress: job.progress,
  step: job.step,
  reason: job.reason,
  result: job.result,
  tries: job.tries,
  createdAt: job.createdAt.toISOString(),
  startedAt: job.startedAt?.toISOString() ?? null,
  endedAt: job.endedAt?.toISOString() ?? null,
  mayCancel: !isEnded(job.state) && maySee(user, job.userId),
});

/**
 * One's own jobs, or everybody's. @throws AppError where somebody else than a librarian asks for
 * all
 */
export async function listShownJobs(user: SignedIn, all: boolean): Promise<Job[]> {
  if (all && user.role !== 'librarian') {
    throw new AppError('rights.role', 'Only librarians see everybody’s jobs.', '', { status: 403 });
  }
  const rows = await listJobs(all ? null : user.id, MOST_LISTED);
  return rows.map((row) => shown(user, row));
}

/** A job one may see. @throws AppError (404) for any other */
export async function getShownJob(user: SignedIn, id: string): Promise<Job> {
  const job = await findListedJob(id);
  if (!job || !maySee(user, job.userId)) throw notFound();
  return shown(user, job);
}

/** As `getShownJob`, for those who only look on: null where there is none to see. */
export async function findShownJob(user: SignedIn, id: string): Promise<Job | null> {
  const job = await findListedJob(id);
  return job && maySee(user, job.userId) ? shown(user, job) : null;
}

/** Ends a job that has not ended. Its worker hears of it and drops what it made so far. */
export async function cancelJob(user: SignedIn, id: string): Promise<Job> {
  const job = await findJob(id);
  if (!job || !maySee(user, job.userId)) throw notFound();
  const reason = {
    code: 'job.cancelled',
    message: `${user.name} cancelled it.`,
    kept: 'Nothing was changed.',
    action: '',
  };
  const ended = await endJob(id, null, { state: 'refused', reason });
  if (ended?.queueId) await dropFromQueue(ended.queueId);
  return getShownJob(user, id);
}

async function dropFromQueue(queueId: string): Promise<void> {
  try {
    const boss = await queue();
    for (const lane of LANES) await boss.cancel(lane, queueId);
  } catch (error) {
    // Whoever fetches it finds that it has ended.
    log().warn(loggable(error), 'a cancelled job stays in the queue');
  }
}
