import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { AppError } from '@/core/base/diagnostic';
import { SETTINGS } from '../scripts/cluster-files';
import { findPostgres, startCluster } from '../scripts/cluster';

/** A database to be saved or filled, and what is to be done when that is over. */
export interface OpenedDatabase {
  readonly url: string;
  readonly close: () => void;
}

const root = path.resolve(import.meta.dirname, '..');
/** Where `./start` keeps its data. */
const dataFolder = (): string =>
  path.resolve(process.env['BRIGHT_LOOM_DATA'] ?? path.join(root, '.data'));

/** Where the tables are stated. */
export const migrations = (): string => path.join(root, 'drizzle');

/** The address of the studio of `./start` on this machine, as far as it was ever started. */
export function publicAddress(): string {
  const file = path.join(dataFolder(), SETTINGS);
  const kept = existsSync(file)
    ? (JSON.parse(readFileSync(file, 'utf8')) as { readonly port?: number })
    : {};
  return `http://127.0.0.1:${String(kept.port ?? 3000)}`;
}

/**
 * The database of DATABASE_URL, or the one of `./start`, which is started where it does not run.
 */
export async function openDatabase(): Promise<OpenedDatabase> {
  const url = process.env['DATABASE_URL'];
  if (url) return { url, close: () => undefined };
  const cluster = await startCluster({
    folder: dataFolder(),
    throwAway: false,
    say: () => undefined,
  });
  const close = (): void => {
    if (cluster.startedHere) cluster.stop();
  };
  return { url: cluster.url, close };
}

/**
 * Runs one of PostgreSQL's programs on a database. The password goes by the environment, not by the
 * list of processes.
 * @throws AppError with what the program said
 */
export function runPostgres(program: string, url: string, args: readonly string[]): string {
  const folder = findPostgres();
  if (!folder) {
    const action = 'Run: apt-get install -y postgresql';
    throw new AppError('postgres.missing', 'PostgreSQL’s programs are not installed.', action);
  }
  const { hostname, port, username, password, pathname, searchParams } = new URL(url);
  const env = {
    ...process.env,
    PGHOST: searchParams.get('host') ?? hostname,
    PGPORT: port || '5432',
    PGUSER: decodeURIComponent(username),
    PGPASSWORD: decodeURIComponent(password),
    PGDATABASE: decodeURIComponent(pathname.slice(1)) || 'postgres',
  };
  const result = spawnSync(path.join(folder, program), [...args], { encoding: 'utf8', env });
  if (result.status === 0) return result.stdout;
  const said = (result.stderr || result.error?.message || '').trim().split('\n').slice(0, 3);
  throw new AppError('postgres.failed', `${program}: ${said.join(' ')}`, 'See docs/operations.md.');
}
