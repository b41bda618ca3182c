import { sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import { database } from '../client';

/** How entries are ordered. */
export const SORTS = ['match', 'use', 'date', 'name'] as const;
export type Sort = (typeof SORTS)[number];

export interface EntrySearch {
  readonly racks: readonly string[];
  /** Words as they were typed. */
  readonly query: string;
  /** An entry has every one of these. */
  readonly facets: readonly string[];
  /** Only what a material of these projects uses; null for all. */
  readonly usedBy: readonly string[] | null;
  readonly sort: Sort;
  readonly first: number;
  readonly count: number;
}
export interface FoundEntry {
  readonly [column: string]: unknown;
  readonly id: string;
  readonly rack: string;
  readonly name: string;
  readonly description: string;
  readonly tags: readonly string[];
  readonly authorName: string;
  readonly version: string;
  readonly swatchHash: string;
  readonly releasedAt: Date | string;
  readonly uses: number;
  readonly deprecatedReason: string | null;
}

/** Common words are looked for among so many of the most used entries. */
const WALKED = 300;
/** Of what matches, the best are looked for among so many, the most used and those named so. */
const MOST_RANKED = 300,
  MOST_NAMED = 100;
/** Facets are counted among so many. */
const MOST_COUNTED = 1000;

const textList = (values: readonly string[]): SQL =>
  sql`array[${
    values.length > 0
      ? sql.join(
          [...values].map((value) => sql`${value}`),
          sql`, `,
        )
      : sql``
  }]::text[]`;

/** Typed words as a query for words that begin so, all of them; null where there are none. */
export function wordQuery(query: string): string | null {
  const words = query.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
  return words.length > 0
    ? words
        .slice(0, 12)
        .map((word) => `${word}:*`)
        .join(' & ')
    : null;
}

/** That an entry is on a rack, has a release that is out, and has all the facets. */
function isOffered({ racks, facets, usedBy }: EntrySearch): SQL {
  const parts = [
    sql`e.rack = any(${textList(racks)})`,
    sql`e.version is not null`,
    sql`e.withdrawn_reason is null`,
    ...(facets.length > 0 ? [sql`e.facets @> ${textList(facets)}`] : []),
    ...(usedBy
      ? [
          sql`exists (select 1 from entry_use u join material m on m.id = u.material_id
            where u.entry_id = e.id and m.project_id = any(${textList(usedBy)}))`,
        ]
      : []),
  ];
  return sql.join(parts, sql` and `);
}

const COLUMNS = sql`e.id, e.rack, e.name, e.description, e.tags, u.name as "authorName", e.version,
  coalesce(e.cover_hash, e.swatch_hash) as "swatchHash", e.released_at as "releasedAt", e.uses,
  e.deprecated_reason as "deprecatedReason"`;

const ORDERS: Readonly<Record<Sort, SQL>> = {
  match: sql`e.uses desc nulls last, e.id`,
  use: sql`e.uses desc nulls last, e.id`,
  date: sql`e.released_at desc nulls last, e.id`,
  name: sql`e.name, e.id`,
};

async function rows<T extends Record<string, unknown>>(query: SQL): Promise<readonly T[]> {
  return (await database().execute(query)).rows as unknown as readonly T[];
}

/** Entries that match, in order: those asked for and one more, where there is one. */
export async function findEntries(search: EntrySearch): Promise<readonly FoundEntry[]> {
  const words = wordQuery(search.query);
  const page = sql`limit ${search.count + 1} offset ${search.first}`;
  const offered = isOffered(search);
  if (words === null)
    return rows<FoundEntry>(sql`select ${COLUMNS} from (select * from entry e where ${offered}
      order by ${ORDERS[search.sort]} ${page}) e join "user" u on u.id = e.author_id
      order by ${ORDERS[search.sort]}`);
  const query = sql`to_tsquery('english', ${words})`;
  const matching = (columns: SQL): SQL =>
    sql`select ${columns} from entry e where e.words @@ ${query} and ${offered}`;
  if (search.sort !== 'match')
    return rows<FoundEntry>(sql`select ${COLUMNS} from (${matching(sql`*`)}
      order by ${ORDERS[search.sort]} ${page}) e
      join "user" u on u.id = e.author_id order by ${ORDERS[search.sort]}`);
  return findRanked(search, query);
}

/**
 * Entries with the words, what matches best first. Common words are found among the most used
 * entries, so that a large library costs no more than a small one; what is rarer is looked up.
 */
async function findRanked(search: EntrySearch, query: SQL): Promise<readonly FoundEntry[]> {
  const { first, count } = search;
  const matches = sql`e.words @@ ${query} and ${isOffered(search)}`;
  const scored = sql`select e.id, e.uses, ts_rank(e.words, ${query}) as rank`;
  const best = sql`rank desc, uses desc, id`;
  // Rows of the table are read again for those of the page alone.
  const ranked = (candidates: SQL): Promise<readonly FoundEntry[]> =>
    rows<FoundEntry>(sql`select ${COLUMNS} from (select distinct id, uses, rank
        from (${candidates}) c order by ${best} limit ${count + 1} offset ${first}) f
      join entry e on e.id = f.id join "user" u on u.id = e.author_id
      order by f.rank desc, f.uses desc, f.id`);
  const named = sql`(${scored} from entry e where ts_filter(e.words, '{a}') @@ ${query}
    and ${isOffered(search)} limit ${MOST_NAMED})`;
  const common = await ranked(sql`(${scored} from (select * from entry order by
      uses desc nulls last, id limit ${WALKED}) e where ${matches}) union all ${named}`);
  if (common.length > count) return common;
  const most = Math.max(MOST_RANKED, first + count + 1);
  return ranked(sql`(with matching as materialized (select id, uses from entry e where ${matches})
      ${scored} from (select id from matching order by uses desc, id limit ${most}) m
      join entry e on e.id = m.id) union all ${named}`);
}

/** Whether any entry has the words, whatever its facets and its rack: then they are spelt right. */
export async function areKnown(query: string): Promise<boolean> {
  const words = wordQuery(query);
  if (words === null) return true;
  const found = await rows(sql`select 1 from entry e
    where e.words @@ to_tsquery('english', ${words}) limit 1`);
  return found.length > 0;
}

/** As `findEntries`, for words that are misspelt: what has most letters in common comes first. */
export async function findSimilar(search: EntrySearch): Promise<readonly FoundEntry[]> {
  const typed = search.query.trim().toLowerCase();
  return database().transaction(async (tx) => {
    await tx.execute(sql`set local pg_trgm.word_similarity_threshold = 0.3`);
    const found = await tx.execute<FoundEntry>(sql`select ${COLUMNS} from (select e.*,
      word_similarity(${typed}, e.letters) as near from entry e where ${typed} <% e.letters
      and ${isOffered(search)} order by near desc, e.uses desc, e.id
      limit ${search.count + 1} offset ${search.first}) e
      join "user" u on u.id = e.author_id order by e.near desc, e.uses desc, e.id`);
    return found.rows;
  });
}

export interface FacetCount {
  readonly [column: string]: unknown;
  readonly facet: string;
  readonly count: number;
}

/** How often each facet stands among what matches, of the first thousand. */
export async function countFacets(search: EntrySearch): Promise<readonly FacetCount[]> {
  const words = wordQuery(search.query);
  const matches = words === null ? sql`true` : sql`e.words @@ to_tsquery('english', ${words})`;
  return rows<FacetCount>(sql`select facet, count(*)::int as count from (
      select unnest(e.facets || ('rack:' || e.rack)) as facet from (select * from entry e
      where ${matches} and ${isOffered(search)} limit ${MOST_COUNTED}) e) f
    group by facet order by count desc, facet limit 400`);
}

/** What an entry is found by; kept beside it and written when it or its releases change. */
export interface EntryWords {
  readonly facets: readonly string[];
  /** From what counts most to what counts least. */
  readonly name: string;
  readonly tags: string;
  readonly told: string;
  readonly madeOf: string;
}

/** Writes what an entry is found by, with the newest of its releases. */
export async function shelve(
  id: string,
  newest: { version: string; swatchHash: string; releasedAt: Date } | null,
  { facets, name, tags, told, madeOf }: EntryWords,
): Promise<void> {
  const weighted = (text: string, weight: string): SQL =>
    sql`setweight(to_tsvector('english', ${text}), ${sql.raw(`'${weight}'`)})`;
  await database().execute(sql`update entry set
    version = ${newest?.version ?? null}, swatch_hash = ${newest?.swatchHash ?? null},
    released_at = ${newest?.releasedAt ?? null}, facets = ${textList(facets)},
    words = ${weighted(name, 'A')} || ${weighted(tags, 'B')} || ${weighted(told, 'C')} ||
      ${weighted(madeOf, 'D')},
    letters = ${`${name} ${tags}`.toLowerCase().slice(0, 2000)}
    where id = ${id}`);
}

/** Entries that have never been written so, from before there was a search. */
export async function listUnshelved(): Promise<readonly string[]> {
  const found = await rows<{ id: string }>(sql`select id from entry where words = ''`);
  return found.map(({ id }) => id);
}
