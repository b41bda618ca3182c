/** What the start page and a long history take in the application that runs, over HTTP. */
import { hashPassword } from 'better-auth/crypto';
import { sql } from 'drizzle-orm';
import { signIn } from '@/contract/session';
import { hashContent } from '@/core/graph/canonical';
import { closeDatabase, database } from '@/db/client';
import { insertPerson, insertProject } from '@/db/queries/seeding';
import { connectToStudio } from './own-studio';
import { largeNetwork } from '../core/network';
import { sized } from '../size';

const PROJECTS = 20;
const PERSON = 'bench-person';
const PASSWORD = 'only for measuring, long enough';
/** Answers that are timed of each kind; they take turns. */
const TIMES = sized(120, 4);
const MANY = sized({ materials: 2000, revisions: 5000 }, { materials: 40, revisions: 60 });

export interface PageTimes {
  readonly name: string;
  /** Milliseconds, 95th percentile: with few, and with many. */
  readonly few: number;
  readonly many: number;
}

async function addPeople(): Promise<void> {
  for (let k = 0; k < PROJECTS; k++)
    await insertProject({ id: `bench-project-${String(k)}`, name: `Bench project ${String(k)}` });
  await insertPerson({
    id: PERSON,
    name: 'Bench person',
    email: 'bench@studio.example',
    role: 'artist',
    projects: Array.from({ length: PROJECTS }, (_, k) => `bench-project-${String(k)}`),
    passwordHash: await hashPassword(PASSWORD),
  });
}

/** So many materials, each with a revision, over all projects. */
async function addMaterials(from: number, to: number): Promise<void> {
  const document = largeNetwork(24);
  const hash = await hashContent(document);
  await database().execute(sql`insert into material (id, project_id, owner_id, name, model_id, head,
      updated_at)
    select 'bench-material-' || k, 'bench-project-' || k % ${sql.raw(String(PROJECTS))}, ${PERSON},
      'Paint ' || k, 'demo-buoy', 1, now() - k * interval '1 minute'
    from generate_series(${from}::int, ${to - 1}::int) k`);
  await database().execute(sql`insert into revision (material_id, number, document, content_hash,
      author_id)
    select 'bench-material-' || k, 1, ${JSON.stringify(document)}::jsonb, ${hash}, ${PERSON}
    from generate_series(${from}::int, ${to - 1}::int) k`);
  await database().execute(sql`analyze material`);
}

/** Gives a material so many revisions in all. */
async function addHistory(id: string, revisions: number): Promise<void> {
  await database().execute(sql`insert into revision (material_id, number, document, content_hash,
      author_id) select material_id, k, document, content_hash, author_id
    from revision, generate_series(2, ${revisions}::int) k where material_id = ${id}
      and number = 1`);
  await database().execute(sql`update material set head = ${revisions} where id = ${id}`);
  await database().execute(sql`analyze revision`);
}

async function removeAll(): Promise<void> {
  await database().execute(sql`delete from project where id like 'bench-project-%'`);
  await database().execute(sql`delete from "user" where id = ${PERSON}`);
}

async function cookieOf(base: string): Promise<string> {
  const answer = await fetch(`${base}${signIn.path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: base },
    body: JSON.stringify({ email: 'bench@studio.example', password: PASSWORD }),
  });
  if (!answer.ok) throw new Error(`sign-in: ${String(answer.status)}`);
  return answer.headers.get('set-cookie')?.split(';')[0] ?? '';
}

/** Times of several addresses, asked in turn after a few that do not count, milliseconds. */
async function timeTurns(base: string, cookie: string, paths: readonly string[]) {
  const times = paths.map((): number[] => []);
  for (let k = -10; k < TIMES; k++)
    for (const [at, path] of paths.entries()) {
      const began = performance.now();
      const answer = await fetch(`${base}${path}`, { headers: { cookie } });
      await answer.arrayBuffer();
      if (!answer.ok) throw new Error(`${path}: ${String(answer.status)}`);
      if (k >= 0) times[at]?.push(performance.now() - began);
    }
  return times;
}

const p95 = (times: readonly number[] = []): number =>
  [...times].sort((a, b) => a - b)[Math.floor(times.length * 0.95)] ?? NaN;

/** Fills the studio that runs, measures, and empties it again. */
export async function measureStudioPages(): Promise<readonly PageTimes[]> {
  const studio = await connectToStudio();
  const { base } = studio;
  const lists = ['/materials', '/api/materials', '/api/materials/places'];
  try {
    await removeAll();
    await addPeople();
    await addMaterials(0, PROJECTS);
    const cookie = await cookieOf(base);
    const few = await timeTurns(base, cookie, lists);
    await addMaterials(PROJECTS, MANY.materials);
    const many = await timeTurns(base, cookie, lists);
    await addHistory('bench-material-0', 50);
    await addHistory('bench-material-1', MANY.revisions);
    const [short, long] = await timeTurns(
      base,
      cookie,
      [0, 1].map((k) => `/api/materials/bench-material-${String(k)}/revisions`),
    );
    return [
      ...lists.map((name, k) => ({
        name: `${name}, 20 and ${MANY.materials.toLocaleString('en')} materials in 20 projects`,
        few: p95(few[k]),
        many: p95(many[k]),
      })),
      {
        name: `a history opened, 50 and ${MANY.revisions.toLocaleString('en')} revisions`,
        few: p95(short),
        many: p95(long),
      },
    ];
  } finally {
    await removeAll();
    await closeDatabase();
  }
}
