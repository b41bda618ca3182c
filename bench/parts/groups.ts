/** What inspecting, painting and pointing at a group cost. */
import { measureGroup } from '../core/groups';
import { measureGroupPage } from '../editor/group-page';
import { milliseconds, times } from '../runner/part';
import type { NoteRow, Part } from '../runner/part';
import { APPLICATION } from './stage';
import { sized } from '../size';

async function notes(row: NoteRow): Promise<void> {
  const { notes: found, sheet } = await measureGroup();
  row('one evaluation on all models', milliseconds(found.evaluation), found.evaluation);
  row('first note of a group, one thread', milliseconds(found.first), found.first);
  row(
    'all notes, one thread',
    `${milliseconds(found.all)} ` +
      `(${times(found.all / found.evaluation / found.dials)} one evaluation per dial)`,
    found.all,
  );
  row(
    `proof sheet of ${String(sheet.pictures)} pictures`,
    `${milliseconds(sheet.sheet)} (${times(sheet.sheet / sheet.alone)} the pictures alone)`,
    sheet.sheet,
  );
}

async function page(row: NoteRow): Promise<void> {
  const found = await measureGroupPage(sized(12, 2));
  row(
    'region of a dial on the stage',
    `${milliseconds(found.region)}, the first ${milliseconds(found.firstRegion)} ` +
      `(${times(found.region / found.plainFrame)} a plain frame of ` +
      `${milliseconds(found.plainFrame)})`,
    found.region,
  );
  row(
    'longest task of the page while a sheet is painted',
    `${milliseconds(found.longestTask)}, ${String(found.tasksOver50)} over 50 ms in ` +
      `${found.sheetSeconds.toFixed(1)} s`,
    found.longestTask,
  );
}

export const GROUP_PARTS: readonly Part[] = [
  { id: 'notes', needs: 'nothing more', measure: notes },
  { id: 'group-page', needs: APPLICATION, measure: page },
];
