/**
 * Real worker processes on a real database: killed, cancelled and fed with what they cannot do,
 * every job ends.
 */
import { spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { storeBlob } from '@/db/queries/blobs';
import { findJob } from '@/db/queries/jobs';
import type { JobRow } from '@/db/queries/jobs';
import { insertModel } from '@/db/queries/models';
import type { SignedIn } from '@/server/authentication';
import { checkHealth } from '@/server/health';
import { enqueue } from '@/server/jobs/enqueue';
import { MESH_MAP, SWATCH } from '@/server/jobs/lanes';
import { cancelJob } from '@/server/jobs/service';
import type { MapTask } from '@/server/mesh-maps';
import { findProgram } from '@/server/programs';
import { listProcesses } from '../../scripts/processes';
import { makePerson, startStudio } from '../database/studio';

const root = path.resolve(import.meta.dirname, '../..');
let studio: Awaited<ReturnType<typeof startStudio>>;
let artist: SignedIn;
let blobHash = '';
const workers: ChildProcess[] = [];

function startWorker(): ChildProcess {
  const env = {
    ...process.env,
    NODE_OPTIONS: '',
    NODE_ENV: 'production',
    WORKER_SILENCE_SECONDS: '5',
  } as const;
  const { file, execArgv } = findProgram('worker-main');
  const child = spawn(process.execPath, [...execArgv, file], {
    cwd: root,
    env,
    stdio: 'ignore',
  });
  workers.push(child);
  return child;
}
const childrenOf = (pid: number | undefined): number[] =>
  listProcesses()
    .filter(({ parent }) => parent === pid)
    .map((each) => each.pid);
async function until(id: string, holds: (row: JobRow) => boolean, seconds = 150): Promise<JobRow> {
  for (let k = 0; k < seconds * 10; k++) {
    const row = await findJob(id);
    if (row && holds(row)) return row;
    await new Promise((resolve) => {
      setTimeout(resolve, 100);
    });
  }
  throw new Error(`the job is still ${(await findJob(id))?.state ?? 'nowhere'}`);
}
const hasEnded = ({ state }: JobRow): boolean => ['done', 'refused', 'failed'].includes(state);
let reach = 0.1;
/** A map that takes seconds to measure, another each time. */
const measure = (): Promise<string> => {
  reach += 0.001;
  const task: MapTask = {
    blobHash,
    preparation: {},
    settings: { kind: 'occlusion', reach, coneRad: 1.5, falloff: 1, side: 'open' },
  };
  return enqueue(MESH_MAP, task, { title: 'Measuring', userId: artist.id });
};

beforeAll(async () => {
  studio = await startStudio();
  artist = await makePerson('artist', 'artist', ['ferry']);
  blobHash = await storeBlob(
    await readFile(path.join(root, 'assets/models/floats.glb')),
    'model/gltf-binary',
  );
  await insertModel({
    id: 'floats',
    name: 'Floats',
    projectId: 'ferry',
    blobHash,
    ownerId: artist.id,
  });
}, 120000);
afterAll(async () => {
  for (const worker of workers) worker.kill('SIGKILL');
  await studio.stop();
});

it('a job whose worker is killed half-way is taken over by another', async () => {
  expect(await checkHealth()).toMatchObject({ ok: false, database: 'ok', workers: 0 });
  const first = startWorker();
  const id = await measure();
  await until(id, ({ progress }) => progress > 0);
  expect((await checkHealth()).workers).toBe(1);
  first.kill('SIGKILL');
  startWorker();
  expect(await until(id, hasEnded)).toMatchObject({ state: 'done', tries: 2, progress: 1 });
}, 320000);

it(
  'a job whose process ends is tried again, and one that is cancelled ends at once; others ' +
    'go on',
  async () => {
    const worker = workers.at(-1);
    const crashed = await measure();
    await until(crashed, ({ progress }) => progress > 0);
    for (const pid of childrenOf(worker?.pid)) process.kill(pid, 'SIGKILL');
    expect(await until(crashed, hasEnded)).toMatchObject({ state: 'done', tries: 2 });
    const cancelled = await measure();
    await until(cancelled, ({ progress }) => progress > 0);
    expect(await cancelJob(artist, cancelled)).toMatchObject({
      state: 'refused',
      reason: { code: 'job.cancelled', message: 'artist cancelled it.' },
      mayCancel: false,
    });
    const next = await measure();
    expect(await until(next, hasEnded)).toMatchObject({ state: 'done' });
    expect(await findJob(cancelled)).toMatchObject({ state: 'refused' });
  },
  320000,
);

it(
  'a kind that this release does not know fails, and a request that is none is refused, ' +
    'each with its reason',
  async () => {
    const unknown = await enqueue(
      { kind: 'of the future', lane: 'prompt' },
      {},
      { title: 'Something', userId: artist.id },
    );
    const wrong = await enqueue(
      SWATCH,
      { materialId: 'no id at all !' },
      { title: 'Picture', userId: artist.id },
    );
    expect(await until(unknown, hasEnded)).toMatchObject({
      state: 'failed',
      reason: { code: 'job.kind' },
    });
    expect(await until(wrong, hasEnded)).toMatchObject({
      state: 'refused',
      reason: { code: 'job.request' },
    });
  },
  60000,
);

it('of equal requests that wait the first serves all', async () => {
  for (const worker of workers) worker.kill('SIGKILL');
  const wanted = { title: 'Picture', userId: artist.id, key: 'the same' };
  const [one, two] = [
    await enqueue(SWATCH, { materialId: 'x' }, wanted),
    await enqueue(SWATCH, { materialId: 'x' }, wanted),
  ];
  expect([(await findJob(one))?.state, await findJob(two)]).toEqual(['waiting', undefined]);
});
