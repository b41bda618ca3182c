import type { Cluster } from '../../scripts/cluster';
import { MATERIAL_PAGE } from '@/contract/materials';
import type { MaterialSummary } from '@/contract/materials';
import { closeDatabase } from '@/db/client';
import { insertPerson, insertProject } from '@/db/queries/seeding';
import type { Role, SignedIn } from '@/server/authentication';
import type { JobRow } from '@/db/queries/jobs';
import { claimJob, findJob } from '@/db/queries/jobs';
import { closeBodyThreads } from '@/server/http/read-body';
import { findMaterials } from '@/server/material-search';
import { findKind } from '@/server/jobs/kinds';
import { stopQueue } from '@/server/jobs/queue';
import { tryJob } from '@/server/jobs/run-job';
import { makeDatabase } from './worker-cluster';

/** A real database of its own for a test file, dropped afterwards. */
export async function startStudio(): Promise<{
  cluster: Cluster;
  url: string;
  stop: () => Promise<void>;
}> {
  const { cluster, url, drop } = await makeDatabase();
  process.env['DATABASE_URL'] = url;
  process.env['BETTER_AUTH_SECRET'] = 'only-for-tests-0123456789abcdef0123456789abcdef';
  process.env['PUBLIC_URL'] = 'http://127.0.0.1:3000';
  return {
    cluster,
    url,
    stop: async () => {
      await stopQueue().catch(() => undefined);
      await closeBodyThreads();
      await closeDatabase();
      if (!cluster.isRunning()) await cluster.restart();
      await drop();
    },
  };
}

export async function makePerson(
  id: string,
  role: Role,
  projects: readonly string[],
  passwordHash = 'none',
): Promise<SignedIn> {
  for (const project of projects) await insertProject({ id: project, name: project });
  await insertPerson({ id, name: id, email: `${id}@studio.example`, role, passwordHash, projects });
  return { id, name: id, email: `${id}@studio.example`, role };
}

/** Works a job off as a worker would, once. @returns its row afterwards */
export async function workOff(id: string): Promise<JobRow | undefined> {
  const row = await claimJob(id, 'a worker of the tests');
  const kind = row && findKind(row.kind);
  if (row && kind) await tryJob(row, kind);
  return findJob(id);
}

/** Every material a person may see, archived ones too. */
export async function materialsOf(user: SignedIn): Promise<MaterialSummary[]> {
  const all: MaterialSummary[] = [];
  for (const archived of [undefined, 'yes'] as const)
    for (let first = 0, hasMore = true; hasMore; first += MATERIAL_PAGE) {
      const page = await findMaterials(user, { archived, first: String(first) });
      all.push(...page.materials);
      ({ hasMore } = page);
    }
  return all;
}
