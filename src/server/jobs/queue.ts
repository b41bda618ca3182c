import PgBoss from 'pg-boss';
import { databaseUrl, holdingLock } from '@/db/client';
import { log, loggable } from '../log';
import { LANES } from './define-job';

/** What the queue holds of a job; all else stands in its row. */
export interface QueuedJob {
  readonly jobId: string;
}
/** Where the queue puts what it gave up itself. */
export const GIVEN_UP = 'given up';
/**
 * The queue is a carrier: it tries more often than any kind of job asks, and rows decide when a job
 * has failed.
 */
const CARRIER = { retryLimit: 20, retryDelay: 1, expireInSeconds: 4 * 3600 };

const kept = globalThis as unknown as { brightLoomQueue?: Promise<PgBoss> | undefined };

/** A queue of its own, which the caller stops; processes take the one of `queue()`. */
export async function openQueue(): Promise<PgBoss> {
  const boss = new PgBoss({ connectionString: databaseUrl(), max: 3 });
  boss.on('error', (error) => {
    log().warn(loggable(error), 'the queue reports an error');
  });
  // Of processes that begin at once on a new database only one may make the queue's tables.
  await holdingLock('queue', async () => {
    await boss.start();
    await boss.createQueue(GIVEN_UP);
    for (const name of LANES) {
      await boss.createQueue(name, { name, policy: 'standard', ...CARRIER, deadLetter: GIVEN_UP });
    }
  });
  return boss;
}

/** The queue of this process; a failed start is tried again by the next caller. */
export function queue(): Promise<PgBoss> {
  kept.brightLoomQueue ??= openQueue().catch((error: unknown) => {
    kept.brightLoomQueue = undefined;
    throw error;
  });
  return kept.brightLoomQueue;
}

export async function stopQueue(): Promise<void> {
  const running = kept.brightLoomQueue;
  kept.brightLoomQueue = undefined;
  await (await running)?.stop({ graceful: false });
}
