import { randomUUID } from 'node:crypto';
import { and, count, eq, inArray, isNull, ne, or, sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import type { PresetKind, PresetValue } from '../../core/presets/kinds';
import { database, transaction } from '../client';
import { entry, preset, user } from '../schema/index';
import { wordQuery } from './library-search';

const COLUMNS = {
  id: preset.id,
  kind: preset.kind,
  rack: preset.rack,
  name: preset.name,
  description: preset.description,
  tags: preset.tags,
  authorId: preset.authorId,
  authorName: user.name,
  swatchHash: preset.swatchHash,
  entryId: preset.entryId,
  entryName: entry.name,
  modelId: sql<string | null>`${preset.value} ->> 'modelId'`,
  updatedAt: preset.updatedAt,
};

export interface PresetSearch {
  readonly racks: readonly string[];
  /** Racks that entries of variants must stand on. */
  readonly entryRacks: readonly string[];
  readonly kind: PresetKind | null;
  readonly entryId: string | null;
  /** Words as they were typed. */
  readonly query: string;
  readonly first: number;
  readonly count: number;
}

/** Presets by name, as far as asked for and one more; of starters no value. */
export async function findPresets(search: PresetSearch) {
  const words = wordQuery(search.query);
  return database()
    .select({
      ...COLUMNS,
      value: sql<PresetValue | null>`case when ${preset.kind} = 'starter' then null
        else ${preset.value} end`,
    })
    .from(preset)
    .innerJoin(user, eq(user.id, preset.authorId))
    .leftJoin(entry, eq(entry.id, preset.entryId))
    .where(
      and(
        inArray(preset.rack, [...search.racks]),
        or(isNull(preset.entryId), inArray(entry.rack, [...search.entryRacks])),
        search.kind ? eq(preset.kind, search.kind) : undefined,
        search.entryId ? eq(preset.entryId, search.entryId) : undefined,
        words === null ? undefined : sql`${preset.words} @@ to_tsquery('english', ${words})`,
      ),
    )
    .orderBy(preset.name, preset.id)
    .offset(search.first)
    .limit(search.count + 1);
}

export async function findPreset(id: string) {
  const [row] = await database()
    .select({ ...COLUMNS, value: preset.value })
    .from(preset)
    .innerJoin(user, eq(user.id, preset.authorId))
    .leftJoin(entry, eq(entry.id, preset.entryId))
    .where(eq(preset.id, id));
  return row;
}

/** How many presets of a kind, but those of a name, stand on a rack. */
export async function countPresets(rack: string, kind: PresetKind, name: string): Promise<number> {
  const [row] = await database()
    .select({ kept: count() })
    .from(preset)
    .where(and(eq(preset.rack, rack), eq(preset.kind, kind), ne(preset.name, name)));
  return row?.kept ?? 0;
}

export type NewPreset = Pick<
  typeof preset.$inferInsert,
  'kind' | 'rack' | 'name' | 'description' | 'tags' | 'value' | 'authorId'
> & { readonly entryId?: string | null; readonly swatchHash?: string | null };

const wordsOf = (name: SQL, tags: SQL, description: SQL): SQL =>
  sql`setweight(to_tsvector('english', ${name}), 'A') ||
    setweight(to_tsvector('english', ${tags}), 'B') ||
    setweight(to_tsvector('english', ${description}), 'C')`;

/**
 * Puts a preset on a rack, in place of the author's own of the same kind and name.
 * @returns its id; null where somebody else has that name there
 */
export async function keepPreset(given: NewPreset): Promise<string | null> {
  const { kind, rack, name, description = '', tags = [], value, authorId } = given;
  const words = wordsOf(sql`${name}`, sql`${tags.join(' ')}`, sql`${description}`);
  const { entryId = null, swatchHash = null } = given;
  const set = { description, tags, value, entryId, swatchHash, words, updatedAt: new Date() };
  const [row] = await database()
    .insert(preset)
    .values({ id: randomUUID(), kind, rack, name, authorId, ...set })
    .onConflictDoUpdate({
      target: [preset.rack, preset.kind, preset.name],
      set,
      setWhere: eq(preset.authorId, authorId),
    })
    .returning({ id: preset.id });
  return row?.id ?? null;
}

export type PresetChange = Partial<Pick<NewPreset, 'rack' | 'name' | 'description' | 'tags'>>;

/** Changes what is said of a preset, or where it stands. */
export async function changePreset(id: string, set: PresetChange): Promise<void> {
  const words = wordsOf(sql`name`, sql`tags::text`, sql`description`);
  await transaction(async (tx) => {
    await tx
      .update(preset)
      .set({ ...set, updatedAt: new Date() })
      .where(eq(preset.id, id));
    await tx.update(preset).set({ words }).where(eq(preset.id, id));
  });
}

export async function setPresetSwatch(id: string, swatchHash: string): Promise<void> {
  await database().update(preset).set({ swatchHash }).where(eq(preset.id, id));
}

export async function removePreset(id: string): Promise<void> {
  await database().delete(preset).where(eq(preset.id, id));
}
