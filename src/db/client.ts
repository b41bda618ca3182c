import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { Pool } from 'pg';
import { AppError } from '../core/base/diagnostic';
import * as schema from './schema/index';

type Database = ReturnType<typeof drizzle<typeof schema>>;
/** The database, or a transaction on it. */
export type Executor = Pick<Database, 'select' | 'insert' | 'update' | 'delete' | 'execute'>;

const kept = globalThis as unknown as { brightLoomDatabase?: { pool: Pool; database: Database } };

export function databaseUrl(): string {
  const url = process.env['DATABASE_URL'];
  if (!url) throw new AppError('database.not-set', 'No database is configured.', 'Start the application with ./start, or set DATABASE_URL.', { status: 503 });
  return url;
}

/** One pool per process; kept over reloads. */
export function connection(): { pool: Pool; database: Database } {
  if (!kept.brightLoomDatabase) {
    const pool = new Pool({ connectionString: databaseUrl(), max: 10, connectionTimeoutMillis: 8000 });
    // A server that goes away ends idle connections; the next query reconnects or says so.
    pool.on('error', () => undefined);
    kept.brightLoomDatabase = { pool, database: drizzle(pool, { schema }) };
  }
  return kept.brightLoomDatabase;
}

export const database = (): Database => connection().database;

export async function closeDatabase(): Promise<void> {
  const open = kept.brightLoomDatabase;
  delete kept.brightLoomDatabase;
  await open?.pool.end();
}

export async function migrateDatabase(folder: string): Promise<void> {
  await migrate(database(), { migrationsFolder: folder });
}

/** Whether an error says that the database cannot be reached (not that a statement was wrong). */
export function isUnreachable(error: unknown): boolean {
  for (let at: unknown = error; at instanceof Error; at = at.cause) {
    const code = (at as { code?: string }).code ?? '';
    if (/^(ECONNREFUSED|ECONNRESET|ENOTFOUND|EPIPE|ETIMEDOUT|57P0[123]|08\d\d\d|53300)$/.test(code)) return true;
    if (/timeout exceeded when trying to connect|Connection terminated/i.test(at.message)) return true;
    if (at instanceof AggregateError && at.errors.some((each) => isUnreachable(each))) return true;
  }
  return false;
}

/** Whether a full disk stopped a statement. */
export function isOutOfSpace(error: unknown): boolean {
  for (let at: unknown = error; at instanceof Error; at = at.cause) if (['53100', 'ENOSPC'].includes((at as { code?: string }).code ?? '')) return true;
  return false;
}
