/** A studio of its own for measuring, thrown away afterwards: no demo, one person, one model. */
import { mkdtempSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { hashPassword } from 'better-auth/crypto';
import { closeDatabase, migrateDatabase } from '@/db/client';
import { storeBlob } from '@/db/queries/blobs';
import { insertModel } from '@/db/queries/models';
import { insertPerson, insertProject } from '@/db/queries/seeding';
import type { SignedIn } from '@/server/authentication';
import { stopQueue } from '@/server/jobs/queue';
import { removeCluster, startCluster } from '../../scripts/cluster';

export const PASSWORD = 'correct horse';
export const LIBRARIAN: SignedIn = {
  id: 'sefa',
  name: 'Sefa',
  email: 'sefa@studio.example',
  role: 'librarian',
};

/** Has something done in it. */
export async function withLibraryStudio(work: () => Promise<void>): Promise<void> {
  const stop = await startLibraryStudio();
  try {
    await work();
  } finally {
    await stop();
  }
}

/** Starts it. @returns how to end it */
async function startLibraryStudio(): Promise<() => Promise<void>> {
  const folder = mkdtempSync(path.join(tmpdir(), 'bright-loom-bench-'));
  const cluster = await startCluster({ folder, throwAway: true, say: () => undefined });
  process.env['DATABASE_URL'] = cluster.url;
  process.env['BETTER_AUTH_SECRET'] = 'only-for-measuring-0123456789abcdef0123456789';
  process.env['PUBLIC_URL'] = 'http://127.0.0.1:3000';
  await migrateDatabase(path.resolve(import.meta.dirname, '../../drizzle'));
  await insertProject({ id: 'ferry', name: 'Lantern ferry' });
  await insertPerson({
    ...LIBRARIAN,
    projects: ['ferry'],
    passwordHash: await hashPassword(PASSWORD),
  });
  for (const name of ['study', 'buoy']) {
    const bytes = await readFile(
      path.resolve(import.meta.dirname, `../../assets/models/${name}.glb`),
    );
    const blobHash = await storeBlob(bytes, 'model/gltf-binary');
    await insertModel({ id: `demo-${name}`, name, projectId: null, blobHash, ownerId: null });
  }
  return async () => {
    await stopQueue().catch(() => undefined);
    await closeDatabase();
    cluster.stop();
    removeCluster(folder);
  };
}
