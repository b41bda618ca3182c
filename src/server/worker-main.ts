import { closeDatabase } from '@/db/client';
import { findOwner } from '@/db/queries/owners';
import { MAP_JOB, PUBLISH_JOB, SWATCH_JOB, jobs, stopJobs } from './jobs';
import { runMap } from './mesh-maps';
import type { MapTask } from './mesh-maps';
import { runPublication, runSwatch } from './publish';

/** A worker process: takes jobs from the database until it is told to stop. Start more of them for more speed. */
const boss = await jobs();
await boss.work<{ publicationId: string }>(PUBLISH_JOB, { pollingIntervalSeconds: 0.5 }, async (batch) => {
  for (const job of batch) await runPublication(job.data.publicationId);
});
await boss.work<{ materialId: string }>(SWATCH_JOB, { pollingIntervalSeconds: 1 }, async (batch) => {
  for (const job of batch) {
    const owner = await findOwner(job.data.materialId);
    if (owner) await runSwatch(job.data.materialId, owner);
  }
});
await boss.work<MapTask>(MAP_JOB, { pollingIntervalSeconds: 2 }, async (batch) => {
  for (const job of batch) await runMap(job.data);
});
console.log('worker ready');
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => { void stopJobs().then(closeDatabase).finally(() => process.exit(0)); });
}
