import { createHash } from 'node:crypto';
import type { SQL } from 'drizzle-orm';
import { PgDialect } from 'drizzle-orm/pg-core';
import { connection } from './client';

const dialect = new PgDialect();

/**
 * Runs a statement that every connection prepares once, by its text: planning a search takes as
 * long as running it. Only for statements of few texts, whose values are all parameters.
 */
export async function runPrepared<T extends Record<string, unknown>>(
  query: SQL,
): Promise<readonly T[]> {
  const { sql: text, params } = dialect.sqlToQuery(query);
  const name = createHash('sha256').update(text).digest('hex').slice(0, 32);
  const { rows } = await connection().pool.query<T>({ name, text, values: params });
  return rows;
}
