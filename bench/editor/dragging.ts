/**
 * What one step of a dragged value costs the page's own thread in a large network, what React draws
 * for it, and what the page holds in memory after long work. Needs the application.
 */
import type {} from '@/features/stage/test-hooks';
import { groupSelection } from '@/core/edit/group';
import type { NetworkDocument } from '@/core/graph/document';
import type { CDPSession, Page } from '@playwright/test';
import { openOurs } from './board';
import { openStudio, untilIdle } from '../studio/own-studio';

export interface DragFigures {
  readonly nodes: number;
  /** Milliseconds of script per step, and of all work of the page's thread. */
  readonly script: number;
  readonly task: number;
  /** Names of what React drew for a step, and how often, over all steps. */
  readonly drawn: Readonly<Record<string, number>>;
  readonly steps: number;
}
export interface MemoryFigures {
  readonly nodes: number;
  /** Bytes of the page's heap: when opened, after some acts, and after many more. */
  readonly opened: number;
  readonly afterSome: number;
  readonly afterMany: number;
}

/** Counts what React draws, as its developer tools do: of each commit, what is not as before. */
const COUNT_DRAWN = `(() => {
  const drawn = {};
  const nameOf = ({ type }) =>
    typeof type === 'function' ? type.name : type && type.type ? type.type.name : '';
  const walk = (fiber) => {
    const before = fiber.alternate;
    if (before && (fiber.flags & 1) && [0, 11, 14, 15].includes(fiber.tag)) {
      const name = nameOf(fiber) || 'unnamed';
      drawn[name] = (drawn[name] || 0) + 1;
    }
    if (before && before.child === fiber.child) return;
    for (let child = fiber.child; child; child = child.sibling) walk(child);
  };
  window.drawnComponents = drawn;
  window.__REACT_DEVTOOLS_GLOBAL_HOOK__ = {
    supportsFiber: true, renderers: new Map(), inject: () => 1, checkDCE: () => {},
    onCommitFiberUnmount: () => {}, onPostCommitFiberRoot: () => {},
    onCommitFiberRoot: (_, root) => { walk(root.current); },
  };
})();`;

async function metricsOf(session: CDPSession): Promise<{ script: number; task: number }> {
  const { metrics } = await session.send('Performance.getMetrics');
  const read = (name: string): number =>
    (metrics.find((each) => each.name === name)?.value ?? 0) * 1000;
  return { script: read('ScriptDuration'), task: read('TaskDuration') };
}

/** Goes to the first card found by a name, as near as it takes to see it. */
async function goToCard(page: Page, name: string): Promise<void> {
  await page.keyboard.press('Control+f');
  await page.keyboard.type(name);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
}

/** Chooses the card of a fractal noise and finds its slider. */
async function chooseValue(page: Page): Promise<{ x: number; y: number; width: number }> {
  await goToCard(page, 'fractal');
  const slider = page.getByTestId('bench').getByRole('slider').first();
  await slider.waitFor();
  const track = slider.locator('xpath=..');
  const box = await track.boundingBox();
  if (!box) throw new Error('there is no slider');
  return { x: box.x, y: box.y + box.height / 2, width: box.width };
}

/** @param steps how often the pointer moves while the value is dragged */
export async function measureDrag(nodes: number, steps = 60): Promise<DragFigures> {
  const studio = await openStudio();
  const { page, browser } = studio;
  try {
    await page.addInitScript(COUNT_DRAWN);
    await openOurs(studio, nodes);
    const { x, y, width } = await chooseValue(page);
    await untilIdle(page);
    const session = await page.context().newCDPSession(page);
    await session.send('Performance.enable');
    await page.mouse.move(x + width * 0.3, y);
    await page.mouse.down();
    for (let k = 0; k < 5; k++) await page.mouse.move(x + width * (0.3 + 0.01 * k), y);
    await untilIdle(page);
    await page.evaluate(() => {
      const { drawnComponents } = window as unknown as { drawnComponents: object };
      for (const name of Object.keys(drawnComponents))
        Reflect.deleteProperty(drawnComponents, name);
    });
    const before = await metricsOf(session);
    for (let k = 0; k < steps; k++) {
      await page.mouse.move(x + width * (0.35 + (0.4 * k) / steps), y);
      await page.waitForTimeout(50);
    }
    const after = await metricsOf(session);
    const drawn = await page.evaluate(
      () => (window as unknown as { drawnComponents: Record<string, number> }).drawnComponents,
    );
    await page.mouse.up();
    return {
      nodes,
      script: (after.script - before.script) / steps,
      task: (after.task - before.task) / steps,
      drawn,
      steps,
    };
  } finally {
    await browser.close();
  }
}

async function heap(session: CDPSession): Promise<number> {
  await session.send('HeapProfiler.collectGarbage');
  const { usedSize } = await session.send('Runtime.getHeapUsage');
  return usedSize;
}

const GROUP = 'Speckles';
/** Packages two nodes of the first copy, so that there is a group to open. */
const withGroup = (document: NetworkDocument): NetworkDocument =>
  groupSelection(document, {
    board: null,
    ids: ['cells-0', 'spots-0'],
    name: GROUP,
    path: [],
  }).document;

/** Opens the group and leaves it again. */
async function visitGroup(page: Page): Promise<void> {
  await goToCard(page, GROUP);
  await page.getByTestId('board').focus();
  await page.keyboard.press('Enter');
  await page.getByRole('navigation', { name: 'Opened groups' }).waitFor();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await chooseValue(page);
}

/** Edits, undoes, pins and opens a group, so many times, by keys and clicks. */
async function workOn(page: Page, acts: number): Promise<void> {
  const slider = page.getByTestId('bench').getByRole('slider').first();
  const pin = page.locator('.card-chosen').getByRole('button').first();
  for (let k = 0; k < acts; k++) {
    if (k % 50 === 49) await visitGroup(page);
    else if (k % 20 === 19) await pin.click();
    else if (k % 5 === 4) {
      await page.getByTestId('board').focus();
      await page.keyboard.press('Control+z');
    } else {
      await slider.focus();
      await page.keyboard.press(k % 2 ? 'ArrowRight' : 'ArrowLeft');
    }
  }
}

export async function measureMemory(
  nodes: number,
  acts: { readonly some: number; readonly many: number },
): Promise<MemoryFigures> {
  const studio = await openStudio();
  const { page, browser } = studio;
  try {
    await openOurs(studio, nodes, withGroup);
    const session = await page.context().newCDPSession(page);
    await session.send('HeapProfiler.enable');
    const opened = await heap(session);
    await chooseValue(page);
    await workOn(page, acts.some);
    await untilIdle(page);
    const afterSome = await heap(session);
    await workOn(page, acts.many - acts.some);
    await untilIdle(page);
    return { nodes, opened, afterSome, afterMany: await heap(session) };
  } finally {
    await browser.close();
  }
}
