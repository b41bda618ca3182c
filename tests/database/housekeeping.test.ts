/** Housekeeping in a real database: what nobody can reach goes, everything else stays. */
import { sql } from 'drizzle-orm';
import * as fc from 'fast-check';
import { groupSelection } from '@/core/edit/group';
import { seededRandom } from '@/core/base/random';
import type { NetworkDocument } from '@/core/graph/document';
import { database } from '@/db/client';
import { findBlob, storeBlob } from '@/db/queries/blobs';
import { wasAskedLately } from '@/db/queries/jobs';
import { setSwatch } from '@/db/queries/materials';
import { insertMeshMap, replaceModelFile } from '@/db/queries/models';
import type { SignedIn } from '@/server/authentication';
import { requestTidying, tidy } from '@/server/housekeeping';
import { HOUSEKEEPING } from '@/server/jobs/lanes';
import { duplicateMaterial } from '@/server/material-places';
import { openMaterial, saveMaterial } from '@/server/materials';
import { modelKey, readableModel, uploadModel } from '@/server/models';
import { keepState } from '@/server/states';
import { make, painted, startFerryStudio } from './ferry-studio';
import { workOff } from './studio';

let studio: Awaited<ReturnType<typeof startFerryStudio>>['studio'];
let author: SignedIn;
beforeAll(async () => {
  ({ studio, author } = await startFerryStudio());
}, 180000);
afterAll(() => studio.stop());

const LONG_AGO = new Date(Date.now() - 90 * 86_400_000);
const age = async (table: 'blob' | 'mesh_map' | 'job'): Promise<void> => {
  await database().execute(sql`update ${sql.raw(table)} set created_at = ${LONG_AGO}`);
};
const numbersOf = async (id: string): Promise<readonly number[]> => {
  const { rows } = await database().execute<{ number: number }>(
    sql`select number from revision where material_id = ${id} order by number`,
  );
  return rows.map(({ number }) => number);
};
/** A material with so many revisions, each a minute after the other, all on one day long ago. */
async function longDay(revisions: number): Promise<string> {
  const { id } = await make(author);
  for (let base = 1; base < revisions; base++)
    await saveMaterial(author, id, {
      base,
      modelId: 'demo-tile',
      document: { ...painted(), name: `Step ${String(base + 1)}` },
    });
  await database().execute(sql`update revision
    set created_at = timestamptz '2026-03-02 08:00:00Z' + number * interval '1 minute'
    where material_id = ${id}`);
  return id;
}
const CAMERA = { eye: [0, 0, 3], target: [0, 0, 0], fieldRad: 0.6, aspect: 1.6 } as const;
const keep = (id: string, revision: number) =>
  keepState(author, id, {
    revision,
    modelId: 'demo-tile',
    camera: CAMERA,
    name: 'Before the tide',
    note: '',
    about: null,
    amount: null,
  });

