/**
 * Prints what the library costs. Compare ratios within one run only. `--large` searches 200,000
 * entries, too; `--materials 500` looks ahead at so many; `--page` measures in the application that
 * runs.
 */
import { measureConsequences } from './library-consequences';
import { measureLibraryPage } from './library-page';
import { measureSearch, p95 } from './library-search';
import { startBenchStudio } from './library-studio';

const { argv } = process;
const at = argv.indexOf('--materials');
const materials = at < 0 ? 8 : Number(argv[at + 1] ?? 8);
const steps = argv.includes('--large') ? [20_000, 200_000] : [20_000];
const rows: [string, string][] = [];
const ms = (value: number): string => `${value.toFixed(1)} ms`;
const times = (value: number): string => `${value.toFixed(2)} ×`;

const stop = await startBenchStudio();
try {
  if (!argv.includes('--only-consequences') && !argv.includes('--page')) {
    const figures = await measureSearch(steps);
    const [small] = figures;
    for (const { entries, search, least } of figures)
      rows.push([
        `search with two facets, ${entries.toLocaleString('en')} entries, p95 of 8 clients`,
        `${ms(search)} (${times(search / least)} select 1 over HTTP, ` +
          `${times(search / (small?.search ?? search))} the smallest)`,
      ]);
  }
  if (argv.includes('--page')) {
    const times = await measureLibraryPage(20_000);
    rows.push([
      'the page, from a letter to the first results, 20,000 entries, p95',
      times ? `${ms(p95(times))} of ${String(times.length)} letters` : 'no application runs',
    ]);
  }
  if (!argv.includes('--only-search') && !argv.includes('--page')) {
    const { one, two, pictures, killed, lookedAt } = await measureConsequences(materials);
    rows.push(
      [
        `consequences over ${String(materials)} materials, one worker`,
        `${one.toFixed(1)} s (${times(one / pictures)} the pictures alone)`,
      ],
      ['the same, two workers', `${two.toFixed(1)} s (${times(one / two)} as fast as one)`],
      [
        'the same, one of two killed on the way',
        `${killed.toFixed(1)} s, ${String(lookedAt)} looked at`,
      ],
    );
  }
} finally {
  await stop();
}
for (const [name, figure] of rows) process.stdout.write(`${name.padEnd(62)} ${figure}\n`);
