/**
 * One PostgreSQL for each worker of the unit tests, with a database that has all tables: a suite
 * begins with a copy of that.
 */
import { existsSync } from 'node:fs';
import path from 'node:path';
import { Client } from 'pg';
import { closeDatabase, migrateDatabase } from '@/db/client';
import { queue, stopQueue } from '@/server/jobs/queue';
import { startCluster } from '../../scripts/cluster';
import type { Cluster } from '../../scripts/cluster';
import { RUN_FOLDER } from '../support/run-clusters';

const MIGRATIONS = path.resolve(import.meta.dirname, '../../drizzle');
const TEMPLATE = 'with_tables';

const named = (url: string, database: string): string => {
  const address = new URL(url);
  address.pathname = `/${database}`;
  return address.href;
};

async function command(cluster: Cluster, statement: string): Promise<void> {
  const client = new Client({ connectionString: cluster.url });
  await client.connect();
  await client.query(statement).finally(() => client.end());
}

/** The server of this worker, with its template; what a suite stopped is started again. */
async function ownCluster(): Promise<Cluster> {
  const folder = path.join(process.env[RUN_FOLDER] ?? '', process.env['JEST_WORKER_ID'] ?? '1');
  const isNew = !existsSync(folder);
  const cluster = await startCluster({ folder, throwAway: true, say: () => undefined });
  if (isNew) {
    await command(cluster, `create database ${TEMPLATE}`);
    process.env['DATABASE_URL'] = named(cluster.url, TEMPLATE);
    await migrateDatabase(MIGRATIONS);
    await queue();
    await stopQueue();
    await closeDatabase();
  }
  return cluster;
}

/** A database of its own for a suite. */
export interface SuiteDatabase {
  readonly cluster: Cluster;
  readonly url: string;
  readonly drop: () => Promise<void>;
}

export async function makeDatabase(): Promise<SuiteDatabase> {
  const cluster = await ownCluster();
  const name = `suite_${String(process.hrtime.bigint())}`;
  await command(cluster, `create database ${name} template ${TEMPLATE}`);
  return {
    cluster,
    url: named(cluster.url, name),
    drop: () => command(cluster, `drop database ${name} with (force)`),
  };
}
