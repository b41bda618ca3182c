/**
 * The PostgreSQL servers of a run of unit tests: none before its first worker needs one, none after
 * its last. Read outside the tests' own module resolution, hence no shortened paths here.
 */
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { buildPrograms } from '../../scripts/build-programs';
import { removeCluster, startCluster } from '../../scripts/cluster';

/** Names the folder where the servers of one run keep their data. */
export const RUN_FOLDER = 'BRIGHT_LOOM_TEST_CLUSTERS';

/** Before any worker begins. Programs that tests start run as they do in a studio: compiled. */
export async function beginRun(): Promise<void> {
  process.env['BRIGHT_LOOM_PROGRAMS'] = await buildPrograms(process.cwd());
  process.env[RUN_FOLDER] = mkdtempSync(path.join(tmpdir(), 'bright-loom-tests-'));
}

/** After all workers ended: none of their servers stays. */
export async function endRun(): Promise<void> {
  const folder = process.env[RUN_FOLDER];
  if (folder === undefined) return;
  for (const name of readdirSync(folder)) {
    const own = path.join(folder, name);
    const cluster = await startCluster({ folder: own, throwAway: true, say: () => undefined });
    cluster.stop();
    removeCluster(own);
  }
  rmSync(folder, { recursive: true, force: true });
}
