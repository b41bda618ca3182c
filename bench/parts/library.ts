/** What the library costs: searches, its page, and looking ahead at a release. */
import { measureConsequences } from '../library/consequences';
import { measureLibraryPage } from '../library/page';
import { measureSearch, p95 } from '../library/search';
import { withLibraryStudio } from '../library/studio';
import { milliseconds, times } from '../runner/part';
import type { NoteRow, Part } from '../runner/part';
import { sized } from '../size';
import { APPLICATION } from './stage';

const ENTRIES = sized([20_000, 200_000], [300]);
/** Looked ahead at; five hundred take an hour: `LOOKED_AT=500 npm run bench -- consequences`. */
const MATERIALS = Number(process.env['LOOKED_AT'] ?? sized(24, 2));

async function search(row: NoteRow): Promise<void> {
  const figures = await measureSearch(ENTRIES);
  const [small] = figures;
  for (const { entries, search: took, least } of figures)
    row(
      `search with two facets, ${entries.toLocaleString('en')} entries, p95 of 8 clients`,
      `${milliseconds(took)} (${times(took / least)} select 1 over HTTP, ` +
        `${times(took / (small?.search ?? took))} the smallest)`,
      took,
    );
}

async function page(row: NoteRow): Promise<void> {
  const [entries = 0] = ENTRIES;
  const letters = await measureLibraryPage(entries);
  const took = p95(letters);
  row(
    `from a letter to the first results, ${entries.toLocaleString('en')} entries, p95`,
    `${milliseconds(took)} of ${String(letters.length)} letters`,
    took,
  );
}

async function consequences(row: NoteRow): Promise<void> {
  const { one, two, pictures, killed, lookedAt } = await measureConsequences(MATERIALS);
  row(
    `consequences over ${String(MATERIALS)} materials, one worker`,
    `${one.toFixed(1)} s (${times(one / pictures)} the pictures alone)`,
    one,
  );
  row('the same, two workers', `${two.toFixed(1)} s (${times(one / two)} as fast as one)`, two);
  row(
    'the same, one of two killed on the way',
    `${killed.toFixed(1)} s, ${String(lookedAt)} looked at`,
    killed,
  );
}

export const LIBRARY_PARTS: readonly Part[] = [
  {
    id: 'search',
    needs: 'PostgreSQL',
    measure: (row) => withLibraryStudio(() => search(row)),
  },
  {
    id: 'consequences',
    needs: 'PostgreSQL',
    measure: (row) => withLibraryStudio(() => consequences(row)),
  },
  { id: 'library-page', needs: APPLICATION, measure: page },
];
