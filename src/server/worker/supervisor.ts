import { randomUUID } from 'node:crypto';
import { hostname } from 'node:os';
import type PgBoss from 'pg-boss';
import { isEnded } from '@/contract/jobs';
import type { JobState } from '@/contract/jobs';
import type { Problem } from '@/core/base/problem';
import * as rows from '@/db/queries/jobs';
import type { JobRow } from '@/db/queries/jobs';
import { LANES } from '../jobs/define-job';
import type { Lane } from '../jobs/define-job';
import { requestTidying } from '../housekeeping';
import { findKind } from '../jobs/kinds';
import { HOUSEKEEPING } from '../jobs/lanes';
import { GIVEN_UP, queue, stopQueue } from '../jobs/queue';
import type { QueuedJob } from '../jobs/queue';
import { onJobChange } from '../jobs/watch';
import { log, loggable } from '../log';
import { JobRunner } from './job-runner';

/**
 * Seconds. A worker is taken for dead after so much silence, and says five times within that that
 * it lives.
 */
const SILENCE = Number(process.env['WORKER_SILENCE_SECONDS'] ?? 15),
  BEAT = SILENCE / 5,
  LONG_WAIT = 60;
const DAYS_KEPT = 30;
/** The studio is put in order once a day; so often it is looked whether a day has passed. */
const TIDY_HOURS = 24,
  TIDY_LOOK_MS = 600_000;
const MEMORY_BYTES = Number(process.env['JOB_MEMORY_MB'] ?? 4096) * 2 ** 20;
const UNCHANGED = 'Nothing was changed.';

/**
 * Takes jobs from the queue, has them run in processes that can be ended, and sees to it that each
 * ends: tried again where that may help, failed with its reason where it does not, taken over where
 * another worker died.
 */
export class Supervisor {
  readonly id = `${hostname()}-${randomUUID()}`;
  private readonly runners = new Map<Lane, JobRunner>(LANES.map((lane) => [lane, new JobRunner()]));
  private readonly leave: () => void;
  /** Jobs this worker has taken on, from before it claims them. */
  private readonly handled = new Set<string>();
  /** Not at once: whoever starts the studio waits for other things. */
  private tidyLookAt = Date.now() + TIDY_LOOK_MS;
  private beat: ReturnType<typeof setInterval> | undefined;

  constructor() {
    this.leave = onJobChange((notice) => {
      if (notice === 'missed' || !isEnded(notice.state as JobState)) return;
      for (const runner of this.runners.values()) {
        // Its own ends are told, too; by then nothing of that name runs any more, or it is about to
        // say so.
        if (notice.state === 'refused') this.cancelSoon(runner, notice.id);
      }
    });
  }

  async start(): Promise<void> {
    const boss = await queue();
    await rows.noteWorker(this.id);
    for (const lane of LANES) {
      const options = { pollingIntervalSeconds: 0.5, batchSize: 1 };
      await boss.work<QueuedJob>(lane, options, async (batch) => {
        for (const { data } of batch) await this.take(lane, data.jobId);
      });
    }
    await boss.work<QueuedJob>(GIVEN_UP, { pollingIntervalSeconds: 2 }, async (batch) => {
      for (const { data } of batch) await this.fail(data.jobId, null, givenUp);
    });
    this.beat = setInterval(() => void this.look(), BEAT * 1000);
    await this.look();
  }

  async stop(): Promise<void> {
    clearInterval(this.beat);
    this.leave();
    const running = [...this.handled];
    for (const runner of this.runners.values()) runner.close();
    for (const id of running) await rows.returnJob(id, this.id, 'Its worker was stopped.');
    await rows.removeWorker(this.id);
    await stopQueue();
  }

  /** A refusal that the job itself came to is reported within moments; one from outside is not. */
  private cancelSoon(runner: JobRunner, id: string): void {
    if (runner.jobId !== id) return;
    setTimeout(() => {
      runner.cancel(id);
    }, 500);
  }

  private async take(lane: Lane, id: string): Promise<void> {
    this.handled.add(id);
    try {
      await this.handle(lane, id);
    } finally {
      this.handled.delete(id);
    }
  }

