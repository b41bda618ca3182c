import {
  and,
  count,
  desc,
  eq,
  gt,
  inArray,
  isNull,
  lt,
  ne,
  notInArray,
  or,
  sql,
} from 'drizzle-orm';
import type { Problem } from '../../core/base/problem';
import { connection, database } from '../client';
import type { Executor } from '../client';
import { job, user, worker } from '../schema/index';
import { drizzle } from 'drizzle-orm/node-postgres';

export type JobRow = typeof job.$inferSelect;
export interface ListedJob extends Omit<JobRow, 'request' | 'key' | 'workerId' | 'queueId'> {
  readonly ownerName: string | null;
}
export interface NewJob {
  readonly id: string;
  readonly kind: string;
  readonly title: string;
  readonly userId: string | null;
  readonly key: string | null;
  readonly request: unknown;
}
/** Runs a statement of the queue inside a transaction. */
export interface StatementRunner {
  executeSql(text: string, values: unknown[]): Promise<{ rows: unknown[] }>;
}

const OPEN = ['waiting', 'running'] as const;
const LISTED = {
  id: job.id,
  kind: job.kind,
  title: job.title,
  userId: job.userId,
  state: job.state,
  progress: job.progress,
  step: job.step,
  reason: job.reason,
  result: job.result,
  tries: job.tries,
  createdAt: job.createdAt,
  startedAt: job.startedAt,
  endedAt: job.endedAt,
  ownerName: user.name,
};

/**
 * Adds a job and puts it in the queue, together or not at all.
 * @param send puts it in the queue by the runner it is given; answers with its number there
 * @returns whether it was added; not where an equal one waits already
 */
export async function insertJob(
  given: NewJob,
  send: (runner: StatementRunner) => Promise<string | null>,
): Promise<boolean> {
  const client = await connection().pool.connect();
  const on: Executor = drizzle(client);
  try {
    await client.query('begin');
    const added = await on
      .insert(job)
      .values({ ...given, state: 'waiting' })
      .onConflictDoNothing()
      .returning({ id: job.id });
    if (added.length > 0) {
      const executeSql = (text: string, values: unknown[]): Promise<{ rows: unknown[] }> =>
        client.query(text, values);
      const queueId = await send({ executeSql });
      await on.update(job).set({ queueId }).where(eq(job.id, given.id));
    }
    await client.query('commit');
    client.release();
    return added.length > 0;
  } catch (error) {
    // A connection that failed in the middle of a transaction is not used again.
    client.release(true);
    throw error;
  }
}

export async function findJob(id: string): Promise<JobRow | undefined> {
  const [row] = await database().select().from(job).where(eq(job.id, id));
  return row;
}

export async function findListedJob(id: string): Promise<ListedJob | undefined> {
  const [row] = await database()
    .select(LISTED)
    .from(job)
    .leftJoin(user, eq(user.id, job.userId))
    .where(eq(job.id, id));
  return row;
}

/** The newest first. @param userId whose; null for everybody's */
export async function listJobs(userId: string | null, most: number): Promise<ListedJob[]> {
  return database()
    .select(LISTED)
    .from(job)
    .leftJoin(user, eq(user.id, job.userId))
    .where(userId === null ? undefined : eq(job.userId, userId))
    .orderBy(desc(job.createdAt))
    .limit(most);
}

/** A worker takes on a job that waits. @returns undefined where it waits no more */
export async function claimJob(id: string, workerId: string): Promise<JobRow | undefined> {
  const [row] = await database()
    .update(job)
    .set({
      state: 'running',
      workerId,
      startedAt: new Date(),
      progress: 0,
      step: '',
      tries: sql`${job.tries} + 1`,
    })
    .where(and(eq(job.id, id), eq(job.state, 'waiting')))
    .returning();
  return row;
}

const runBy = (id: string, workerId: string) =>
  and(eq(job.id, id), eq(job.workerId, workerId), eq(job.state, 'running'));

/** Notes how far a running job is, from 0 to 1, and what is being done. */
export async function noteProgress(
  id: string,
  workerId: string,
  progress: number,
  step: string,
): Promise<void> {
  await database().update(job).set({ progress, step }).where(runBy(id, workerId));
}

/** Gives a running job back to the queue, with why. */
export async function returnJob(id: string, workerId: string, step: string): Promise<void> {
  await database()
    .update(job)
    .set({ state: 'waiting', workerId: null, progress: 0, step })
    .where(runBy(id, workerId));
}

