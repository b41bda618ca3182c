import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Client } from 'pg';
import { emptyDocument } from '@/core/graph/document';
import { closeDatabase } from '@/db/client';
import { storeBlob } from '@/db/queries/blobs';
import { insertModel } from '@/db/queries/models';
import { stopQueue } from '@/server/jobs/queue';
import { createMaterial, openMaterial } from '@/server/materials';
import { main } from '../../cli/main';
import { makePerson, startStudio } from './studio';

let studio: Awaited<ReturnType<typeof startStudio>>;
const folder = mkdtempSync(path.join(tmpdir(), 'bright-loom-backup-'));
const file = path.join(folder, 'studio.backup');

beforeAll(async () => {
  studio = await startStudio();
}, 120000);
afterAll(async () => {
  await studio.stop();
  rmSync(folder, { recursive: true, force: true });
});

/** Runs the command line. */
async function run(...args: readonly string[]): Promise<{ code: number; said: string }> {
  const said: string[] = [];
  const note = (text: string): void => void said.push(text);
  const code = await main(args, note, note);
  return { code, said: said.join('\n') };
}
async function ask(statement: string): Promise<readonly Record<string, unknown>[]> {
  const client = new Client({ connectionString: studio.url });
  await client.connect();
  const { rows } = await client.query<Record<string, unknown>>(statement);
  await client.end();
  return rows;
}
/** Rows of every table of the studio. */
async function counts(): Promise<Record<string, unknown>> {
  const tables = await ask(
    'select table_name as name from information_schema.tables where table_schema = ' +
      "'public' order by 1",
  );
  const found = await Promise.all(
    tables.map(
      async ({ name }) =>
        [
          String(name),
          (await ask(`select count(*)::int as n from "${String(name)}"`))[0]?.['n'],
        ] as const,
    ),
  );
  return Object.fromEntries(found);
}
const release = async (): Promise<void> => {
  await stopQueue();
  await closeDatabase();
};

it('a back-up holds everything, and is restored whole or not at all', async () => {
  const author = await makePerson('author', 'author', ['ferry']);
  const blobHash = await storeBlob(Buffer.from('a model'), 'model/obj');
  await insertModel({ id: 'tile', name: 'Tile', projectId: 'ferry', blobHash, ownerId: author.id });
  const { id } = await createMaterial(author, {
    projectId: 'ferry',
    modelId: 'tile',
    document: emptyDocument('Tarred rope'),
  });
  const before = await counts();
  expect(await run('backup', file)).toMatchObject({
    code: 0,
    said: expect.stringContaining('Restore it with') as string,
  });
  expect(existsSync(`${file}.unfinished`)).toBe(false);
  expect(await run('backup', file)).toMatchObject({
    code: 1,
    said: expect.stringContaining('is there already') as string,
  });

  expect(await run('restore', file)).toMatchObject({
    code: 1,
    said: expect.stringContaining('Stop it first') as string,
  });
  await release();
  expect(await run('restore', file)).toMatchObject({
    code: 1,
    said: expect.stringContaining('holds a studio already') as string,
  });
  await ask('delete from revision');
  await ask("update material set name = 'Spoilt'");
  expect(await run('restore', path.join(folder, 'none'))).toMatchObject({ code: 1 });
  expect(await run('restore', file, '--replace')).toMatchObject({
    code: 0,
    said: expect.stringContaining('Restored') as string,
  });
  expect(await counts()).toEqual(before);
  expect(await openMaterial(author, id)).toMatchObject({ name: 'Tarred rope', revision: 1 });
}, 120000);

it('a file that is no back-up changes nothing', async () => {
  await release();
  const before = await counts();
  expect(
    await run('restore', path.resolve(import.meta.dirname, '../../package.json'), '--replace'),
  ).toMatchObject({ code: 1 });
  expect(await counts()).toEqual(before);
});
