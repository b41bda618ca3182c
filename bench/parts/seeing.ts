/** What seeing costs: asking at a point, plots, the cause of a difference, comparing by hand. */
import { CHANGES_MEASURED, measureSeeing } from '../core/seeing';
import { measureComparing } from '../editor/comparing';
import { milliseconds, times } from '../runner/part';
import type { NoteRow, Part } from '../runner/part';
import { APPLICATION } from './stage';

async function seeing(row: NoteRow): Promise<void> {
  const found = await measureSeeing();
  const alone = (CHANGES_MEASURED + 1) * found.picture;
  for (const [name, took, first] of [
    ['ask at a point', found.point, found.firstPoint],
    ['shares of all branches there', found.shares, found.firstShares],
  ] as const)
    row(name, `${milliseconds(took)}, the first ${milliseconds(first)}`, took);
  row(
    'a transfer plot while a value upstream is dragged',
    milliseconds(found.plotStep),
    found.plotStep,
  );
  row(
    `why different, ${String(CHANGES_MEASURED)} changes: the order`,
    milliseconds(found.order),
    found.order,
  );
  row(
    'the same, all measured',
    `${milliseconds(found.whole)} (${times(found.whole / alone)} ` +
      `${String(CHANGES_MEASURED + 1)} pictures of ${milliseconds(found.picture)})`,
    found.whole,
  );
}

async function comparing(row: NoteRow): Promise<void> {
  const found = await measureComparing();
  row('frames while nothing is done', milliseconds(found.idle), found.idle);
  for (const [name, gap, seen] of [
    ['frames while wiping', found.wipe, found.wipesSeen],
    ['frames while A and B take turns', found.turns, found.turnsSeen],
  ] as const)
    row(
      name,
      `${milliseconds(gap)}; ${String(seen)} of ${String(found.steps)} steps seen at once`,
      gap,
    );
  row('sent to workers meanwhile', String(found.sent), found.sent);
}

export const SEEING_PARTS: readonly Part[] = [
  { id: 'seeing', needs: 'nothing more', measure: seeing },
  { id: 'comparing', needs: APPLICATION, measure: comparing },
];
