import { eq, sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import { database, transaction } from '../client';
import type { Executor } from '../client';
import { meshMap, project } from '../schema/index';

/** What people brought into a project and made in it, in bytes and by whom. */
export interface Holding {
  readonly [column: string]: unknown;
  readonly projectId: string | null;
  readonly kind: 'model' | 'image' | 'material';
  readonly id: string;
  readonly name: string;
  readonly ownerName: string;
  readonly bytes: number;
  /** Revisions of a material; 1 for a file. */
  readonly count: number;
  readonly isArchived: boolean;
}

/**
 * Each model, image and material with the bytes it takes: of models with the file before the
 * present one, of materials all revisions. What the studio makes itself, as pictures, does not
 * count.
 */
const holdings = (isOf: (column: SQL) => SQL): SQL => sql`
  select m.project_id as "projectId", 'model' as kind, m.id, m.name, u.name as "ownerName",
    octet_length(b.bytes) + coalesce((select octet_length(f.bytes) from blob f
      where f.hash = m.former_blob_hash), 0) as bytes, 1 as count,
    m.archived_at is not null as "isArchived"
  from model m join blob b on b.hash = m.blob_hash left join "user" u on u.id = m.owner_id
  where ${isOf(sql`m.project_id`)}
  union all
  select i.project_id, 'image', i.hash, i.name, u.name, octet_length(b.bytes), 1, false
  from image i join blob b on b.hash = i.hash join "user" u on u.id = i.owner_id
  where ${isOf(sql`i.project_id`)}
  union all
  select m.project_id, 'material', m.id, m.name, u.name, r.bytes::int, r.count,
    m.archived_at is not null
  from material m join "user" u on u.id = m.owner_id join lateral (
    select coalesce(sum(pg_column_size(v.document)), 0) as bytes, count(*)::int as count
    from revision v where v.material_id = m.id) r on true
  where ${isOf(sql`m.project_id`)}`;

const list = (values: readonly string[]): SQL => sql`${sql.param([...values])}::text[]`;

export interface ProjectUse {
  readonly [column: string]: unknown;
  readonly projectId: string | null;
  readonly kind: Holding['kind'];
  readonly things: number;
  readonly bytes: number;
}

/** How much of each kind projects hold; with what belongs to no project where that is asked for. */
export async function sumHoldings(
  projects: readonly string[],
  withShared: boolean,
): Promise<readonly ProjectUse[]> {
  const isOf = (column: SQL): SQL =>
    sql`(${column} = any(${list(projects)}) or (${withShared} and ${column} is null))`;
  const { rows } = await database().execute<ProjectUse>(sql`select "projectId", kind,
      count(*)::int as things, sum(bytes)::float8 as bytes
    from (${holdings(isOf)}) h group by "projectId", kind`);
  return rows;
}

/** What takes most room in a project, or of what belongs to none. */
export async function listHoldings(
  projectId: string | null,
  most: number,
): Promise<readonly Holding[]> {
  const isOf = (column: SQL): SQL => sql`${column} is not distinct from ${projectId}::text`;
  const { rows } = await database().execute<Holding>(sql`select *,
      coalesce("ownerName", 'the studio') as "ownerName"
    from (${holdings(isOf)}) h order by bytes desc, id limit ${most}`);
  return rows;
}

/** Bytes of what the studio made itself: measured maps, and files but models and images. */
export async function sumMade(): Promise<{ readonly maps: number; readonly pictures: number }> {
  const { rows } = await database().execute<{ maps: number; pictures: number }>(sql`select
    (select coalesce(sum(octet_length(${meshMap.bytes})), 0) from mesh_map)::float8 as maps,
    (select coalesce(sum(octet_length(b.bytes)), 0) from blob b
      where not exists (select 1 from image i where i.hash = b.hash)
        and not exists (select 1 from model m
          where b.hash in (m.blob_hash, m.former_blob_hash)))::float8 as pictures`);
  return rows[0] ?? { maps: 0, pictures: 0 };
}

/** Projects with their limits: those a person is in, or all. */
export async function listQuotas(
  userId: string | null,
): Promise<readonly { id: string; name: string; quotaBytes: number | null }[]> {
  const isIn = sql`exists (select 1 from project_member pm
    where pm.project_id = ${project.id} and pm.user_id = ${userId})`;
  return database()
    .select({ id: project.id, name: project.name, quotaBytes: project.quotaBytes })
    .from(project)
    .where(userId === null ? undefined : isIn)
    .orderBy(project.name);
}

/** @returns false where there is no such project */
export async function setQuota(projectId: string, quotaBytes: number | null): Promise<boolean> {
  const done = await database()
    .update(project)
    .set({ quotaBytes })
    .where(eq(project.id, projectId))
    .returning({ id: project.id });
  return done.length > 0;
}

/** How full a project is. */
export interface Room {
  readonly name: string;
  readonly usedBytes: number;
  readonly quotaBytes: number | null;
}

async function readRoom(projectId: string, on: Executor): Promise<Room | null> {
  const [row] = await on
    .select({ name: project.name, quotaBytes: project.quotaBytes })
    .from(project)
    .where(eq(project.id, projectId))
    .for('no key update');
  if (!row) return null;
  if (row.quotaBytes === null) return { ...row, usedBytes: 0 };
  const isOf = (column: SQL): SQL => sql`${column} = ${projectId}`;
  const { rows } = await on.execute<{ bytes: number }>(
    sql`select coalesce(sum(bytes), 0)::float8 as bytes from (${holdings(isOf)}) h`,
  );
  return { ...row, usedBytes: rows[0]?.bytes ?? 0 };
}

/** How full a project with a limit is; null where there is no such project. */
export const findRoom = (projectId: string): Promise<Room | null> =>
  transaction((tx) => readRoom(projectId, tx));

/**
 * Brings something into a project. Two at a time wait for each other, so that they do not share the
 * same room; what only names the project, as a new material does, need not wait.
 * @param judge is told how full the project then is, and throws where that is too much: then
 *   nothing was brought
 */
export async function bringInto<T>(
  projectId: string,
  bring: (tx: Executor) => Promise<T>,
  judge: (room: Room) => void,
): Promise<T> {
  return transaction(async (tx) => {
    await tx
      .select({ id: project.id })
      .from(project)
      .where(eq(project.id, projectId))
      .for('no key update');
    const brought = await bring(tx);
    const room = await readRoom(projectId, tx);
    if (room) judge(room);
    return brought;
  });
}
