/** A studio of a drill's own, started by the real start command, whose parts may be killed. */
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { FOLDER_NOTE, SETTINGS } from '../cluster-files';
import { freePort } from '../ports';
import { listProcesses, residentBytes } from '../processes';

const root = path.resolve(import.meta.dirname, '../..');
export type Part = 'server' | 'worker' | 'database';

export interface OwnStudio {
  readonly base: string;
  readonly password: string;
  /** The process of a part; null while there is none. */
  readonly pidOf: (part: Part) => number | null;
  /** Ends a part as the system might, without a word. @returns whether there was one to end */
  readonly kill: (part: Part) => boolean;
  readonly memoryOf: (part: Part) => number;
  readonly stop: () => Promise<void>;
}

const FILES = { server: 'server-main.mjs', worker: 'worker-main.mjs' } as const;

/** Starts a studio with the demo data on a database that is thrown away. */
export async function startOwnStudio(): Promise<OwnStudio> {
  const folder = mkdtempSync(path.join(tmpdir(), 'bright-loom-drill-'));
  const port = await freePort();
  const env = { ...process.env, BRIGHT_LOOM_DATA: folder, PORT: String(port), DATABASE_URL: '' };
  const args = ['--import', 'tsx', 'scripts/start.ts', '--throw-away'];
  const starter = spawn(process.execPath, args, {
    cwd: root,
    env,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise<void>((resolve, reject) => {
    starter.stdout.on('data', (chunk: Buffer) => {
      if (/\] ready/.test(String(chunk))) resolve();
    });
    starter.once('exit', () => {
      reject(new Error('the studio did not start'));
    });
  });
  const pidOf = (part: Part): number | null => {
    if (part !== 'database') {
      const found = listProcesses().find(
        ({ parent, command }) => parent === starter.pid && command.includes(FILES[part]),
      );
      return found?.pid ?? null;
    }
    try {
      const cluster = readFileSync(path.join(folder, FOLDER_NOTE), 'utf8').trim();
      const pid = Number(
        readFileSync(path.join(cluster, 'data/postmaster.pid'), 'utf8').split('\n')[0],
      );
      return listProcesses().some((each) => each.pid === pid) ? pid : null;
    } catch {
      return null;
    }
  };
  const settings = JSON.parse(readFileSync(path.join(folder, SETTINGS), 'utf8')) as {
    demoPassword: string;
  };
  return {
    base: `http://127.0.0.1:${String(port)}`,
    password: settings.demoPassword,
    pidOf,
    kill: (part) => {
      const pid = pidOf(part);
      if (pid !== null) process.kill(pid, 'SIGKILL');
      return pid !== null;
    },
    memoryOf: (part) => residentBytes(pidOf(part)),
    stop: async () => {
      const ended = new Promise((resolve) => starter.once('exit', resolve));
      starter.kill('SIGTERM');
      await ended;
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
