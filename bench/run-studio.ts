/**
 * Prints what the studio around the materials costs. Pages are measured in the application that
 * ./start runs. Compare ratios within one run only.
 */
import { measureStudioPages } from './studio-pages';

const ms = (value: number): string => `${value.toFixed(1)} ms`;
const pages = await measureStudioPages();
if (!pages) process.stdout.write('No application runs: start it with ./start for its pages.\n');
for (const { name, few, many } of pages ?? [])
  process.stdout.write(
    `${name.padEnd(66)} p95 ${ms(few)}, ${ms(many)} (${(many / few).toFixed(2)} ×)\n`,
  );