  private async handle(lane: Lane, id: string): Promise<void> {
    const row = await rows.claimJob(id, this.id);
    if (!row) return;
    const kind = findKind(row.kind);
    const runner = this.runners.get(lane);
    if (!kind || !runner) return this.fail(id, this.id, unknownKind(row.kind));
    const began = Date.now();
    const { timeoutSeconds, tries } = kind;
    const outcome = await runner.run(id, { timeoutSeconds, memoryBytes: MEMORY_BYTES });
    const state = outcome.ended ? outcome.state : outcome.reason.code;
    log().info({ job: id, kind: row.kind, state, tries: row.tries, ms: Date.now() - began }, 'job');
    if (outcome.ended) return;
    if ('isFinal' in outcome || row.tries >= tries) return this.fail(id, this.id, outcome.reason);
    await rows.returnJob(id, this.id, `It is tried again. ${outcome.reason.message}`);
    // The queue brings it again.
    throw new Error(outcome.reason.code);
  }

  private async fail(id: string, workerId: string | null, reason: Problem): Promise<void> {
    const ended = await rows.endJob(id, workerId, { state: 'failed', reason });
    if (ended) log().warn({ job: id, kind: ended.kind, code: reason.code }, 'a job failed');
  }

  /** Says that it lives, and looks after jobs that nobody else looks after. */
  private async look(): Promise<void> {
    try {
      await rows.noteWorker(this.id);
      const boss = await queue();
      for (const row of await rows.listOrphans(SILENCE, this.id, [...this.handled])) {
        await this.takeOver(boss, row);
      }
      for (const row of await rows.listLongWaiting(LONG_WAIT)) await this.remind(boss, row);
      await rows.forgetOldJobs(DAYS_KEPT);
      await this.tidyDaily();
    } catch (error) {
      log().warn(loggable(error), 'jobs could not be looked after');
    }
  }

  /** Asks for housekeeping once a day, whichever worker thinks of it first. */
  private async tidyDaily(): Promise<void> {
    if (Date.now() < this.tidyLookAt) return;
    this.tidyLookAt = Date.now() + TIDY_LOOK_MS;
    if (!(await rows.wasAskedLately(HOUSEKEEPING.kind, TIDY_HOURS))) await requestTidying(null);
  }

  private async takeOver(boss: PgBoss, row: JobRow): Promise<void> {
    const kind = findKind(row.kind);
    if (!kind || row.tries >= kind.tries) return this.fail(row.id, null, workerEnded(row.tries));
    await rows.returnJob(row.id, row.workerId ?? '', 'Its worker ended; another takes it over.');
    await this.enqueueAgain(boss, row, kind.lane);
    log().warn({ job: row.id, kind: row.kind }, 'a job is taken over');
  }

  /** A job that waits for long is put in the queue again where it has lost its place. */
  private async remind(boss: PgBoss, row: JobRow): Promise<void> {
    const kind = findKind(row.kind);
    if (!kind) return this.fail(row.id, null, unknownKind(row.kind));
    const queued = row.queueId ? await boss.getJobById(kind.lane, row.queueId) : null;
    if (queued && ['created', 'retry', 'active'].includes(queued.state)) return;
    await this.enqueueAgain(boss, row, kind.lane);
  }

  private async enqueueAgain(boss: PgBoss, { id, queueId }: JobRow, lane: Lane): Promise<void> {
    if (queueId) await boss.cancel(lane, queueId);
    const data: QueuedJob = { jobId: id };
    await rows.noteQueueId(id, await boss.send(lane, data));
  }
}

const givenUp: Problem = {
  code: 'job.given-up',
  message: 'It was tried many times and never ended.',
  kept: UNCHANGED,
  action: 'Ask for it again, or ask whoever runs the studio.',
};
const unknownKind = (kind: string): Problem => ({
  code: 'job.kind',
  message: `This release does not know jobs of the kind “${kind}”.`,
  kept: UNCHANGED,
  action: 'Ask for it again.',
});
const workerEnded = (tries: number): Problem => ({
  code: 'job.worker-ended',
  message: `The worker ended while it worked on this, ${String(tries)} times.`,
  kept: UNCHANGED,
  action: 'Try it with something smaller, or ask whoever runs the studio.',
});
