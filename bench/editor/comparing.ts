/**
 * Frames while two states are compared by hand: the line of the wipe drawn across, A and B in turn.
 * Needs the application.
 */
import type {} from '@/features/stage/test-hooks';
import type { Page } from '@playwright/test';
import { openOurs } from './board';
import { median } from '../core/evaluate';
import { openStudio, untilIdle } from '../studio/own-studio';
import { sized } from '../size';

const NODES = sized(300, 16);
/** Moves of the line, and turns from A to B. */
const STEPS = sized(40, 4);

export interface ComparingFigures {
  /** Milliseconds between frames: nothing done, the line drawn, A and B exchanged. */
  readonly idle: number;
  readonly wipe: number;
  readonly turns: number;
  /** Of so many moves and turns, those that were seen in the frame that followed. */
  readonly steps: number;
  readonly wipesSeen: number;
  readonly turnsSeen: number;
  /** What was sent to workers meanwhile: nothing is evaluated where it is 0. */
  readonly sent: number;
}

/** Counts what the page sends to its workers. */
const COUNT_MESSAGES = `
  window.sentToWorkers = 0;
  const send = Worker.prototype.postMessage;
  Worker.prototype.postMessage = function (...given) {
    window.sentToWorkers++;
    return send.apply(this, given);
  };`;

interface Watched {
  readonly gaps: readonly number[];
  readonly sent: number;
  /** How often what is watched was another than in the frame before. */
  readonly changes: number;
}

/** Watches frames while something is done. @param what an expression whose changes are counted */
async function watch(page: Page, what: string, act: () => Promise<void>): Promise<Watched> {
  await page.evaluate(`
    window.frameWatch = { times: [], changes: 0, last: null, sent: window.sentToWorkers, on: true };
    const note = (time) => {
      const watched = window.frameWatch;
      const now = String(${what});
      if (watched.last !== null && now !== watched.last) watched.changes++;
      watched.last = now;
      watched.times.push(time);
      if (watched.on) requestAnimationFrame(note);
    };
    requestAnimationFrame(note);`);
  await act();
  return page.evaluate(`(() => {
    const watched = window.frameWatch;
    watched.on = false;
    return {
      gaps: watched.times.slice(1).map((time, k) => time - watched.times[k]),
      changes: watched.changes,
      sent: window.sentToWorkers - watched.sent,
    };
  })()`);
}

const LINE = `document.querySelector('[data-testid="wipe"] .bg-weld')?.style.left`;
const TURNED = `document.querySelector('[data-testid="wipe"] .invisible') === null`;

async function compare(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'States', exact: true }).click();
  const states = page.getByTestId('states');
  await states.getByLabel('Name').fill('Bench');
  await states.getByRole('button', { name: 'Keep this state' }).click();
  await page.getByRole('button', { name: 'Compare Bench as A' }).click({ timeout: 60_000 });
  await page.getByTestId('wipe').waitFor({ timeout: 120_000 });
  await untilIdle(page);
}

export async function measureComparing(): Promise<ComparingFigures> {
  const studio = await openStudio();
  const { page, browser } = studio;
  try {
    await page.addInitScript(COUNT_MESSAGES);
    await openOurs(studio, NODES);
    await compare(page);
    const wait = (): Promise<void> => page.waitForTimeout(1500);
    const idle = await watch(page, LINE, wait);
    const box = await page.getByTestId('wipe').getByRole('img').first().boundingBox();
    if (!box) throw new Error('there is no picture');
    const [left, y] = [box.x + box.width * 0.2, box.y + box.height / 2];
    await page.mouse.move(left, y);
    await page.mouse.down();
    const wipe = await watch(page, LINE, async () => {
      for (let k = 1; k <= STEPS; k++) {
        await page.mouse.move(left + k * 3, y);
        await page.waitForTimeout(40);
      }
    });
    await page.mouse.up();
    await page.getByRole('radio', { name: 'Flicker' }).click();
    await page.getByRole('button', { name: 'Hold' }).click();
    const other = page.getByRole('button', { name: 'The other one' });
    await other.focus();
    const turns = await watch(page, TURNED, async () => {
      for (let k = 0; k < STEPS; k++) {
        await page.keyboard.press('Enter');
        await page.waitForTimeout(40);
      }
    });
    return {
      idle: median([...idle.gaps]),
      wipe: median([...wipe.gaps]),
      turns: median([...turns.gaps]),
      steps: STEPS,
      wipesSeen: wipe.changes,
      turnsSeen: turns.changes,
      sent: wipe.sent + turns.sent,
    };
  } finally {
    await browser.close();
  }
}
