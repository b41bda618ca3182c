/**
 * Brings everything up and keeps it up: database, migrations, demo data, build, server and worker.
 * Called by ./start.
 */
import { existsSync, mkdirSync } from 'node:fs';
import path from 'node:path';
import { closeDatabase } from '@/db/client';
import { DEMO_PEOPLE } from '@/server/demo/people';
import { findProgram } from '@/server/programs';
import type { ProgramName } from '@/server/programs';
import { bringUpTables } from './bring-up-tables';
import { build } from './build';
import { buildPrograms } from './build-programs';
import { FOLDER_NOTE, LOGS } from './cluster-files';
import { removeCluster, startCluster } from './cluster';
import type { Cluster } from './cluster';
import { BackOff, keepRunning } from './keep-running';
import type { Kept } from './keep-running';
import { readSettings } from './start-settings';
import type { Settings } from './start-settings';

const root = path.resolve(import.meta.dirname, '..');
const folder = path.resolve(process.env['BRIGHT_LOOM_DATA'] ?? path.join(root, '.data'));
const started = Date.now();
const say = (text: string): void => {
  console.log(`[${((Date.now() - started) / 1000).toFixed(1).padStart(5)} s] ${text}`);
};
const has = (option: string): boolean => process.argv.includes(option);

const programs: Kept[] = [];
let cluster: Cluster | null = null;
let watching: ReturnType<typeof setTimeout> | undefined;
let isStopping = false;

/** Looks every second whether our PostgreSQL runs, and starts it again where it does not. */
function watchDatabase(watched: Cluster): void {
  const backOff = new BackOff();
  let began = Date.now();
  const look = async (): Promise<void> => {
    let wait = 1000;
    if (!watched.isRunning()) {
      wait = backOff.next(Date.now() - began);
      say('PostgreSQL ended; it is started again');
      try {
        await watched.restart();
        say('PostgreSQL runs again');
      } catch (error) {
        say(
          `PostgreSQL cannot be started: ${error instanceof Error ? error.message : String(error)}`,
        );
      }
      began = Date.now();
    }
    if (!isStopping) watching = setTimeout(() => void look(), wait);
  };
  watching = setTimeout(() => void look(), 1000);
}

async function waitFor(url: string): Promise<void> {
  for (let k = 0; k < 480; k++) {
    try {
      if ((await fetch(url, { redirect: 'manual' })).status < 500) return;
    } catch {
      // Not yet listening.
    }
    await new Promise((resolve) => {
      setTimeout(resolve, 250);
    });
  }
  throw new Error(
    `The server did not answer within two minutes. Its log is in ${path.join(folder, LOGS)}.`,
  );
}

async function stop(code: number): Promise<void> {
  if (isStopping) return;
  isStopping = true;
  clearTimeout(watching);
  await Promise.all(programs.map((program) => program.stop()));
  await closeDatabase().catch(() => undefined);
  if (cluster?.startedHere && cluster.isRunning()) cluster.stop();
  process.exit(code);
}

async function beginAnew(): Promise<void> {
  say('beginning anew: removing the data of before');
  if (!process.env['DATABASE_URL'] && existsSync(path.join(folder, FOLDER_NOTE))) {
    const old = await startCluster({ folder, throwAway: false, say: () => undefined });
    old.stop();
  }
  removeCluster(folder);
}

/** Whether the demo is made: in a database of our own, unless an empty studio is asked for. */
const wantsDemo = (): boolean => (cluster !== null || has('--demo')) && !has('--empty');

let isPeopled = false;

async function bringUpDatabase(settings: Settings): Promise<void> {
  const isOwn = !process.env['DATABASE_URL'];
  if (isOwn) {
    cluster = await startCluster({
      folder,
      throwAway: has('--throw-away'),
      say,
      keptPort: settings.port,
    });
    process.env['DATABASE_URL'] = cluster.url;
  } else say('using the database of DATABASE_URL');
  isPeopled = await bringUpTables(wantsDemo() ? settings.demoPassword : null, say);
}

function runPrograms({ port, host, publicUrl, secret }: Settings): void {
  const logs = path.join(folder, LOGS);
  mkdirSync(logs, { recursive: true });
  const env: NodeJS.ProcessEnv = {
    ...process.env,
    NODE_ENV: 'production',
    NEXT_TELEMETRY_DISABLED: '1',
    BETTER_AUTH_SECRET: secret,
    PUBLIC_URL: publicUrl,
    HOST: host,
    PORT: String(port),
  };
  const run = (name: string, program: ProgramName): void => {
    const { file, execArgv } = findProgram(program);
    programs.push(
      keepRunning({
        name,
        args: [...execArgv, file],
        env: { ...env, BRIGHT_LOOM_PART: name },
        folder: root,
        logs,
        say,
      }),
    );
  };
  run('server', 'web/server-main');
  run('worker', 'worker-main');
}

async function main(): Promise<void> {
  process.chdir(root);
  if (has('--fresh')) await beginAnew();
  const settings = await readSettings(folder, process.env);
  // The build is on its way while the demo data is made.
  const [compiled] = await Promise.all([
    buildPrograms(root),
    build(root, say),
    bringUpDatabase(settings),
  ]);
  process.env['BRIGHT_LOOM_PROGRAMS'] = compiled;
  if (isStopping) return;
  if (cluster?.startedHere) watchDatabase(cluster);
  runPrograms(settings);
  const { host, port, publicUrl } = settings;
  const reachable = ['0.0.0.0', '::'].includes(host) ? '127.0.0.1' : host;
  await waitFor(`http://${reachable}:${String(port)}/sign-in`);
  say('ready');
  console.log(`\n  Bright Loom is at ${publicUrl}\n`);
  if (wantsDemo()) {
    console.log(`  Demo accounts, password ${settings.demoPassword}:`);
    for (const { email, role, name } of DEMO_PEOPLE)
      console.log(`    ${email.padEnd(24)} ${role.padEnd(10)} ${name}`);
  } else if (!isPeopled)
    console.log(
      '  Nobody is in this studio yet. Its first librarian comes in by a link:\n' +
        '    ./bright-loom people invite EMAIL "NAME" librarian',
    );
  console.log(`\n  Logs: ${path.join(folder, LOGS)}. Ctrl-C stops it; the data stays.\n`);
}

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
  process.on(signal, () => void stop(0));
main().catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : error);
  void stop(1);
});
