import PgBoss from 'pg-boss';
import { databaseUrl } from '@/db/client';

/** Background work, kept in the database: any worker process takes it over when another dies. */
export const SWATCH_JOB = 'swatch';
export const PUBLISH_JOB = 'publish';
export const MAP_JOB = 'mesh map';

const kept = globalThis as unknown as { brightLoomJobs?: Promise<PgBoss> | undefined };

async function start(): Promise<PgBoss> {
  const boss = new PgBoss({ connectionString: databaseUrl(), max: 3 });
  boss.on('error', () => undefined);
  await boss.start();
  for (const name of [SWATCH_JOB, PUBLISH_JOB, MAP_JOB]) await boss.createQueue(name, { name, policy: name === PUBLISH_JOB ? 'standard' : 'short', retryLimit: 3, retryDelay: 2, expireInSeconds: name === MAP_JOB ? 900 : 120 });
  return boss;
}

/** The queue of this process; a failed start is tried again by the next caller. */
export function jobs(): Promise<PgBoss> {
  kept.brightLoomJobs ??= start().catch((error: unknown) => {
    kept.brightLoomJobs = undefined;
    throw error;
  });
  return kept.brightLoomJobs;
}

export async function stopJobs(): Promise<void> {
  const running = kept.brightLoomJobs;
  kept.brightLoomJobs = undefined;
  await (await running)?.stop({ graceful: false });
}

/** Asks for a new picture of a material. Of several waiting requests for one material the first serves all. A picture is not worth failing a save for. */
export async function requestSwatch(materialId: string): Promise<void> {
  try {
    await (await jobs()).send(SWATCH_JOB, { materialId }, { singletonKey: materialId });
  } catch (error) {
    console.error('No picture was requested:', error);
  }
}

export async function requestPublication(publicationId: string): Promise<void> {
  await (await jobs()).send(PUBLISH_JOB, { publicationId });
}
