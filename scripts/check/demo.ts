/**
 * Makes the demo studio that browser tests begin with, once: tables, people, materials, groups, and
 * all that workers make of them. What is there and was made of the same sources stays.
 */
import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import pg from 'pg';
import { findProgram } from '@/server/programs';
import { bringUpTables } from '../bring-up-tables';
import { hashSources } from '../build';
import { buildPrograms } from '../build-programs';
import { removeCluster, startCluster } from '../cluster';
import { SETTINGS } from '../cluster-files';

const ROOT = path.resolve(import.meta.dirname, '../..');
export const DEMO_FOLDER = path.join(ROOT, '.data/check-demo');
const STAMP = path.join(DEMO_FOLDER, 'made-of');
/** What the workers do for the demo takes a minute or two alone, ten beside all unit tests. */
const LONGEST_MS = 1_800_000;
const LOOK_MS = 500;

const pause = (ms: number): Promise<void> =>
  new Promise((resolve) => {
    setTimeout(resolve, ms);
  });

/** Has a worker do what is asked for in the database, until nothing waits. */
async function workOff(url: string): Promise<void> {
  process.env['BRIGHT_LOOM_PROGRAMS'] = await buildPrograms(ROOT);
  const { file, execArgv } = findProgram('worker-main');
  const worker = spawn(process.execPath, [...execArgv, file], {
    cwd: ROOT,
    env: { ...process.env, NODE_ENV: 'production', BRIGHT_LOOM_PART: 'worker' },
    stdio: 'ignore',
  });
  const ended = new Promise<void>((resolve) =>
    worker.once('exit', () => {
      resolve();
    }),
  );
  const client = new pg.Client(url);
  await client.connect();
  const began = Date.now();
  try {
    for (;;) {
      const { rows } = await client.query<{ left: number }>(
        "select count(*)::int as left from job where state in ('waiting', 'running')",
      );
      if (rows[0]?.left === 0) break;
      if (worker.exitCode !== null || Date.now() - began > LONGEST_MS)
        throw new Error(`The demo has ${String(rows[0]?.left)} jobs that no worker ends.`);
      await pause(LOOK_MS);
    }
  } finally {
    await client.end();
    worker.kill('SIGTERM');
    await ended;
  }
}

/** Makes the demo where its sources changed since it was made. */
export async function makeDemo(say: (text: string) => void): Promise<void> {
  const sources = hashSources(ROOT, ['src', 'drizzle', 'assets']);
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === sources) {
    say('the demo studio is up to date');
    return;
  }
  removeCluster(DEMO_FOLDER);
  mkdirSync(DEMO_FOLDER, { recursive: true, mode: 0o711 });
  const secret = randomBytes(32).toString('hex');
  const demoPassword = randomBytes(6).toString('hex');
  writeFileSync(
    path.join(DEMO_FOLDER, SETTINGS),
    JSON.stringify({ secret, demoPassword }, null, 2),
    { mode: 0o600 },
  );
  const cluster = await startCluster({ folder: DEMO_FOLDER, throwAway: true, say });
  try {
    Object.assign(process.env, {
      DATABASE_URL: cluster.url,
      BETTER_AUTH_SECRET: secret,
      PUBLIC_URL: 'http://127.0.0.1',
    });
    await bringUpTables(demoPassword, say);
    say('the workers make pictures, sheets and maps of the demo');
    await workOff(cluster.url);
  } finally {
    cluster.stop();
  }
  writeFileSync(STAMP, sources);
  say('the demo studio is made');
}
