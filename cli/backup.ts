import { existsSync, mkdtempSync, renameSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { AppError } from '@/core/base/diagnostic';
import { UsageError } from './arguments';
import type { Arguments } from './arguments';
import { openDatabase, runPostgres } from './database';

const megabytes = (file: string): string => (statSync(file).size / 1048576).toFixed(1);

/** Writes everything the studio holds into one file, while it goes on working. */
export async function runBackup(
  { positionals }: Arguments,
  print: (text: string) => void,
): Promise<number> {
  const [file] = positionals;
  if (!file) throw new UsageError('Name the file to write.');
  if (existsSync(file)) {
    const message = `${file} is there already.`;
    throw new AppError('backup.exists', message, 'Name another file.', {
      kept: 'It was left as it is.',
    });
  }
  const database = await openDatabase();
  // A back-up that was cut off must not look like one.
  const unfinished = `${file}.unfinished`;
  try {
    runPostgres('pg_dump', database.url, ['--format=custom', '--no-owner', `--file=${unfinished}`]);
    renameSync(unfinished, file);
  } finally {
    rmSync(unfinished, { force: true });
    database.close();
  }
  print(`Wrote ${file} (${megabytes(file)} MB). Restore it with: bright-loom restore ${file}`);
  return 0;
}

/** People at work on a database, besides ourselves; and rows in it. */
const IN_USE =
  'select count(*) from pg_stat_activity where datname = current_database() and pid <> ' +
  "pg_backend_pid() and backend_type = 'client backend'";
const IS_FILLED =
  'select count(*) from pg_class c join pg_namespace n on n.oid = c.relnamespace where ' +
  "n.nspname = 'public' and c.relkind = 'r'";
const count = (url: string, statement: string): number =>
  Number(
    runPostgres('psql', url, [
      '--no-psqlrc',
      '--tuples-only',
      '--no-align',
      '--command',
      statement,
    ]),
  );

/** What the studio makes in a database: its tables, how far they are, and the queue. */
const SCHEMAS = ['public', 'drizzle', 'pgboss'];

/**
 * Puts a back-up in the place of what is there, in one transaction: pg_restore by itself cannot
 * replace the queue's tables.
 */
function replaceAll(url: string, file: string): void {
  const folder = mkdtempSync(path.join(tmpdir(), 'bright-loom-restore-'));
  const script = path.join(folder, 'restore.sql');
  try {
    runPostgres('pg_restore', url, ['--no-owner', `--file=${script}`, file]);
    const empty = `drop schema if exists ${SCHEMAS.join(', ')} cascade; create schema public`;
    runPostgres('psql', url, [
      '--no-psqlrc',
      '--quiet',
      '--single-transaction',
      '--set=ON_ERROR_STOP=1',
      '--output=/dev/null',
      '--command',
      empty,
      '--file',
      script,
    ]);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Fills a database with what a back-up holds: all of it, or nothing where something goes wrong. */
export async function runRestore(
  { positionals, values }: Arguments,
  print: (text: string) => void,
): Promise<number> {
  const [file] = positionals;
  if (!file) throw new UsageError('Name the back-up to restore.');
  if (!existsSync(file)) {
    throw new AppError('restore.missing', `There is no file ${file}.`, 'Look for it elsewhere.');
  }
  const database = await openDatabase();
  try {
    if (count(database.url, IN_USE) > 0) {
      throw new AppError(
        'restore.in-use',
        'The studio is at work on this database.',
        'Stop it first.',
        {
          kept: 'Nothing was changed.',
        },
      );
    }
    if (count(database.url, IS_FILLED) > 0 && !values['replace']) {
      const action =
        'Add --replace to put the back-up in its place, after a back-up of what is there.';
      throw new AppError('restore.filled', 'This database holds a studio already.', action, {
        kept: 'Nothing was changed.',
      });
    }
    replaceAll(database.url, file);
  } finally {
    database.close();
  }
  print(`Restored ${file}. Start the studio again; it brings older tables up to date by itself.`);
  return 0;
}
