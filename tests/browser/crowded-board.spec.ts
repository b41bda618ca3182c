/** A board of very many cards, seen from afar: only those at hand are elements. */
import type { Page } from '@playwright/test';
import { documentOf, node } from '../support/networks';
import { expect, openStored, saved, signIn, test } from './studio';

const COLUMNS = 40;
const CARDS = 720;
const [ACROSS, DOWN] = [190, 230];
const WIDE = 132;
const idOf = (k: number): string => `c${String(k)}`;
const placeOf = (k: number) => [(k % COLUMNS) * ACROSS, Math.floor(k / COLUMNS) * DOWN] as const;

/** A place of the board on the screen. */
async function onScreen(page: Page, [x, y]: readonly [number, number]) {
  const { left, top, matrix } = await page.evaluate(() => {
    const view = document.querySelector('.react-flow__viewport');
    const box = document.querySelector('.react-flow')?.getBoundingClientRect();
    const { a, e, f } = new DOMMatrix(view ? getComputedStyle(view).transform : '');
    return { left: box?.left ?? 0, top: box?.top ?? 0, matrix: { a, e, f } };
  });
  return [left + matrix.e + x * matrix.a, top + matrix.f + y * matrix.a] as const;
}
/** Waits until the board stands still: it gives way as the bench opens. */
async function untilStill(page: Page): Promise<void> {
  let last = '';
  await expect(async () => {
    const now = String(await onScreen(page, [0, 0]));
    const isStill = now === last;
    last = now;
    expect(isStill).toBe(true);
  }).toPass({ intervals: [300] });
}
const middleOf = (page: Page, k: number) => {
  const [x, y] = placeOf(k);
  return onScreen(page, [x + WIDE / 2, y + 60]);
};

test('cards are chosen one by one and by boxes, and moved together', async ({ page }) => {
  await signIn(page, 'maren');
  const nodes = Array.from({ length: CARDS }, (_, k) => ({
    ...node(idOf(k), 'constants.number', { value: k / CARDS }),
    at: placeOf(k),
  }));
  const id = await openStored(page, { ...documentOf(nodes), name: 'Many numbers' });
  await expect(page.getByTestId('overview')).toBeVisible();
  const elements = page.locator('[data-testid^="card-"]');
  await expect(elements).toHaveCount(0);

  // The one under the pointer is there to be pressed.
  await page.mouse.move(...(await middleOf(page, 123)));
  await expect(page.getByTestId(`card-${idOf(123)}`)).toBeVisible();
  await page.mouse.click(...(await middleOf(page, 123)));
  await expect(page.getByTestId('bench').getByLabel('Value, number')).toHaveValue('0.170833');
  await expect(page.locator('.card-chosen')).toHaveCount(1);

  await untilStill(page);
  // A box from between the cards, around six of them.
  const gap = (ACROSS - WIDE) / 2;
  const [x, y] = placeOf(162);
  const from = await onScreen(page, [x - gap, y - 25]);
  const to = await onScreen(page, [x + 2 * ACROSS + WIDE + gap, y + 2 * DOWN - 15]);
  await page.mouse.move(...from);
  await page.mouse.down();
  await page.mouse.move((from[0] + to[0]) / 2, (from[1] + to[1]) / 2, { steps: 4 });
  await page.mouse.move(...to, { steps: 4 });
  await page.mouse.up();
  const chosen = [162, 163, 164, 202, 203, 204];
  await expect(page.locator('.card-chosen')).toHaveCount(chosen.length);
  for (const k of chosen) await expect(page.getByTestId(`card-${idOf(k)}`)).toHaveClass(/chosen/);

  // All that are chosen go with the one that is dragged, elements or not.
  await page.keyboard.press('Control+a');
  const start = await middleOf(page, 203);
  await page.mouse.move(...start);
  await page.mouse.down();
  await page.mouse.move(start[0] + 6, start[1] + 6, { steps: 3 });
  await page.mouse.move(start[0] + 30, start[1] + 20, { steps: 3 });
  await page.mouse.up();
  await saved(page);
  const answer = await page.request.get(`/api/materials/${id}`);
  const { document } = (await answer.json()) as {
    document: { network: { nodes: { id: string; at: [number, number] }[] } };
  };
  const moved = document.network.nodes.map(({ at }, k) => [
    Math.round(at[0] - placeOf(k)[0]),
    Math.round(at[1] - placeOf(k)[1]),
  ]);
  expect(moved[0]?.[0]).toBeGreaterThan(20);
  expect(moved.every((by) => String(by) === String(moved[0]))).toBe(true);
});
