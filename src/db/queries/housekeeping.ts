import { and, eq, inArray, lt, notInArray, sql } from 'drizzle-orm';
import { database, transaction } from '../client';
import { material, meshMap, model, outlook, revision } from '../schema/index';

/** Rows that are removed in one statement: nobody waits long for one of them. */
const CHUNK = 200;

/** Materials with so many revisions from before a moment that some may go, by id. */
export async function listThinnable(
  before: Date,
  after: string,
  count: number,
): Promise<readonly string[]> {
  const found = await database().execute<{ id: string }>(sql`select material_id as id
    from revision where created_at < ${before} and material_id > ${after}
    group by material_id having count(*) > 2 order by material_id limit ${count}`);
  return found.rows.map(({ id }) => id);
}

/** That a revision is named by a state, published, packaged from, taken, or open with somebody. */
const IS_HELD = sql<boolean>`(
  revision.is_origin
  or exists (select 1 from kept_state s
    where s.material_id = revision.material_id and s.revision = revision.number)
  or exists (select 1 from release r
    where r.source_material_id = revision.material_id and r.source_revision = revision.number)
  or exists (select 1 from taking t where t.material_id = revision.material_id
    and revision.number in (t.revision, t.revision - 1))
  or exists (select 1 from presence p
    where p.material_id = revision.material_id and p.revision = revision.number))`;

/**
 * Thins out one history; nobody saves meanwhile.
 * @param choose the numbers that go
 * @returns how many went
 */
export async function thinHistory(
  materialId: string,
  choose: (
    history: readonly { number: number; savedAt: Date; isHeld: boolean }[],
  ) => readonly number[],
): Promise<number> {
  return transaction(async (tx) => {
    const [head] = await tx
      .select({ head: material.head })
      .from(material)
      .where(eq(material.id, materialId))
      .for('update');
    if (!head) return 0;
    const history = await tx
      .select({ number: revision.number, savedAt: revision.createdAt, isHeld: IS_HELD })
      .from(revision)
      .where(eq(revision.materialId, materialId));
    const going = choose(history).filter((number) => number !== head.head);
    let gone = 0;
    for (let k = 0; k < going.length; k += CHUNK) {
      const done = await tx
        .delete(revision)
        .where(
          and(
            eq(revision.materialId, materialId),
            inArray(revision.number, going.slice(k, k + CHUNK)),
            sql`not ${IS_HELD}`,
          ),
        );
      gone += done.rowCount ?? 0;
    }
    return gone;
  });
}

interface Reference {
  readonly [column: string]: unknown;
  readonly table: string;
  readonly column: string;
}
/** Every column that names a file, as the database itself knows them: none can be forgotten. */
async function listFileColumns(): Promise<readonly Reference[]> {
  const found = await database().execute<Reference>(sql`
    select c.conrelid::regclass::text as "table", a.attname as "column"
    from pg_constraint c join pg_attribute a on a.attrelid = c.conrelid and a.attnum = c.conkey[1]
    where c.contype = 'f' and c.confrelid = 'blob'::regclass`);
  return found.rows;
}

/**
 * Removes files that nothing names and that were stored last before a moment. Storing one again
 * renews that moment, so that a file somebody is about to name stays.
 * @returns how many, and their bytes
 */
export async function removeUnreachedFiles(
  before: Date,
): Promise<{ readonly files: number; readonly bytes: number }> {
  const isUnnamed = sql.join(
    (await listFileColumns()).map(
      ({ table, column }) =>
        sql`not exists (select 1 from ${sql.raw(table)} n
          where n.${sql.identifier(column)} = b.hash)`,
    ),
    sql` and `,
  );
  let files = 0,
    bytes = 0;
  for (;;) {
    const { rows } = await database().execute<{ bytes: number }>(sql`
      delete from blob b where b.hash in (select b.hash from blob b
          where b.created_at < ${before} and ${isUnnamed} limit ${CHUNK} for update skip locked)
        and b.created_at < ${before} and ${isUnnamed}
      returning octet_length(b.bytes) as bytes`);
    files += rows.length;
    bytes += rows.reduce((sum, row) => sum + row.bytes, 0);
    if (rows.length === 0) return { files, bytes };
  }
}

/** What names the measured maps there may be: every model's file, and the one before it. */
export async function listModelFiles() {
  return database()
    .select({
      blobHash: model.blobHash,
      formerBlobHash: model.formerBlobHash,
      preparation: model.preparation,
    })
    .from(model);
}

/** Removes measured maps of models that are in nobody's reach, measured before a moment. */
export async function removeUnreachedMaps(
  modelKeys: readonly string[],
  before: Date,
): Promise<{ readonly maps: number; readonly bytes: number }> {
  const gone = await database()
    .delete(meshMap)
    .where(
      and(
        lt(meshMap.createdAt, before),
        modelKeys.length > 0 ? notInArray(meshMap.modelKey, [...modelKeys]) : undefined,
      ),
    )
    .returning({ bytes: sql<number>`octet_length(${meshMap.bytes})` });
  return { maps: gone.length, bytes: gone.reduce((sum, { bytes }) => sum + bytes, 0) };
}

/** Removes what was looked ahead at before a moment, but where a proposal still waits. */
export async function removeOldOutlooks(before: Date): Promise<number> {
  const done = await database()
    .delete(outlook)
    .where(
      and(
        lt(outlook.createdAt, before),
        sql`not exists (select 1 from release r
          where r.entry_id = ${outlook.entryId} and r.state = 'proposed')`,
      ),
    );
  return done.rowCount ?? 0;
}
