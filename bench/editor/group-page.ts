/** The page while a sheet is painted, and a dial that is pointed at. Needs the application. */
import type {} from '@/features/stage/Stage';
import type { Page } from '@playwright/test';
import { median } from '../core/evaluate';
import { openStudio, untilIdle, watchLongTasks } from '../studio/own-studio';

/** Figures of the editor with a group open, milliseconds. */
export interface GroupPageFigures {
  readonly plainFrame: number;
  /** From pointing at a dial to its region on the stage, the first time and after. */
  readonly firstRegion: number;
  readonly region: number;
  readonly longestTask: number;
  readonly tasksOver50: number;
  readonly sheetSeconds: number;
}

/** How long it takes from pointing at a dial until its region is there. */
async function timeRegion(page: Page, row: number): Promise<number> {
  const dial = page.getByTestId('front').locator('[data-testid^="dial-"]').nth(row);
  await page.mouse.move(700, 170);
  await page.waitForFunction(() => !document.querySelector('[data-testid=influence]'));
  const box = await dial.locator('[aria-expanded]').boundingBox();
  if (!box) throw new Error('the dial is not shown');
  const began = performance.now();
  await page.mouse.move(box.x + 20, box.y + 8);
  await page.waitForSelector('[data-testid=influence]', { timeout: 60_000 });
  return performance.now() - began;
}

/** Opens a group of the demo studio and times it. */
export async function measureGroupPage(rounds: number): Promise<GroupPageFigures> {
  const studio = await openStudio();
  const { browser, page, base } = studio;
  try {
    await page.goto(`${base}/materials/demo-painted-tin-worn-edges`);
    await untilIdle(page);
    await page.locator('.react-flow__node', { hasText: 'Worn edges' }).first().dblclick();
    await page.getByTestId('front').waitFor();
    await untilIdle(page);
    const frames = await page.evaluate(async (count) => {
      const times: number[] = [];
      for (let k = 0; k < count; k++)
        times.push((await window.brightLoomStage?.drawAndWait()) ?? Number.NaN);
      return times;
    }, rounds);
    const firstRegion = await timeRegion(page, 0);
    const regions: number[] = [];
    for (let k = 0; k < rounds; k++) regions.push(await timeRegion(page, k % 2));
    const { longestTask, tasksOver50, seconds } = await watchLongTasks(page, async () => {
      await page.getByRole('button', { name: 'Papers' }).click();
      await page
        .getByTestId('sheet-progress')
        .getByText(/^[1-9]\d* pictures/)
        .waitFor({
          timeout: 120_000,
        });
    });
    return {
      plainFrame: median(frames),
      firstRegion,
      region: median(regions),
      longestTask,
      tasksOver50,
      sheetSeconds: seconds,
    };
  } finally {
    await browser.close();
  }
}
