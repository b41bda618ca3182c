/**
 * Keeps programs running: one that ends is started again, after a wait that grows while it keeps
 * ending.
 */
import { spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { createStream } from 'rotating-file-stream';

/** Milliseconds: the first wait, the longest, and how long a run must last to count as sound. */
const WAIT = { first: 500, longest: 30_000, sound: 60_000 };
/** How long a program may take to end when it is asked to. */
const GRACE_MS = 8000;

/** The wait before the next start, after so many runs in a row that ended soon. */
export const waitBefore = (shortRuns: number): number =>
  Math.min(WAIT.longest, WAIT.first * 2 ** Math.max(0, shortRuns - 1));

/** Counts starts that did not last, and says how long to wait before the next. */
export class BackOff {
  private shortRuns = 0;

  /** @param lastedMs how long the run that ended had lasted @returns milliseconds to wait */
  next(lastedMs: number): number {
    this.shortRuns = lastedMs >= WAIT.sound ? 1 : this.shortRuns + 1;
    return waitBefore(this.shortRuns);
  }
}

export interface Program {
  readonly name: string;
  readonly args: readonly string[];
  readonly env: NodeJS.ProcessEnv;
  readonly folder: string;
  /** The folder of its log, which is begun anew at 10 MB; five are kept. */
  readonly logs: string;
  readonly say: (text: string) => void;
}

export interface Kept {
  readonly pid: () => number | undefined;
  readonly stop: () => Promise<void>;
}

/** Starts a Node program and keeps it running until it is stopped. */
export function keepRunning({ name, args, env, folder, logs, say }: Program): Kept {
  const log = createStream(`${name}.log`, { path: logs, size: '10M', maxFiles: 5 });
  log.on('error', (error: Error) => {
    say(`the log of the ${name} cannot be written: ${error.message}`);
  });
  const backOff = new BackOff();
  let child: ChildProcess | null = null;
  let pending: ReturnType<typeof setTimeout> | undefined;
  let isStopping = false;
  const start = (): void => {
    const began = Date.now();
    const started = spawn(process.execPath, [...args], {
      cwd: folder,
      env,
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    child = started;
    const note = (chunk: Buffer): void => {
      log.write(chunk);
      if (env['BRIGHT_LOOM_VERBOSE']) process.stderr.write(`${name}: ${String(chunk)}`);
    };
    started.stdout.on('data', note);
    started.stderr.on('data', note);
    started.on('error', (error) => {
      say(`the ${name} cannot be started: ${error.message}`);
    });
    started.on('close', (code, signal) => {
      child = null;
      if (isStopping) return;
      const wait = backOff.next(Date.now() - began);
      say(
        `the ${name} ended (${signal ?? `code ${String(code)}`}); it is started again in ` +
          `${(wait / 1000).toFixed(1)} s`,
      );
      pending = setTimeout(start, wait);
    });
  };
  start();
  return {
    pid: () => child?.pid,
    stop: async () => {
      isStopping = true;
      clearTimeout(pending);
      await end(child);
      log.end();
    },
  };
}

function end(child: ChildProcess | null): Promise<void> {
  if (!child || child.exitCode !== null || child.signalCode) return Promise.resolve();
  return new Promise((resolve) => {
    const late = setTimeout(() => child.kill('SIGKILL'), GRACE_MS);
    child.on('close', () => {
      clearTimeout(late);
      resolve();
    });
    child.kill('SIGTERM');
  });
}
