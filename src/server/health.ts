import { readFileSync } from 'node:fs';
import path from 'node:path';
import type { TypeOf } from '@/contract/forms';
import type { healthForm } from '@/contract/health';
import { countMigrations } from '@/db/client';
import { countWorkers } from '@/db/queries/jobs';

/** A worker that was not heard of for so long does not count. */
const SILENT_SECONDS = 30;
/** The database is given so long to say that it is there. */
const PATIENCE_MS = 3000;

let expectedMigrations: number | undefined;
/** How many migrations this release has. */
function countExpected(): number {
  const file = path.resolve(process.cwd(), 'drizzle/meta/_journal.json');
  const read = (): number =>
    (JSON.parse(readFileSync(file, 'utf8')) as { entries: unknown[] }).entries.length;
  return (expectedMigrations ??= read());
}

const late = (): Promise<never> =>
  new Promise((_, reject) => {
    setTimeout(() => {
      reject(new Error('The database did not answer'));
    }, PATIENCE_MS).unref();
  });

/**
 * Whether the database answers, its tables are those of this release, and somebody works on jobs.
 */
export async function checkHealth(): Promise<TypeOf<typeof healthForm>> {
  const expected = countExpected();
  try {
    const [applied, workers] = await Promise.race([
      Promise.all([countMigrations(), countWorkers(SILENT_SECONDS)]),
      late(),
    ]);
    const ok = applied >= expected && workers > 0;
    return { ok, database: 'ok', migrations: { applied, expected }, workers };
  } catch {
    const migrations = { applied: 0, expected };
    return { ok: false, database: 'unreachable', migrations, workers: 0 };
  }
}
