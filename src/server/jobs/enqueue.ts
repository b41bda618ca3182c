import { randomUUID } from 'node:crypto';
import { insertJob } from '@/db/queries/jobs';
import { log, loggable } from '../log';
import type { JobKind } from './define-job';
import { queue } from './queue';
import type { QueuedJob } from './queue';

interface Wanted {
  /** What it does, in words, for the page Work. */
  readonly title: string;
  readonly userId: string | null;
  /** Of several equal requests that wait, the first serves all. */
  readonly key?: string;
}

/**
 * Asks for a job to be done in the background: its row and its place in the queue come together or
 * not at all.
 * @returns its id; that of nobody's job where an equal one waits already
 */
export async function enqueue<R>(
  { kind, lane, priority = 0 }: Pick<JobKind<R>, 'kind' | 'lane' | 'priority'>,
  request: R,
  { title, userId, key }: Wanted,
): Promise<string> {
  const id = randomUUID();
  const boss = await queue();
  const data: QueuedJob = { jobId: id };
  await insertJob({ id, kind, title, userId, key: key ?? null, request }, (db) =>
    boss.send(lane, data, { db, priority }),
  );
  return id;
}

/** As `enqueue`, for work that is not worth failing anything else for. */
export async function tryToEnqueue<R>(
  kind: Pick<JobKind<R>, 'kind' | 'lane'>,
  request: R,
  wanted: Wanted,
): Promise<void> {
  try {
    await enqueue(kind, request, wanted);
  } catch (error) {
    log().warn({ kind: kind.kind, ...loggable(error) }, 'a job could not be asked for');
  }
}
