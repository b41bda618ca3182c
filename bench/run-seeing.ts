/**
 * Prints what seeing costs in one thread: 300 nodes, 30 changes. A plain frame of the stage on the
 * same machine is in `npm run bench`; frames of comparing are measured where ./start runs.
 */
import { measureComparing } from './comparing';
import { CHANGES_MEASURED, measureSeeing } from './seeing';

const found = await measureSeeing();
const ms = (value: number): string => `${value.toFixed(value < 100 ? 1 : 0)} ms`;
const alone = (CHANGES_MEASURED + 1) * found.picture;
const rows: readonly (readonly [string, string])[] = [
  ['ask at a point of 300 nodes', `${ms(found.point)}, the first ${ms(found.firstPoint)}`],
  ['shares of all branches there', `${ms(found.shares)}, the first ${ms(found.firstShares)}`],
  ['a transfer plot while a value upstream is dragged', ms(found.plotStep)],
  ['why different, 30 changes: the order', ms(found.order)],
  [
    'the same, all measured',
    `${ms(found.whole)} (${(found.whole / alone).toFixed(2)} × ` +
      `${String(CHANGES_MEASURED + 1)} pictures of ${ms(found.picture)})`,
  ],
];
for (const [name, figure] of rows) process.stdout.write(`${name.padEnd(52)} ${figure}\n`);

const compared = await measureComparing();
process.stdout.write(
  compared
    ? `frames: idle ${ms(compared.idle)}, wiping ${ms(compared.wipe)}, ` +
        `A and B in turn ${ms(compared.turns)}\n` +
        `seen at once: ${String(compared.wipesSeen)} and ${String(compared.turnsSeen)} of ` +
        `${String(compared.steps)} steps; sent to workers meanwhile: ${String(compared.sent)}\n`
    : 'No application runs: start it with ./start for the frames of comparing.\n',
);
