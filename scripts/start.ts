/** Brings everything up: database, migrations, demo data, build, server and worker. Called by ./start. */
import { spawn, spawnSync } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { closeDatabase, migrateDatabase } from '@/db/client';
import { DEMO_PEOPLE } from '@/server/demo/people';
import { seedDemo } from '@/server/demo/seed';
import { stopJobs } from '@/server/jobs';
import { removeCluster, startCluster } from './cluster';
import { freePort } from './ports';
import type { Cluster } from './cluster';

const root = path.resolve(import.meta.dirname, '..');
const folder = process.env['BRIGHT_LOOM_DATA'] ?? path.join(root, '.data');
const started = Date.now();
const say = (text: string): void => { console.log(`[${((Date.now() - started) / 1000).toFixed(1).padStart(5)} s] ${text}`); };

interface Settings { readonly port: number; readonly secret: string; readonly demoPassword: string }
const children: ChildProcess[] = [];
let cluster: Cluster | null = null;
let stopping = false;

async function readSettings(): Promise<Settings> {
  mkdirSync(folder, { recursive: true, mode: 0o711 });
  const file = path.join(folder, 'settings.json');
  const kept = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) as Partial<Settings> : {};
  const wanted = process.env['PORT'] ? Number(process.env['PORT']) : undefined;
  const settings: Settings = {
    port: wanted ?? await freePort(kept.port), secret: kept.secret ?? randomBytes(32).toString('hex'), demoPassword: kept.demoPassword ?? randomBytes(6).toString('hex'),
  };
  writeFileSync(file, JSON.stringify(settings, null, 2), { mode: 0o600 });
  return settings;
}

/** A hash of everything the build reads. */
function sourceHash(): string {
  const hash = createHash('sha256');
  const visit = (at: string): void => {
    for (const entry of readdirSync(at, { withFileTypes: true }).sort((a, b) => a.name.localeCompare(b.name))) {
      const full = path.join(at, entry.name);
      if (entry.isDirectory()) visit(full);
      else if (!/\.test\.tsx?$/.test(entry.name)) hash.update(full.slice(root.length)).update(readFileSync(full));
    }
  };
  visit(path.join(root, 'src'));
  for (const file of ['package-lock.json', 'next.config.ts', 'tsconfig.json', 'postcss.config.mjs']) hash.update(readFileSync(path.join(root, file)));
  return hash.digest('hex');
}

function build(): void {
  const stamp = path.join(root, '.next/bright-loom-sources');
  const wanted = sourceHash();
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return say('the build is up to date');
  say('building (about a minute, once per change)');
  const result = spawnSync('node_modules/.bin/next', ['build'], { cwd: root, stdio: ['ignore', 'pipe', 'pipe'], encoding: 'utf8', env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' } });
  if (result.status !== 0) throw new Error(`The build failed:\n${result.stdout}\n${result.stderr}`);
  writeFileSync(stamp, wanted);
  say('built');
}

function launch(name: string, args: readonly string[], env: NodeJS.ProcessEnv): ChildProcess {
  const child = spawn('node', [...args], { cwd: root, env, stdio: ['ignore', 'pipe', 'pipe'] });
  children.push(child);
  const note = (chunk: Buffer): void => { if (process.env['BRIGHT_LOOM_VERBOSE'] || /error/i.test(String(chunk))) process.stderr.write(`${name}: ${String(chunk)}`); };
  child.stdout.on('data', note);
  child.stderr.on('data', note);
  child.on('exit', (code) => {
    if (stopping) return;
    if (name === 'worker') { say('the worker stopped; starting another'); setTimeout(() => { if (!stopping) launch(name, args, env); }, 1000); return; }
    console.error(`The ${name} stopped with code ${String(code)}.`);
    void stop(1);
  });
  return child;
}

async function waitFor(url: string): Promise<void> {
  for (let k = 0; k < 240; k++) {
    try {
      if ((await fetch(url, { redirect: 'manual' })).status < 500) return;
    } catch { /* not yet listening */ }
    await new Promise((resolve) => { setTimeout(resolve, 250); });
  }
  throw new Error('The server did not answer within a minute.');
}

async function stop(code: number): Promise<void> {
  if (stopping) return;
  stopping = true;
  for (const child of children) child.kill('SIGTERM');
  await Promise.all(children.map((child) => new Promise<void>((resolve) => { if (child.exitCode !== null || child.signalCode) resolve(); else { child.on('exit', () => { resolve(); }); setTimeout(() => { child.kill('SIGKILL'); resolve(); }, 5000); } })));
  await closeDatabase().catch(() => undefined);
  if (cluster?.startedHere) cluster.stop();
  process.exit(code);
}

async function main(): Promise<void> {
  process.chdir(root);
  if (process.argv.includes('--fresh')) {
    say('beginning anew: removing the data of before');
    if (!process.env['DATABASE_URL'] && existsSync(path.join(folder, 'database-folder'))) {
      const old = await startCluster({ folder, throwAway: false, say: () => undefined });
      old.stop();
    }
    removeCluster(folder);
  }
  const settings = await readSettings();
  if (process.env['DATABASE_URL']) say('using the database of DATABASE_URL');
  else {
    cluster = await startCluster({ folder, throwAway: process.argv.includes('--throw-away'), say, keptPort: settings.port });
    process.env['DATABASE_URL'] = cluster.url;
  }
  say('bringing the tables up to date');
  await migrateDatabase(path.join(root, 'drizzle'));
  await seedDemo(settings.demoPassword, say);
  await stopJobs();
  build();
  const address = `http://127.0.0.1:${String(settings.port)}`;
  const env: NodeJS.ProcessEnv = { ...process.env, NODE_ENV: 'production', NEXT_TELEMETRY_DISABLED: '1', BETTER_AUTH_SECRET: settings.secret, BETTER_AUTH_URL: address };
  launch('server', ['node_modules/next/dist/bin/next', 'start', '-H', '127.0.0.1', '-p', String(settings.port)], env);
  launch('worker', ['--import', 'tsx', 'src/server/worker-main.ts'], env);
  await waitFor(`${address}/sign-in`);
  say('ready');
  console.log(`\n  Bright Loom is at ${address}\n\n  Demo accounts, password ${settings.demoPassword}:`);
  for (const person of DEMO_PEOPLE) console.log(`    ${person.email.padEnd(24)} ${person.role.padEnd(10)} ${person.name}`);
  console.log('\n  Ctrl-C stops it; the data stays.\n');
}

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => { void stop(0); });
main().catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : error);
  void stop(1);
});
