/**
 * The process in which jobs run, one after the other. Its supervisor ends it when a job takes too
 * long, needs too much memory or is cancelled, which nothing inside a computation could do.
 */
import { errorMessage } from '@/core/base/diagnostic';
import { closeDatabase } from '@/db/client';
import { findJob } from '@/db/queries/jobs';
import { findKind } from '../jobs/kinds';
import { stopQueue } from '../jobs/queue';
import { tryJob } from '../jobs/run-job';
import type { TryOutcome } from '../jobs/run-job';
import { log, loggable, sendConsoleToLog } from '../log';

export interface JobOrder {
  readonly jobId: string;
}
export type JobReply = TryOutcome & { readonly jobId: string };

const GONE: TryOutcome = { ended: true, state: 'gone' };

async function run(jobId: string): Promise<TryOutcome> {
  try {
    const row = await findJob(jobId);
    const kind = row && findKind(row.kind);
    if (!kind || row.state !== 'running') return GONE;
    return await tryJob(row, kind);
  } catch (error) {
    log().error({ job: jobId, ...loggable(error) }, 'a job could not be begun or ended');
    const reason = { code: 'job.failed', message: errorMessage(error), kept: '', action: '' };
    return { ended: false, reason };
  }
}

sendConsoleToLog();
process.on('message', ({ jobId }: JobOrder) => {
  void run(jobId).then((outcome) => process.send?.({ jobId, ...outcome } satisfies JobReply));
});
// Without its supervisor it has nothing to do.
process.on('disconnect', () => {
  void Promise.allSettled([stopQueue(), closeDatabase()]).finally(() => process.exit(0));
});
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => undefined);
process.send?.('ready');
