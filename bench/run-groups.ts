/** Prints what inspecting, painting and pointing cost. Compare ratios within one run only. */
import { measureGroup } from './groups';
import { measureGroupPage } from './group-page';

const { notes, sheet } = await measureGroup();
const times = (value: number): string => `${value.toFixed(2)} ×`;
const ms = (value: number): string => `${value.toFixed(0)} ms`;
const rows: [string, string][] = [
  ['one evaluation, 4,096 points on three models', `${notes.evaluation.toFixed(1)} ms`],
  ['first note of a group of 60 nodes, one thread', ms(notes.first)],
  [
    'all notes, one thread',
    `${ms(notes.all)} ` +
      `(${times(notes.all / notes.evaluation / notes.dials)} one evaluation per dial)`,
  ],
  [
    `proof sheet of ${String(sheet.pictures)} pictures, evaluated at 256²`,
    `${ms(sheet.sheet)} (${times(sheet.sheet / sheet.alone)} the pictures alone)`,
  ],
];
const page = await measureGroupPage(12);
if (page)
  rows.push(
    [
      'region of a dial on the stage',
      `${ms(page.region)}, the first ${ms(page.firstRegion)} ` +
        `(${times(page.region / page.plainFrame)} a plain frame of ${ms(page.plainFrame)})`,
    ],
    [
      'longest task of the page while a sheet is painted',
      `${ms(page.longestTask)}, ${String(page.tasksOver50)} over 50 ms in ` +
        `${page.sheetSeconds.toFixed(1)} s`,
    ],
  );
else rows.push(['the page', 'not measured: start the application with ./start first']);
for (const [name, figure] of rows) process.stdout.write(`${name.padEnd(52)} ${figure}\n`);
