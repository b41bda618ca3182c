/**
 * Prints what the studio around the materials costs. Pages are measured in the application that
 * ./start runs. Compare ratios within one run only.
 */
import { measureFiles } from './studio-files';
import { measureStudioPages } from './studio-pages';

const ms = (value: number): string => `${value.toFixed(1)} ms`;
const pages = await measureStudioPages();
if (!pages) process.stdout.write('No application runs: start it with ./start for its pages.\n');
for (const { name, few, many } of pages ?? [])
  process.stdout.write(
    `${name.padEnd(66)} p95 ${ms(few)}, ${ms(many)} (${(many / few).toFixed(2)} ×)\n`,
  );
const files = await measureFiles();
for (const [way, figures] of Object.entries(files ? { out: files.out, in: files.in } : {}))
  process.stdout.write(
    `a material with a 50 MB model, ${way}: ${figures.seconds.toFixed(1)} s, memory of the ` +
      `server +${(figures.grown / 1e6).toFixed(0)} MB\n`,
  );
