/** What looking ahead costs: one worker, two workers, and the pictures alone. */
import { spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { hashContent } from '@/core/graph/canonical';
import { DOCUMENT_VERSION } from '@/core/graph/document';
import { addDial } from '@/core/edit/dials';
import { groupSelection } from '@/core/edit/group';
import { setValue } from '@/core/edit/nodes';
import { MaterialPainter } from '@/core/evaluate/material-painter';
import type { NetworkDocument } from '@/core/graph/document';
import { lookAhead } from '@/core/releases/outlook';
import type { ReleasedGroups } from '@/core/releases/release-groups';
import { database } from '@/db/client';
import { storeBlob } from '@/db/queries/blobs';
import { countWorkers } from '@/db/queries/jobs';
import { insertRelease } from '@/db/queries/library';
import { insertMaterial } from '@/db/queries/materials';
import { findModel } from '@/db/queries/models';
import { askConsequences, readConsequences } from '@/server/outlooks';
import { findProgram } from '@/server/programs';
import { prepareModel } from '@/server/render';
import { LIBRARIAN } from './studio';
import { largeNetwork } from '../core/network';
import { buildPrograms } from '../../scripts/build-programs';
import { sized } from '../size';

const ENTRY = 'bench-entry';
const SIZE = 128;
/** Nodes of each material, all of them in the group. */
const NODES = sized(24, 16);

/** A material whose group is placed from the entry. */
function material(): { document: NetworkDocument; groups: ReleasedGroups; groupId: string } {
  const source = largeNetwork(NODES);
  const ids = source.network.nodes.map(({ id }) => id);
  const made = groupSelection(source, { board: null, ids, name: 'Bench', path: [] });
  const noise = source.network.nodes.find(({ type }) => type.includes('noise'));
  const dialled =
    noise && addDial(made.document, made.groupId, noise.id, 'scale', 'times', 'Scale')?.document;
  const document = dialled ?? made.document;
  const group = Object.values(document.groups).find(({ id }) => id === made.groupId);
  if (!group) throw new Error('nothing was packaged');
  const release = { entryId: ENTRY, version: '1.0.0' };
  return {
    document: { ...document, groups: { [group.id]: { ...group, release } } },
    groups: { root: group.id, definitions: { [group.id]: group } },
    groupId: group.id,
  };
}

/** The group with its first two numbers changed. */
function changed({ root, definitions }: ReleasedGroups): ReleasedGroups {
  const holding = { ...material().document, groups: definitions };
  const numbers = (definitions[root]?.network.nodes ?? [])
    .flatMap(({ id, values }) =>
      Object.entries(values).flatMap(([input, value]) =>
        typeof value === 'number' ? [{ id, input, value }] : [],
      ),
    )
    .slice(0, 2);
  const next = numbers.reduce(
    (document, { id, input, value }) => setValue(document, root, id, input, value * 1.2 + 0.01),
    holding,
  );
  return { root, definitions: next.groups };
}

async function publishBoth(groups: ReleasedGroups): Promise<void> {
  const swatchHash = await storeBlob(new Uint8Array([2]), 'image/png');
  const entry = {
    id: ENTRY,
    rack: 'studio',
    name: 'Bench entry',
    description: '',
    tags: [],
    authorId: LIBRARIAN.id,
  };
  for (const [version, held] of [
    ['1.0.0', groups],
    ['1.1.0', changed(groups)],
  ] as const)
    await insertRelease(
      entry,
      {
        entryId: ENTRY,
        groups: held,
        documentVersion: DOCUMENT_VERSION,
        contentHash: await hashContent(held),
        sourceMaterialId: 'none',
        sourceRevision: 1,
        swatchHash,
        authorId: LIBRARIAN.id,
      },
      () => version,
    );
}

/** A worker of the studio that is measured. */
class Worker {
  /** What it said last, should it end by itself. */
  private said = '';
  private readonly child: ChildProcess;

  constructor() {
    const { file, execArgv } = findProgram('worker-main');
    this.child = spawn(process.execPath, [...execArgv, file], {
      env: {
        ...process.env,
        NODE_OPTIONS: '',
        NODE_ENV: 'production',
        ...sized({}, { WORKER_SILENCE_SECONDS: '3' }),
      } as const,
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    for (const stream of [this.child.stdout, this.child.stderr])
      stream?.on('data', (text: Buffer) => {
        this.said = `${this.said}${text.toString()}`.slice(-600);
      });
  }

  kill(): void {
    this.child.kill('SIGKILL');
  }

  /** @throws Error when it ended by itself: nothing that waits for it would ever end */
  assertAlive(): void {
    const { exitCode, signalCode, killed } = this.child;
    if (killed || (exitCode === null && signalCode === null)) return;
    const how = signalCode ?? `code ${String(exitCode)}`;
    throw new Error(`A worker ended by itself (${how}). It said last: ${this.said || 'nothing'}`);
  }
}
const wait = (ms: number): Promise<void> =>
  new Promise((resolve) => {
    setTimeout(resolve, ms);
  });

/** Seconds from asking until all is looked at; workers are running before. */
async function measureJobs(
  workers: readonly Worker[],
  during: () => void = () => undefined,
): Promise<number> {
  const began = performance.now();
  const { id } = await askConsequences(LIBRARIAN, ENTRY, { version: '1.1.0', candidate: null });
  let half = false;
  for (;;) {
    workers.forEach((each) => {
      each.assertAlive();
    });
    const { materials } = await readConsequences(LIBRARIAN, id);
    const done = materials.filter(({ state }) => state !== 'waiting').length;
    if (!half && done * 3 > materials.length) {
      half = true;
      during();
    }
    if (done === materials.length) {
      const failed = materials.find(({ state }) => state === 'failed');
      if (failed) throw new Error(failed.reason ?? 'failed');
      return (performance.now() - began) / 1000;
    }
    await wait(200);
  }
}

export interface ConsequenceFigures {
  readonly materials: number;
  /** Seconds. */
  readonly one: number;
  readonly two: number;
  /** The same pictures in one thread, without jobs, database and files. */
  readonly pictures: number;
  /** Two workers, of which one is killed after a third of the materials. */
  readonly killed: number;
  /** Rows of the last run that were looked at: all of them, each once. */
  readonly lookedAt: number;
}

/** Within so long a worker has said that it lives. */
const LATELY_SECONDS = 30;
/** So many materials warm a worker up. */
const WARMING = 8;
/** The pictures alone are drawn for so many at most, and counted for all. */
const MOST_DRAWN = 60;

async function insertUsers(made: NetworkDocument, from: number, to: number): Promise<void> {
  for (let k = from; k < to; k++) {
    const document = { ...made, name: `Material ${String(k)}` };
    await insertMaterial({
      id: randomUUID(),
      projectId: 'ferry',
      ownerId: LIBRARIAN.id,
      name: document.name,
      modelId: k % 2 === 0 ? 'demo-buoy' : 'demo-study',
      document,
      contentHash: String(k),
    });
  }
}

/** Fills the studio with materials that use one entry, and looks ahead at its next release. */
export async function measureConsequences(count: number): Promise<ConsequenceFigures> {
  const made = material();
  await publishBoth(made.groups);
  await insertUsers(made.document, 0, Math.min(WARMING, count));
  process.env['BRIGHT_LOOM_PROGRAMS'] = await buildPrograms(process.cwd());
  const workers = [new Worker(), new Worker()] as const;
  try {
    return { materials: count, ...(await measureWith(workers, made, count)) };
  } finally {
    workers.forEach((each) => {
      each.kill();
    });
  }
}

async function measureWith(
  workers: readonly [Worker, Worker],
  made: ReturnType<typeof material>,
  count: number,
): Promise<Omit<ConsequenceFigures, 'materials'>> {
  while ((await countWorkers(LATELY_SECONDS)) < 2) {
    workers.forEach((each) => {
      each.assertAlive();
    });
    await wait(200);
  }
  // Both are warm before either is measured: else the second's start would count, and the first's
  // not.
  await measureJobs(workers);
  await measureJobs(workers);
  await insertUsers(made.document, Math.min(WARMING, count), count);
  const two = await measureJobs(workers);
  const killed = await measureJobs(workers, () => {
    workers[1].kill();
  });
  const lookedAt = await countLookedAt();
  const one = await measureJobs(workers);
  workers[0].kill();
  return {
    one,
    two,
    killed,
    lookedAt,
    pictures: await drawAlone(made.document, made.groups, count),
  };
}

/** Materials that the last look ahead has looked at. */
async function countLookedAt(): Promise<number> {
  const { rows } = await database().execute<{ n: number }>(sql`select count(*)::int as n
    from consequence where state = 'done' and outlook_id =
      (select id from outlook order by created_at desc limit 1)`);
  return rows[0]?.n ?? 0;
}

/** Seconds for the same pictures in this thread. */
async function drawAlone(
  document: NetworkDocument,
  groups: ReleasedGroups,
  count: number,
): Promise<number> {
  const models = [];
  for (const id of ['demo-buoy', 'demo-study']) {
    const model = await findModel(LIBRARIAN.id, id);
    if (model) models.push(await prepareModel(model));
  }
  const placed = { entryId: ENTRY, version: '1.1.0', groups: changed(groups) };
  let seconds = 0;
  const drawn = Math.min(count, MOST_DRAWN);
  for (let k = 0; k < drawn; k++) {
    const painted = models[k % models.length];
    if (!painted) continue;
    const painter = new MaterialPainter(painted, SIZE);
    lookAhead(document, placed, (state) => {
      const began = performance.now();
      const picture = painter.paint(state);
      seconds += (performance.now() - began) / 1000;
      return picture;
    });
  }
  return (seconds / drawn) * count;
}
