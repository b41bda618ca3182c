/** Frames and edits on the stage, and how long the page is busy at a time. */
import { measurePage } from '../editor/page';
import type { PageFigures } from '../editor/page';
import { measureStage } from '../editor/stage';
import { milliseconds, times } from '../runner/part';
import type { NoteRow, Part } from '../runner/part';
import { sized } from '../size';

/** What the parts need that measure the application; it is brought up for them. */
export const APPLICATION = 'PostgreSQL and Chromium, and a build of the application';

async function stage(row: NoteRow): Promise<void> {
  const found = await measureStage(sized(9, 1));
  const { plainFrame } = found;
  row('plain frame of the stage', milliseconds(plainFrame), plainFrame);
  for (const [name, took] of [
    ['edit to the next picture', found.editToPicture],
    ['drag to the next picture, coarse', found.dragToPicture],
    ['drag to the finished picture', found.dragToFinePicture],
  ] as const)
    row(name, `${milliseconds(took)} (${times(took / plainFrame)} a plain frame)`, took);
  row(
    'recompilations while dragging',
    String(found.compilationsWhileDragging),
    found.compilationsWhileDragging,
  );
}

const busy = ({ longestTask, tasksOver50, seconds }: PageFigures): string =>
  `${longestTask.toFixed(0)} ms, ${String(tasksOver50)} over 50 ms in ${seconds.toFixed(0)} s`;

async function page(row: NoteRow): Promise<void> {
  const { models, stage: large, stageOfSmall } = await measurePage();
  for (const [name, figures] of [
    ['longest task, on the page of models', models],
    ['the same on the stage: brought in, occlusion, turned', large],
    ['the same on the stage', stageOfSmall],
  ] as const)
    row(
      `${name}, ${figures.triangles.toLocaleString('en')} triangles`,
      busy(figures),
      figures.longestTask,
    );
}

export const STAGE_PARTS: readonly Part[] = [
  { id: 'stage', needs: APPLICATION, measure: stage },
  { id: 'page', needs: APPLICATION, measure: page },
];
