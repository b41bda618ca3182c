/** Fills a studio with made-up entries of the library, three releases each, for measuring. */
import { sql } from 'drizzle-orm';
import { DOCUMENT_VERSION } from '@/core/graph/document';
import { cardAlone } from '@/core/releases/card-alone';
import { seededRandom } from '@/core/base/random';
import { database } from '@/db/client';
import { storeBlob } from '@/db/queries/blobs';
import { chooseFront } from '@/db/queries/library-search';
import { listDefinitions } from '@/core/compile/catalogue';

/** Words that are asked for, among made-up ones: the first are used most, as in any language. */
const KNOWN =
  'tar rope hull mast keel sail lamp brass bell pier stone weed foam drift salt rust moss chalk ' +
  'slate oak net buoy cork tin paint chip crack frost soot grain ripple band edge hollow crevice';
const SYLLABLES = 'ba do fen gri hul kar lo mir nes ot pel rin sta tor ul ven wes yar'.split(' ');
const VOCABULARY = 3000;

/** Rows of one statement. */
const CHUNK = 500;

const randomOf = seededRandom(4711);
const pick = <T>(list: readonly T[]): T => list[Math.floor(randomOf() * list.length)] as T;

function vocabulary(): readonly string[] {
  const known = KNOWN.split(' ');
  const made = Array.from(
    { length: VOCABULARY },
    () => pick(SYLLABLES) + pick(SYLLABLES) + pick(SYLLABLES),
  );
  // A known word after every twenty made-up ones.
  return made.flatMap((word, k) => (k % 20 === 19 ? [word, known[(k - 19) / 20] ?? word] : [word]));
}
/** The n-th word comes about 1/n as often as the first. */
const word = (words: readonly string[]): string =>
  words[Math.floor(words.length ** randomOf()) - 1] ?? '';

interface Row {
  readonly id: string;
  readonly rack: string;
  readonly name: string;
  readonly tags: readonly string[];
  readonly told: string;
  readonly madeOf: string;
  readonly facets: readonly string[];
  readonly uses: number;
}

function rowAt(k: number, titles: readonly string[], words: readonly string[]): Row {
  const tags = [word(words), word(words), word(words)];
  const needs = randomOf() < 0.3 ? ['needs:texture coordinates'] : ['free:texture coordinates'];
  return {
    id: `bench-${String(k)}`,
    rack: randomOf() < 0.7 ? 'studio' : 'project:ferry',
    name: `${word(words)} ${word(words)} ${String(k)}`,
    tags,
    told: Array.from({ length: 24 }, () => word(words)).join(' '),
    madeOf: Array.from({ length: 8 }, () => pick(titles)).join(' '),
    facets: [
      `gives:${pick(['scalar', 'scalar', 'colour', 'surface'])}`,
      ...needs,
      ...(randomOf() < 0.1 ? ['follows:camera'] : []),
      ...tags.map((tag) => `tag:${tag}`),
      'author:Maren Holt',
    ],
    uses: Math.floor(randomOf() ** 4 * 400),
  };
}

async function insertChunk(rows: readonly Row[], authorId: string, hash: string): Promise<void> {
  const text = JSON.stringify(rows);
  await database().execute(sql`insert into entry (id, rack, name, description, tags, author_id,
      version, swatch_hash, released_at, facets, words, letters, uses, is_front)
    select r->>'id', r->>'rack', r->>'name', r->>'told', r->'tags', ${authorId}, '1.2.0', ${hash},
      now() - random() * interval '900 days',
      array(select jsonb_array_elements_text(r->'facets')),
      setweight(to_tsvector('english', r->>'name'), 'A') ||
        setweight(to_tsvector('english', r->>'tags'), 'B') ||
        setweight(to_tsvector('english', r->>'told'), 'C') ||
        setweight(to_tsvector('english', r->>'madeOf'), 'D'),
      lower(r->>'name' || ' ' || (r->>'tags')), (r->>'uses')::int,
      false
    from jsonb_array_elements(${text}::jsonb) r on conflict do nothing`);
  const groups = JSON.stringify({
    root: 'g1',
    definitions: cardAlone({ root: 'g1', definitions: {} }).groups,
  });
  await database().execute(sql`insert into release (entry_id, version, groups, document_version,
      content_hash, source_material_id, source_revision, swatch_hash, author_id)
    select r->>'id', v, ${groups}::jsonb, ${DOCUMENT_VERSION}, md5(r->>'id' || v), 'none', 1,
      ${hash}, ${authorId}
    from jsonb_array_elements(${text}::jsonb) r, unnest(array['1.0.0', '1.1.0', '1.2.0']) v
    on conflict do nothing`);
}

/** Adds entries until there are so many, the planner's figures brought up to date. */
export async function seedLibrary(from: number, to: number, authorId: string): Promise<void> {
  const words = vocabulary();
  const titles = listDefinitions().map(({ title }) => title);
  const hash = await storeBlob(new Uint8Array([1]), 'image/png');
  for (let k = from; k < to; k += CHUNK) {
    const rows = Array.from({ length: Math.min(CHUNK, to - k) }, (_, n) =>
      rowAt(k + n, titles, words),
    );
    await insertChunk(rows, authorId, hash);
  }
  await chooseFront(true);
  await database().execute(sql`vacuum analyze entry`);
  await database().execute(sql`vacuum analyze release`);
  // What so many rows leave to be written would be written while others are measured.
  await database().execute(sql`checkpoint`);
}
