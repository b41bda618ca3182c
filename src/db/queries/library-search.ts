import { sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import { database, transaction } from '../client';
import { runPrepared } from '../prepared';

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

/** So many of the most used are searched first, and chosen anew when so many more have come. */
const FRONT = 10_000,
  FRONT_SLACK = 1000;
/** Of what matches, the best are looked for among so many, the most used and those named so. */
const MOST_RANKED = 200,
  MOST_NAMED = 100;
/** For a letter so many of the most used are read. */
const MOST_READ = 1000;
/** Facets are counted among so many. */
const MOST_COUNTED = 1000;

/** A list as one value, so that the statement reads the same however long it is. */
const textList = (values: readonly string[]): SQL => sql`${sql.param([...values])}::text[]`;

/** What is typed beyond so many words is not looked for. */
const MOST_WORDS = 12;
const beginnings = (words: readonly string[]): string =>
  words.map((word) => `${word}:*`).join(' & ');
const wordsIn = (query: string): readonly string[] =>
  (query.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? []).slice(0, MOST_WORDS);

/** Typed words as a query for words that begin so, all of them; null where there are none. */
export function wordQuery(query: string): string | null {
  const words = wordsIn(query);
  return words.length > 0 ? beginnings(words) : null;
}

/** Shorter words begin so many others that those are kept as one list (`word_beginnings`). */
const LONG = 3;
/** Words of a letter or two that say nothing. Source: the English stop words of Snowball. */
const SILENT = new Set(
  'i me my we he it is am be do an a if or as of at by to in up on so no s t'.split(' '),
);

/**
 * That an entry has all the words, the last of which may be a beginning. Where there are longer
 * ones, short ones that say nothing do not count.
 */
function hasWords(query: string): SQL {
  const { long, short } = sortWords(query);
  const parts = [
    ...(long.length > 0 ? [sql`e.words @@ to_tsquery('english', ${beginnings(long)})`] : []),
    ...(short.length > 0 ? [hasBeginnings(short)] : []),
  ];
  return sql.join(parts, sql` and `);
}
const hasBeginnings = (short: readonly string[]): SQL => sql`e.beginnings @> ${textList(short)}`;
function sortWords(query: string): Record<'long' | 'short', readonly string[]> {
  const words = wordsIn(query);
  const long = words.filter((word) => word.length >= LONG);
  const short = words.filter((word) => word.length < LONG);
  return { long, short: long.length > 0 ? short.filter((word) => !SILENT.has(word)) : short };
}
/**
 * The same of an entry's name: its long words where there are any, looked up in an index of their
 * own. Short ones are compared, never looked up: that index would be read for all entries.
 */
function isNamed(query: string): SQL {
  const { long, short } = sortWords(query);
  const looked = long.length > 0 ? long : wordsIn(query);
  const isTitled = sql`ts_filter(e.words, '{a}') @@ to_tsquery('english', ${beginnings(looked)})`;
  return long.length > 0 && short.length > 0
    ? sql`${isTitled} and (${hasBeginnings(short)}) is true`
    : isTitled;
}

/** A number that stands in the text, for the planner to count with. */
const literal = (value: number): SQL => sql.raw(String(Math.trunc(value)));
const pageOf = ({ first, count }: EntrySearch): SQL =>
  sql`limit ${literal(count + 1)} ${first > 0 ? sql`offset ${first}` : sql``}`;

/** That an entry has all the facets. */
const hasFacets = ({ facets }: EntrySearch): SQL => sql`e.facets @> ${textList(facets)}`;

/** That an entry is on a rack, has a release that is out, and has all the facets. */
function isOffered(search: EntrySearch, facets = hasFacets(search)): SQL {
  const { racks, usedBy } = search;
  const parts = [
    sql`e.rack = any(${textList(racks)})`,
    sql`e.version is not null`,
    sql`e.withdrawn_reason is null`,
    ...(search.facets.length > 0 ? [facets] : []),
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

const rows = <T extends Record<string, unknown>>(query: SQL): Promise<readonly T[]> =>
  runPrepared<T>(query);

/** Entries that match, in order: those asked for and one more, where there is one. */
export async function findEntries(search: EntrySearch): Promise<readonly FoundEntry[]> {
  const words = wordQuery(search.query);
  const page = pageOf(search);
  const offered = isOffered(search);
  if (words === null)
    return rows<FoundEntry>(sql`select ${COLUMNS} from (select * from entry e where ${offered}
      order by ${ORDERS[search.sort]} ${page}) e join "user" u on u.id = e.author_id
      order by ${ORDERS[search.sort]}`);
  if (search.sort === 'match')
    return (await findByLetter(search, words)) ?? findRanked(search, words);
  return rows<FoundEntry>(sql`select ${COLUMNS} from (select * from entry e
      where ${hasWords(search.query)} and ${offered} order by ${ORDERS[search.sort]} ${page}) e
    join "user" u on u.id = e.author_id order by ${ORDERS[search.sort]}`);
}

/**
 * Entries with words that begin with a letter, for the first letter that is typed: so many have one
 * that those used most are read in turn. Null for longer words, and where that fills no page.
 */
async function findByLetter(
  search: EntrySearch,
  words: string,
): Promise<readonly FoundEntry[] | null> {
  if (wordsIn(search.query).some((word) => word.length > 1)) return null;
  const found = await rows<FoundEntry>(sql`select ${COLUMNS} from (select * from (select *
        from entry order by uses desc nulls last, id limit ${literal(MOST_READ)}) e
      where (e.words @@ to_tsquery('english', ${words})) is true and ${isOffered(search)}
      order by ${ORDERS.use} ${pageOf(search)}) e
    join "user" u on u.id = e.author_id order by ${ORDERS.use}`);
  return found.length > search.count ? found : null;
}

/**
 * Entries with the words, what matches best first. Those near at hand are some thousands of the
 * most used and those that are named so; all others are looked up only where these do not fill the
 * page: a common word costs no more in a large library than in a small one. Where they fill the
 * first page they come first on all: an entry stands on one page alone.
 */
function findRanked(search: EntrySearch, words: string): Promise<readonly FoundEntry[]> {
  const { first, count } = search;
  const query = sql`to_tsquery('english', ${words})`;
  const offered = isOffered(search);
  const matches = sql`${hasWords(search.query)} and ${offered}`;
  // Names are rare enough: the index of facets would only be read in vain.
  const offeredThere = isOffered(search, sql`(${hasFacets(search)}) is true`);
  const most = Math.max(MOST_RANKED, first + count + 1);
  return rows<FoundEntry>(sql`with front as materialized (select e.id from entry e
      where e.is_front and ${matches} order by e.uses desc, e.id limit ${most}),
    named as materialized (select e.id from entry e
      where ${isNamed(search.query)} and ${offeredThere} limit ${literal(MOST_NAMED)}),
    near as materialized (select id from front union select id from named),
    rest as materialized (select e.id, e.uses from entry e
      where (select count(*) from near) <= ${first + count} and ${matches}),
    found as (select id, (select count(*) from near) > ${count} as is_first from near union all
      select id, false from (select id from rest where id not in (select id from near)
        order by uses desc, id limit ${most}) r),
    ranked as (select e.id, e.uses, f.is_first, ts_rank(e.words, ${query}) as rank
      from found f join entry e on e.id = f.id
      order by is_first desc, rank desc, uses desc, id ${pageOf(search)})
    select ${COLUMNS} from ranked r join entry e on e.id = r.id
      join "user" u on u.id = e.author_id
      order by r.is_first desc, r.rank desc, r.uses desc, r.id`);
}

/** Whether any entry has the words, whatever its facets and its rack: then they are spelt right. */
export async function areKnown(query: string): Promise<boolean> {
  if (wordQuery(query) === null) return true;
  const found = await rows(sql`select 1 from entry e where ${hasWords(query)} limit 1`);
  return found.length > 0;
}

/** As `findEntries`, for words that are misspelt: what has most letters in common comes first. */
export async function findSimilar(search: EntrySearch): Promise<readonly FoundEntry[]> {
  const typed = search.query.trim().toLowerCase();
  return transaction(async (tx) => {
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
  const matches = wordQuery(search.query) === null ? sql`true` : hasWords(search.query);
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

/**
 * Chooses anew which entries are searched first: the most used, the newest of equals. Entries come
 * in as such ones; unless it is asked for, nothing is done before there are many more.
 */
export async function chooseFront(isAsked = false): Promise<void> {
  if (!isAsked) {
    const [now] = await rows<{ many: boolean }>(sql`select count(*) > ${FRONT + FRONT_SLACK} as many
      from entry where is_front`);
    if (!now?.many) return;
  }
  // Every change writes the indexes anew: in small parts, so that nobody waits long.
  const changed = async (): Promise<number> => {
    const done = await database().execute(sql`update entry e set is_front = t.is_front from (
        select c.id, c.is_front from (select id, row_number() over (order by uses desc,
            released_at desc nulls last, id) <= ${FRONT} as is_front from entry) c
          join entry e on e.id = c.id where e.is_front <> c.is_front
          order by c.is_front desc limit ${FRONT_SLACK}) t
      where t.id = e.id`);
    return done.rowCount ?? 0;
  };
  while ((await changed()) === FRONT_SLACK);
}
