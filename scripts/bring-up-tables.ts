/** Brings a database up to what this release needs. */
import path from 'node:path';
import { closeDatabase, migrateDatabase } from '@/db/client';
import { isSeeded } from '@/db/queries/seeding';
import { seedDemo, storeShippedModels } from '@/server/demo/seed';
import { stopQueue } from '@/server/jobs/queue';
import { shelveAll } from '@/server/shelving';

const MIGRATIONS = path.resolve(import.meta.dirname, '../drizzle');

/**
 * Tables, shipped models and search index of the database of `DATABASE_URL`; the demo studio where
 * it is wanted and nobody is there yet.
 *
 * @param demoPassword of all demo accounts; null for a studio without the demo
 * @returns whether there is anybody in the studio
 */
export async function bringUpTables(
  demoPassword: string | null,
  say: (text: string) => void,
): Promise<boolean> {
  say('bringing the tables up to date');
  await migrateDatabase(MIGRATIONS);
  await storeShippedModels();
  if (demoPassword !== null) await seedDemo(demoPassword, say);
  const isPeopled = await isSeeded();
  await shelveAll();
  await stopQueue();
  await closeDatabase();
  return isPeopled;
}
