/** Hands on the board. */
import type { ElementHandle, Locator, Page } from '@playwright/test';
import { expect } from './fixtures';

export const card = (page: Page, title: string): Locator =>
  page.locator(`[data-testid^="card-"][data-title="${title}"]`);
export const port = (node: Locator, side: 'input' | 'output', title: string): Locator =>
  node.getByLabel(new RegExp(`, ${side} ${title}$`));
export const strands = (page: Page): Locator => page.locator('.react-flow__edge');

/** Types a word at a place of the board and takes the first thing found (or the one named). */
export async function addNode(
  page: Page,
  word: string,
  x: number,
  y: number,
  name?: string,
): Promise<void> {
  const board = page.getByTestId('board');
  const box = await board.boundingBox();
  if (!box) throw new Error('no board');
  await page.mouse.click(box.x + x, box.y + y);
  await page.mouse.move(box.x + x, box.y + y);
  await page.keyboard.type(word.slice(0, 1));
  await expect(page.getByPlaceholder('What should it do?')).toBeFocused();
  await page.keyboard.type(word.slice(1));
  if (name) await page.getByRole('option', { name }).first().click();
  else await page.keyboard.press('Enter');
  await expect(page.getByPlaceholder('What should it do?')).toHaveCount(0);
  // The new card is chosen, and the bench opens for it: the board is lower then.
  if (!['note', 'region'].includes(word)) await expect(page.getByTestId('bench')).toBeVisible();
}

interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Frames of the page in which things must not have moved to stand still. */
const STILL_FRAMES = 6;

const found = (handle: ElementHandle<Element> | null): ElementHandle<Element> => {
  if (!handle) throw new Error('nothing to look at');
  return handle;
};

/** Runs in the page. @returns null where something was drawn anew meanwhile */
async function readStill({
  elements,
  calmFrames,
}: {
  readonly elements: readonly Element[];
  readonly calmFrames: number;
}): Promise<Box[] | null> {
  const read = (): Box[] =>
    elements.map((each) => {
      const { x, y, width, height } = each.getBoundingClientRect();
      return { x, y, width, height };
    });
  let last = read();
  for (let calm = 0; calm < calmFrames;) {
    await new Promise(requestAnimationFrame);
    const now = read();
    calm = JSON.stringify(now) === JSON.stringify(last) ? calm + 1 : 0;
    last = now;
  }
  return elements.every((each) => each.isConnected) ? last : null;
}

/**
 * Where things are once all of them stand still: the board glides when it is laid out, and makes
 * room when the bench opens.
 */
export async function untilStill(page: Page, ...what: readonly Locator[]): Promise<Box[]> {
  for (;;) {
    const elements: ElementHandle<Element>[] = [];
    for (const each of what) elements.push(await each.elementHandle().then(found));
    const boxes = await page.evaluate(readStill, { elements, calmFrames: STILL_FRAMES });
    // What was drawn anew meanwhile is looked for again.
    if (boxes) return boxes;
  }
}

/** Drags once both ends stand still. */
export async function drag(page: Page, from: Locator, to: Locator): Promise<void> {
  const [a, b] = (await untilStill(page, from, to)) as [Box, Box];
  await page.mouse.move(a.x + a.width / 2, a.y + a.height / 2);
  await page.mouse.down();
  await page.mouse.move((a.x + b.x) / 2, (a.y + b.y) / 2, { steps: 4 });
  await page.mouse.move(b.x + b.width / 2, b.y + b.height / 2, { steps: 4 });
  // As a hand does: where the board made room meanwhile, it follows before it lets go.
  const now = (await to.boundingBox()) ?? b;
  await page.mouse.move(now.x + now.width / 2, now.y + now.height / 2);
  await page.mouse.up();
}

/** Lays the board out; it then shows all its cards. */
export async function tidy(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Tidy' }).click();
  await untilStill(page, page.getByTestId('selvedge-out'));
}

/** Opens the editor of a colour, types it, and closes it. */
export async function setColour(page: Page, label: string, hex: string): Promise<void> {
  await page.getByRole('button', { name: new RegExp(`^${label} #`) }).click();
  await page.getByLabel(`${label} hex`).fill(hex);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
}
