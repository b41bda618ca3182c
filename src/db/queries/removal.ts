import { and, eq, isNotNull, notExists, sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import { database } from '../client';
import { blob, image, material, model } from '../schema/index';
import type { Holding } from './storage';

/** What keeps a thing from being removed. */
export interface Use {
  readonly [column: string]: unknown;
  readonly words: string;
  /** Whose it is: a project's id, a person's rack, or null where everybody may know of it. */
  readonly holder: string | null;
}
/** What keeps a material before anything else does. */
export const NOT_ARCHIVED = 'it is not archived';
/** Uses that are looked for: more are not read by anybody. */
const MOST_USES = 50;
/** Materials and entries of which all is read in one statement, so that none takes long. */
const CHUNKS = { materials: 20, entries: 200 } as const;
/** Whose a thing on a rack is. */
const holderOf = (rack: SQL): SQL =>
  sql`nullif(regexp_replace(${rack}, '^project:', ''), 'studio')`;

const readUses = async (query: SQL): Promise<readonly Use[]> =>
  (await database().execute<Use>(sql`${query} limit ${MOST_USES}`)).rows;

/** Materials whose newest revision has something of a kind beside the model. */
const besides = (part: Readonly<Record<string, string>>): SQL => sql`
  select format('“%s” has it beside its model', m.name) as words, m.project_id as holder
  from material m join revision r on r.material_id = m.id and r.number = m.head
  where r.document->'companions'->'models' @> ${JSON.stringify([part])}::jsonb`;

const modelUses = (id: string): Promise<readonly Use[]> =>
  readUses(sql`
    select format('“%s” stands on it', m.name) as words, m.project_id as holder
    from material m where m.model_id = ${id}
    union select format('“%s” has a state on it', m.name), m.project_id
    from kept_state s join material m on m.id = s.material_id where s.model_id = ${id}
    union select 'it ships with the application', null
    from model where id = ${id} and owner_id is null
    union ${besides({ model: id })}`);

const materialUses = (id: string): Promise<readonly Use[]> =>
  readUses(sql`
    select ${NOT_ARCHIVED}::text as words, project_id as holder
    from material where id = ${id} and archived_at is null
    union select format('%s %s was published from it', e.name, r.version),
      ${holderOf(sql`e.rack`)}
    from release r join entry e on e.id = r.entry_id where r.source_material_id = ${id}
    union select 'a group was packaged from it, which is proved by it', null
    from revision where material_id = ${id} and is_origin
    union select 'somebody has it open', null from presence
    where material_id = ${id} and seen_at > now() - interval '2 minutes'
    union ${besides({ material: id })}`);

/** Where an image stands that is no document: presets, and fresh in somebody's hands. */
const imageUses = (hash: string): Promise<readonly Use[]> =>
  readUses(sql`
    select format('“%s” on a rack uses it', p.name) as words, ${holderOf(sql`p.rack`)} as holder
    from preset p where position(${hash} in p.value::text) > 0
    union select 'it was brought in within the last hour, and may be about to be used', null
    from blob where hash = ${hash} and created_at > now() - interval '1 hour'`);

interface Read extends Use {
  readonly id: string;
  readonly isUse: boolean;
}
/** Reads through what may name a thing, some at a time. @param query what follows an id */
async function readThrough(query: (after: string) => SQL): Promise<readonly Use[]> {
  const uses: Use[] = [];
  for (let after = ''; uses.length < MOST_USES;) {
    const { rows } = await database().execute<Read>(query(after));
    uses.push(...rows.filter(({ isUse }) => isUse));
    const last = rows.at(-1);
    if (!last) break;
    after = last.id;
  }
  return uses;
}

/** The materials that have an image in any revision. */
const materialsWith = (hash: string): Promise<readonly Use[]> =>
  readThrough(
    (after) => sql`
      with part as (select id, name, project_id from material
        where id > ${after} order by id limit ${CHUNKS.materials})
      select id, format('“%s” uses it, or did', name) as words, project_id as holder,
        exists (select 1 from revision r where r.material_id = part.id
          and position(${hash} in r.document::text) > 0) as "isUse"
      from part order by id`,
  );

/** The entries of the library that have an image in any release. */
const entriesWith = (hash: string): Promise<readonly Use[]> =>
  readThrough(
    (after) => sql`
      with part as (select id, name, rack from entry
        where id > ${after} order by id limit ${CHUNKS.entries})
      select id, format('%s of the library uses it', name) as words,
        ${holderOf(sql`rack`)} as holder,
        exists (select 1 from release r where r.entry_id = part.id
          and position(${hash} in r.groups::text) > 0) as "isUse"
      from part order by id`,
  );

/** All that keeps a thing from being removed; nothing where it may go. */
export async function findUses({
  kind,
  id,
}: Pick<Holding, 'kind' | 'id'>): Promise<readonly Use[]> {
  if (kind === 'model') return modelUses(id);
  if (kind === 'material') return materialUses(id);
  for (const find of [imageUses, entriesWith, materialsWith]) {
    const uses = await find(id);
    if (uses.length > 0) return uses;
  }
  return [];
}

const isIn = (column: typeof model.projectId | typeof image.projectId, id: string | null): SQL =>
  sql`${column} is not distinct from ${id}::text`;

/**
 * Removes a thing of a project for ever; its bytes go with the next housekeeping, where nothing
 * else names them. Uses were looked for before; what the database knows of is held once more.
 * @returns its name; null where the project holds no such thing
 */
export async function removeThing(
  projectId: string | null,
  { kind, id }: Pick<Holding, 'kind' | 'id'>,
): Promise<string | null> {
  if (kind === 'model') {
    const where = and(eq(model.id, id), isIn(model.projectId, projectId), isNotNull(model.ownerId));
    const [gone] = await database().delete(model).where(where).returning({ name: model.name });
    return gone?.name ?? null;
  }
  if (kind === 'material') {
    const where = and(
      eq(material.id, id),
      eq(material.projectId, projectId ?? ''),
      isNotNull(material.archivedAt),
    );
    const [gone] = await database()
      .delete(material)
      .where(where)
      .returning({ name: material.name });
    return gone?.name ?? null;
  }
  const isFresh = database()
    .select({ one: sql`1` })
    .from(blob)
    .where(and(eq(blob.hash, id), sql`${blob.createdAt} > now() - interval '1 hour'`));
  const where = and(eq(image.hash, id), isIn(image.projectId, projectId), notExists(isFresh));
  const [gone] = await database().delete(image).where(where).returning({ name: image.name });
  return gone?.name ?? null;
}

/** Whether a project holds a thing. */
export async function holdsThing(
  projectId: string | null,
  { kind, id }: Pick<Holding, 'kind' | 'id'>,
): Promise<boolean> {
  const key = kind === 'image' ? sql`hash` : sql`id`;
  const { rows } = await database().execute(sql`select 1 from ${sql.identifier(kind)}
    where ${key} = ${id} and project_id is not distinct from ${projectId}::text`);
  return rows.length > 0;
}