export type JobEnd =
  | { readonly state: 'done'; readonly result: Readonly<Record<string, unknown>> }
  | {
      readonly state: 'refused' | 'failed';
      readonly reason: Problem;
      readonly result?: Readonly<Record<string, unknown>>;
    };

/**
 * Ends a job that has not ended.
 * @param workerId only while this worker runs it; null: whoever does
 * @returns its row; undefined where it had ended already
 */
export async function endJob(
  id: string,
  workerId: string | null,
  end: JobEnd,
): Promise<JobRow | undefined> {
  const isOpen = and(eq(job.id, id), inArray(job.state, [...OPEN]));
  const [row] = await database()
    .update(job)
    .set({
      state: end.state,
      progress: end.state === 'done' ? 1 : undefined,
      step: '',
      reason: end.state === 'done' ? null : end.reason,
      result: end.result ?? null,
      endedAt: new Date(),
    })
    .where(workerId === null ? isOpen : runBy(id, workerId))
    .returning();
  return row;
}

/** Removes what jobs of the same key left behind before; one row tells of the newest. */
export async function forgetEarlierJobs({ id, kind, key }: JobRow): Promise<void> {
  if (key === null) return;
  await database()
    .delete(job)
    .where(and(eq(job.kind, kind), eq(job.key, key), ne(job.id, id), eq(job.state, 'done')));
}

/** Removes jobs that ended longer ago than so many days. */
export async function forgetOldJobs(days: number): Promise<void> {
  await database()
    .delete(job)
    .where(lt(job.endedAt, sql`now() - make_interval(days => ${days})`));
}

/** A worker says that it lives. */
/** How the last job of a kind that was done ended. */
export async function findLastResult(
  kind: string,
): Promise<{ endedAt: Date; result: Readonly<Record<string, unknown>> } | null> {
  const [found] = await database()
    .select({ endedAt: job.endedAt, result: job.result })
    .from(job)
    .where(and(eq(job.kind, kind), eq(job.state, 'done')))
    .orderBy(sql`${job.endedAt} desc nulls last`)
    .limit(1);
  if (!found?.endedAt || !found.result) return null;
  return { endedAt: found.endedAt, result: found.result };
}

/** Whether a job of a kind was asked for in the last hours. */
export async function wasAskedLately(kind: string, hours: number): Promise<boolean> {
  const found = await database()
    .select({ id: job.id })
    .from(job)
    .where(and(eq(job.kind, kind), sql`${job.createdAt} > now() - ${hours} * interval '1 hour'`))
    .limit(1);
  return found.length > 0;
}

export async function noteWorker(id: string): Promise<void> {
  await database()
    .insert(worker)
    .values({ id })
    .onConflictDoUpdate({ target: worker.id, set: { seenAt: sql`now()` } });
}

export async function removeWorker(id: string): Promise<void> {
  await database().delete(worker).where(eq(worker.id, id));
}

const silentFor = (seconds: number) => sql`now() - make_interval(secs => ${seconds})`;

/** Another place in the queue for a job that lost its own. */
export async function noteQueueId(id: string, queueId: string | null): Promise<void> {
  await database().update(job).set({ queueId }).where(eq(job.id, id));
}

/**
 * Running jobs that nobody runs: their worker was not heard of for so many seconds (silent workers
 * are removed), or is this one and knows nothing of them.
 */
export async function listOrphans(
  seconds: number,
  workerId: string,
  running: readonly string[],
): Promise<JobRow[]> {
  await database()
    .delete(worker)
    .where(lt(worker.seenAt, silentFor(seconds)));
  const rows = await database()
    .select({ job })
    .from(job)
    .leftJoin(worker, eq(worker.id, job.workerId))
    .where(
      and(
        eq(job.state, 'running'),
        or(
          isNull(job.workerId),
          isNull(worker.id),
          and(eq(job.workerId, workerId), notInArray(job.id, ['', ...running])),
        ),
      ),
    );
  return rows.map((row) => row.job);
}

/** Jobs that have waited for longer than so many seconds. */
export async function listLongWaiting(seconds: number): Promise<JobRow[]> {
  return database()
    .select()
    .from(job)
    .where(and(eq(job.state, 'waiting'), lt(job.createdAt, silentFor(seconds))))
    .limit(100);
}

export async function countWorkers(seconds: number): Promise<number> {
  const [row] = await database()
    .select({ workers: count() })
    .from(worker)
    .where(gt(worker.seenAt, silentFor(seconds)));
  return row?.workers ?? 0;
}
