import { fork } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';
import type { Problem } from '@/core/base/problem';
import type { TryOutcome } from '../jobs/run-job';
import { findProgram } from '../programs';
import type { JobOrder, JobReply } from './job-process';

export interface RunLimits {
  readonly timeoutSeconds: number;
  readonly memoryBytes: number;
}
/** As of a try, and whether trying again could help. */
export type RunOutcome =
  TryOutcome | { readonly ended: false; readonly reason: Problem; readonly isFinal: true };

const WATCH_MS = 250;
const AGAIN = 'Try it with something smaller, or ask whoever runs the studio.';
const UNCHANGED = 'Nothing was changed.';

/** Memory a process holds, bytes; 0 where that cannot be read. */
function memoryOf(pid: number): number {
  try {
    const kilobytes = /VmRSS:\s+(\d+) kB/.exec(readFileSync(`/proc/${String(pid)}/status`, 'utf8'));
    return Number(kilobytes?.[1] ?? 0) * 1024;
  } catch {
    return 0;
  }
}

/** Runs jobs in a process of its own, which it ends and starts again where it must. */
export class JobRunner {
  private child: ChildProcess | null = null;
  private current: { readonly jobId: string; readonly end: (outcome: RunOutcome) => void } | null =
    null;

  constructor() {
    this.start();
  }

  get jobId(): string | null {
    return this.current?.jobId ?? null;
  }

  /** Resolves when the try is over, one way or another; never rejects. */
  run(jobId: string, limits: RunLimits): Promise<RunOutcome> {
    return new Promise((resolve) => {
      const child = this.child ?? this.start();
      const stopWatching = this.watch(child, limits);
      const end = (outcome: RunOutcome): void => {
        stopWatching();
        this.current = null;
        resolve(outcome);
      };
      this.current = { jobId, end };
      const order: JobOrder = { jobId };
      child.send(order);
    });
  }

  /** Ends a job half-way, if it is the one that runs. */
  cancel(jobId: string): void {
    if (this.current?.jobId === jobId) this.giveUp({ ended: true, state: 'cancelled' });
  }

  close(): void {
    const { child } = this;
    this.child = null;
    child?.removeAllListeners();
    child?.kill('SIGKILL');
  }

  private start(): ChildProcess {
    const { file, execArgv } = findProgram('worker/job-process');
    const child = fork(file, {
      execArgv: [...execArgv],
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    });
    child.on('message', (message: JobReply | 'ready') => {
      if (message !== 'ready' && message.jobId === this.jobId) this.current?.end(message);
    });
    child.on('exit', (code, signal) => {
      if (this.child !== child) return;
      this.child = null;
      const how = signal ?? `code ${String(code)}`;
      const message = `The process that worked on it ended (${how}).`;
      const reason = { code: 'job.crashed', message, kept: UNCHANGED, action: AGAIN };
      this.current?.end({ ended: false, reason });
      this.start();
    });
    this.child = child;
    return child;
  }

  /** Ends the process with what it works on; the next job gets another. */
  private giveUp(outcome: RunOutcome): void {
    const { child, current } = this;
    this.child = null;
    child?.removeAllListeners();
    child?.kill('SIGKILL');
    this.start();
    current?.end(outcome);
  }

  private watch(child: ChildProcess, { timeoutSeconds, memoryBytes }: RunLimits): () => void {
    const fail = (code: string, message: string): void => {
      const reason = { code, message, kept: UNCHANGED, action: AGAIN };
      this.giveUp({ ended: false, reason, isFinal: true });
    };
    const late = setTimeout(() => {
      fail('job.too-long', `It took longer than ${String(timeoutSeconds)} seconds.`);
    }, timeoutSeconds * 1000);
    const memory = setInterval(() => {
      if (memoryOf(child.pid ?? 0) <= memoryBytes) return;
      const most = (memoryBytes / 2 ** 30).toFixed(1);
      fail('job.too-large', `It needed more than ${most} GB of memory.`);
    }, WATCH_MS);
    return () => {
      clearTimeout(late);
      clearInterval(memory);
    };
  }
}