describe('thinning out histories', () => {
  it('keeps what a state names, what was packaged from, the first and the newest', async () => {
    const id = await longDay(12);
    await keep(id, 4);
    const packaged = groupSelection(painted(), {
      board: null,
      ids: ['n1', 'n2'],
      name: 'Grain',
      path: [],
      source: { materialId: id, revision: 7 },
    }).document;
    await make(author, { ...packaged, name: 'Another that uses the group' });
    await tidy();
    expect(await numbersOf(id)).toEqual([1, 4, 7, 12]);
    for (const number of [1, 4, 7, 12])
      expect((await openMaterial(author, id, number)).document.name).toBe(
        number === 1 ? 'Painted' : `Step ${String(number)}`,
      );
    await tidy();
    expect(await numbersOf(id)).toEqual([1, 4, 7, 12]);
  });
  it('whatever happens to a history, every kept state opens as it was', async () => {
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 1, max: 2 ** 31 - 1 }), async (seed) => {
        const random = seededRandom(seed);
        const id = await longDay(6 + Math.floor(random() * 6));
        const numbers = await numbersOf(id);
        const named = numbers.filter(() => random() < 0.3);
        for (const number of named) await keep(id, number);
        const before = new Map<number, NetworkDocument>();
        for (const number of named)
          before.set(number, (await openMaterial(author, id, number)).document);
        const copy = await duplicateMaterial(author, id, { projectId: 'ferry' });
        await tidy();
        for (const [number, document] of before)
          expect((await openMaterial(author, id, number)).document).toEqual(document);
        const newest = numbers.at(-1) ?? 0;
        expect((await openMaterial(author, id)).revision).toBe(newest);
        expect((await openMaterial(author, copy.id)).revision).toBe(1);
        // What goes on after it goes on as before.
        const saved = await saveMaterial(author, id, {
          base: newest,
          modelId: 'demo-tile',
          document: { ...painted(), name: 'Afterwards' },
        });
        expect(saved.revision).toBe(newest + 1);
      }),
      { numRuns: 6 },
    );
  }, 60_000);
});

describe('what nobody can reach', () => {
  it('goes: pictures that were replaced; what is shown or just stored stays', async () => {
    const { id } = await make(author);
    const [old, shown] = [
      await storeBlob(Buffer.from('an old picture'), 'image/png'),
      await storeBlob(Buffer.from('the picture'), 'image/png'),
    ];
    await setSwatch(id, old);
    await setSwatch(id, shown);
    const image = await storeBlob(Buffer.from('an image'), 'image/png');
    await database().execute(sql`insert into image (hash, name, owner_id)
      values (${image}, 'Grain', ${author.id})`);
    await age('blob');
    const fresh = await storeBlob(Buffer.from('just stored'), 'image/png');
    const again = await storeBlob(Buffer.from('stored again'), 'image/png');
    await age('blob');
    await storeBlob(Buffer.from('stored again'), 'image/png');
    await storeBlob(Buffer.from('just stored'), 'image/png');
    const done = await tidy();
    expect(done.files).toBeGreaterThanOrEqual(1);
    expect(await findBlob(old)).toBeUndefined();
    for (const hash of [shown, image, fresh, again]) expect(await findBlob(hash)).toBeDefined();
    const { blobHash } = await readableModel(author, 'demo-tile');
    expect(await findBlob(blobHash)).toBeDefined();
  });
  it('goes: maps of files that no model has, but not of the one before', async () => {
    const { id } = await uploadModel(author, { project: 'ferry', name: 'Rope' }, () =>
      Promise.resolve(new Uint8Array(Buffer.from('v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n'))),
    );
    const first = await modelKey(await readableModel(author, id));
    await replaceModelFile(id, await storeBlob(Buffer.from('v 9 9 9\n'), 'model/obj'));
    const second = await modelKey(await readableModel(author, id));
    for (const key of [first, second, 'of nothing'])
      await insertMeshMap({ modelKey: key, mapKey: 'curvature', size: 8 }, new Uint8Array(8));
    await age('mesh_map');
    expect((await tidy()).maps).toBe(1);
    const { rows } = await database().execute<{ key: string }>(
      sql`select model_key as key from mesh_map`,
    );
    expect(new Set(rows.map(({ key }) => key))).toEqual(new Set([first, second]));
  });
  it('is looked for by a job, of which one wish that waits serves all', async () => {
    await requestTidying(null);
    await requestTidying(author.id);
    const { rows } = await database().execute<{ id: string }>(
      sql`select id from job where kind = 'housekeeping'`,
    );
    expect(rows).toHaveLength(1);
    expect(await workOff(rows[0]?.id ?? '')).toMatchObject({ state: 'done' });
    expect(await wasAskedLately(HOUSEKEEPING.kind, 24)).toBe(true);
    await age('job');
    expect(await wasAskedLately(HOUSEKEEPING.kind, 24)).toBe(false);
  });
});
