import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { Client, Pool } from 'pg';
import type { QueryConfig } from 'pg';
import { AppError } from '../core/base/diagnostic';
import * as schema from './schema/index';

type Database = ReturnType<typeof drizzle<typeof schema>>;
/** The database, or a transaction on it. */
export type Executor = Pick<Database, 'select' | 'insert' | 'update' | 'delete' | 'execute'>;

interface Kept {
  readonly pool: Pool;
  readonly database: Database;
  /** When an idle connection was last lost, milliseconds since 1970. */
  lostAt: number;
}
const kept = globalThis as unknown as { brightLoomDatabase?: Kept };

/**
 * No wait on the database is endless: for a connection, for a statement, for its answer.
 * Milliseconds.
 */
const WAIT = { connection: 10_000, statement: 30_000, answer: 35_000, idleTransaction: 30_000 };
const MOST_CONNECTIONS = 10;

export function databaseUrl(): string {
  const url = process.env['DATABASE_URL'];
  if (!url) {
    const action = 'Start the application with ./start, or set DATABASE_URL.';
    throw new AppError('database.not-set', 'No database is configured.', action, { status: 503 });
  }
  return url;
}

/** One pool per process; kept over reloads. */
export function connection(): { pool: Pool; database: Database } {
  if (!kept.brightLoomDatabase) {
    const pool = new Pool({
      connectionString: databaseUrl(),
      max: MOST_CONNECTIONS,
      connectionTimeoutMillis: WAIT.connection,
      statement_timeout: WAIT.statement,
      query_timeout: WAIT.answer,
      idle_in_transaction_session_timeout: WAIT.idleTransaction,
      keepAlive: true,
    });
    // A server that goes away ends idle connections; the next query reconnects or says so.
    const made: Kept = { pool, database: drizzle(pool, { schema }), lostAt: 0 };
    const lost = (): void => {
      made.lostAt = Date.now();
    };
    pool.on('error', lost);
    // One that is in use, between two statements of a transaction, would end the process.
    pool.on('connect', (client) => {
      client.on('error', lost);
    });
    kept.brightLoomDatabase = made;
  }
  return kept.brightLoomDatabase;
}

export const database = (): Database => connection().database;

type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

/**
 * Does several things together or not at all. The connection is given back whatever happens, also
 * where the database goes away before anything is begun.
 */
export async function transaction<T>(work: (tx: Transaction) => Promise<T>): Promise<T> {
  const client = await connection().pool.connect();
  let isLost = false;
  try {
    return await drizzle(client, { schema }).transaction(work);
  } catch (error) {
    isLost = isUnreachable(error);
    throw error;
  } finally {
    client.release(isLost);
  }
}

export async function closeDatabase(): Promise<void> {
  const open = kept.brightLoomDatabase;
  delete kept.brightLoomDatabase;
  await open?.pool.end();
}

/** What only one process at a time may do to the database's structure; numbers of our own. */
const STRUCTURE_LOCK = { tables: 5_206_001, queue: 5_206_002 } as const;

/** Does something to the structure while no other process does the same. */
export async function holdingLock<T>(
  of: keyof typeof STRUCTURE_LOCK,
  work: () => Promise<T>,
): Promise<T> {
  const lock = new Client({ connectionString: databaseUrl() });
  await lock.connect();
  try {
    await lock.query('select pg_advisory_lock($1)', [STRUCTURE_LOCK[of]]);
    return await work();
  } finally {
    await lock.end();
  }
}

export const migrateDatabase = (folder: string): Promise<void> =>
  holdingLock('tables', () => migrate(database(), { migrationsFolder: folder }));

/** Whether the database went away within the last seconds. */
export const wasLostLately = (): boolean =>
  Date.now() - (kept.brightLoomDatabase?.lostAt ?? 0) < LATELY_MS;
const LATELY_MS = 5000;

let probe: { readonly at: number; readonly answer: Promise<boolean> } | undefined;
const PROBE_MS = { keep: 250, patience: 3000 };

/** Whether the database answers at the moment; asked at most four times a second. */
export function isAnswering(): Promise<boolean> {
  const now = Date.now();
  if (probe && now - probe.at < PROBE_MS.keep) return probe.answer;
  const asked = connection().pool.query({
    text: 'select 1',
    query_timeout: PROBE_MS.patience,
  } as QueryConfig);
  const late = new Promise<boolean>((resolve) => {
    setTimeout(resolve, PROBE_MS.patience, false).unref();
  });
  const answer = Promise.race([
    asked.then(
      () => true,
      (error: unknown) => isBusy(error),
    ),
    late,
  ]);
  probe = { at: now, answer };
  return answer;
}

/** How many migrations the database has been through. */
export async function countMigrations(): Promise<number> {
  const { rows } = await connection().pool.query<{ applied: number }>(
    'select count(*)::int as applied from drizzle.__drizzle_migrations',
  );
  return rows[0]?.applied ?? 0;
}

/**
 * Hears what the database notifies on a channel, on a connection of its own.
 * @param onEnd the connection is gone; nothing more is heard
 * @returns what ends it
 */
export async function listen(
  channel: 'job',
  onNotice: (payload: string) => void,
  onEnd: () => void,
): Promise<() => Promise<void>> {
  const client = new Client({ connectionString: databaseUrl(), keepAlive: true });
  client.on('notification', ({ payload }) => {
    onNotice(payload ?? '');
  });
  client.on('error', () => undefined);
  client.on('end', onEnd);
  await client.connect();
  await client.query(`listen ${channel}`);
  return async () => {
    client.off('end', onEnd);
    await client.end();
  };
}

function* causesOf(error: unknown): Generator<Error & { code?: string }> {
  for (let at: unknown = error; at instanceof Error; at = at.cause) yield at;
}

const UNREACHABLE = /^(ECONNREFUSED|ECONNRESET|ENOTFOUND|EPIPE|ETIMEDOUT|57P0[123]|08\d\d\d)$/;
const LOST_WORDS = /Connection terminated|connection error and is not queryable/i;
/** Whether an error says that the database cannot be reached (not that a statement was wrong). */
export function isUnreachable(error: unknown): boolean {
  for (const at of causesOf(error)) {
    if (UNREACHABLE.test(at.code ?? '') || LOST_WORDS.test(at.message)) return true;
    if (at instanceof AggregateError && at.errors.some((each) => isUnreachable(each))) return true;
  }
  return false;
}

/** Too many connections, and statements that took too long or waited too long for a lock. */
const BUSY = /^(53300|57014|55P03|25P03|40P01)$/;
const BUSY_WORDS = /timeout exceeded when trying to connect|Query read timeout/i;
/** Whether an error says that the database has too much to do. */
export function isBusy(error: unknown): boolean {
  for (const at of causesOf(error)) {
    if (BUSY.test(at.code ?? '') || BUSY_WORDS.test(at.message)) return true;
  }
  return false;
}

/** Whether a row with the same key was there before. */
export function isAlreadyThere(error: unknown): boolean {
  for (const at of causesOf(error)) if (at.code === '23505') return true;
  return false;
}

/** Whether something that stays names what was to go. */
export function isStillUsed(error: unknown): boolean {
  for (const at of causesOf(error)) if (at.code === '23503') return true;
  return false;
}

/** Whether a full disk stopped a statement. */
export function isOutOfSpace(error: unknown): boolean {
  for (const at of causesOf(error)) if (['53100', 'ENOSPC'].includes(at.code ?? '')) return true;
  return false;
}
