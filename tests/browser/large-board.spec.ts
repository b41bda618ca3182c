/** A board of hundreds of cards: framed, read, searched and found again, by hand. */
import type { Locator, Page } from '@playwright/test';
import type { NetworkDocument } from '@/core/graph/document';
import { documentOf, node } from '../support/networks';
import { card, expect, openStored, saved, signIn, test, untilIdle } from './studio';

const PAIRS = 140;
/** Noises, each through a smoothstep, in a grid; the last goes into a surface. */
function manyCards(): NetworkDocument {
  const pairs = Array.from({ length: PAIRS }, (_, k) => k);
  const at = (k: number, shift: number): readonly [number, number] => [
    (k % 20) * 360 + shift,
    Math.floor(k / 20) * 240,
  ];
  const nodes = [
    ...pairs.flatMap((k) => [
      { ...node(`n${String(k)}`, 'patterns.noise', { scale: 3 + k }), at: at(k, 0) },
      {
        ...node(`s${String(k)}`, 'ranges.smoothstep'),
        at: at(k, 180),
        ...(k === 77 ? { name: 'Lichen along the northern seams' } : {}),
      },
    ]),
    { ...node('end', 'surface.surface'), at: at(PAIRS, 0) },
  ];
  const document = documentOf(nodes, [
    ...pairs.map((k) => `n${String(k)}:value > s${String(k)}:value`),
    `s${String(PAIRS - 1)}:mask > end:roughness`,
    'end:surface > @out:surface',
  ]);
  const region = { id: 'r', title: 'All that grows', at: [-40, -80], size: [7400, 2000] } as const;
  return { ...document, network: { ...document.network, regions: [region] } };
}

const boardOf = (page: Page): Locator => page.getByTestId('board');
const cardsOf = (page: Page): Locator =>
  page.locator('[data-testid^="card-n"],[data-testid^="card-s"]');

/** How many of the cards that are drawn lie wholly on the board. */
const countInside = (page: Page): Promise<number> =>
  page.evaluate(() => {
    const board = document.querySelector('[data-testid="board"]')?.getBoundingClientRect();
    const boxes = [...document.querySelectorAll('[data-title]')].map((each) =>
      each.getBoundingClientRect(),
    );
    return boxes.filter(
      ({ left, right, top, bottom }) =>
        board &&
        left >= board.left &&
        right <= board.right &&
        top >= board.top &&
        bottom <= board.bottom,
    ).length;
  });

async function zoomIn(page: Page, at: Locator, steps: number): Promise<void> {
  const box = await at.boundingBox();
  if (!box) throw new Error('nothing to come closer to');
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  for (let k = 0; k < steps; k++) await page.mouse.wheel(0, -120);
}

test('a board of hundreds is framed whole on a busy machine, and read at every zoom', async ({
  page,
}) => {
  await signIn(page, 'tove');
  const session = await page.context().newCDPSession(page);
  await session.send('Emulation.setCPUThrottlingRate', { rate: 6 });
  await openStored(page, manyCards());
  await expect(cardsOf(page).first()).toBeVisible();
  await expect.poll(() => countInside(page)).toBe(2 * PAIRS + 1);
  await session.send('Emulation.setCPUThrottlingRate', { rate: 1 });
  await untilIdle(page);
  // Far out one picture shows them all, and the elements over it are to be chosen and moved.
  await expect(page.getByTestId('overview')).toBeVisible();
  await expect(cardsOf(page).locator('canvas')).toHaveCount(0);
  const title = page.getByLabel('Region title');
  expect((await title.boundingBox())?.height ?? 0).toBeGreaterThan(14);
  const lichen = card(page, 'Lichen along the northern seams');
  await lichen.click();
  await expect(lichen).toHaveClass(/card-chosen/);
  await zoomIn(page, lichen, 9);
  await expect(page.getByTestId('overview')).toHaveCount(0);
  // What is not in view is not drawn.
  expect(await cardsOf(page).count()).toBeLessThan(PAIRS);
  const name = lichen.locator('.card-name');
  const seen = await name.evaluate((element) => {
    const zoom = element.getBoundingClientRect().height / (element as HTMLElement).offsetHeight;
    return {
      name: zoom * parseFloat(getComputedStyle(element).fontSize),
      card: element.closest('[data-title]')?.getBoundingClientRect().width ?? 0,
    };
  });
  expect(seen.card).toBeGreaterThan(56);
  expect(seen.name).toBeGreaterThanOrEqual(10.9);
  await lichen.hover();
  expect(await name.evaluate((element) => element.scrollWidth <= element.clientWidth + 1)).toBe(
    true,
  );
  await untilIdle(page);
  await expect(lichen.locator('canvas')).toBeVisible();
});

test('cards are found by name, type and what they feed; places are gone back to and kept', async ({
  page,
}) => {
  await signIn(page, 'tove');
  await openStored(page, manyCards());
  await expect(cardsOf(page).first()).toBeVisible();
  await page.keyboard.press('Control+f');
  const find = page.getByTestId('find');
  await expect(find.getByPlaceholder('Find on this board')).toBeFocused();
  await page.keyboard.type('lichen');
  await expect(find.getByRole('status')).toHaveText('2 cards');
  await expect(find.getByRole('listbox').getByRole('option').nth(1)).toContainText(
    'by what it feeds',
  );
  await page.keyboard.press('Enter');
  const lichen = card(page, 'Lichen along the northern seams');
  await expect(lichen).toHaveClass(/card-chosen/);
  await expect(lichen).toBeInViewport({ ratio: 0.99 });
  await find.getByPlaceholder('Find on this board').fill('smoothstep');
  await find.getByLabel('Look at').selectOption('type');
  await expect(find.getByRole('status')).toContainText(`${String(PAIRS)} cards`);
  await find.getByRole('button', { name: 'Select all' }).click();
  await expect(find).toHaveCount(0);
  await expect(page.getByText(`${String(PAIRS)} nodes`, { exact: true })).toBeVisible();

  // Where one was before, and forward again.
  await page.keyboard.press('Home');
  await expect.poll(() => countInside(page)).toBe(2 * PAIRS + 1);
  await page.waitForTimeout(300);
  await page.keyboard.press('Alt+ArrowLeft');
  await page.waitForTimeout(300);
  await page.keyboard.press('Alt+ArrowLeft');
  await expect(page.getByTestId('overview')).toHaveCount(0);
  await expect(lichen).toBeInViewport({ ratio: 0.99 });
  await page.waitForTimeout(300);
  // A key pressed while the board still moves there is not one that goes on from there.
  await expect(async () => {
    await page.keyboard.press('Alt+ArrowRight');
    await expect(page.getByTestId('overview')).toBeVisible({ timeout: 3000 });
  }).toPass();

  // A selection as large as fits; the view is kept under a name, and is there after a reload.
  await lichen.click();
  await expect(page.getByTestId('bench')).toBeVisible();
  await page.waitForTimeout(800);
  await page.keyboard.press('Shift+Home');
  await expect.poll(async () => (await lichen.boundingBox())?.width ?? 0).toBeGreaterThan(150);
  const place = await lichen.boundingBox();
  await page.waitForTimeout(300);
  await page.getByRole('button', { name: 'View' }).click();
  await page.getByLabel('Name of the view').fill('Lichen');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Lichen', exact: true })).toBeVisible();
  await saved(page);
  await page.reload();
  await expect(page.getByTestId('overview')).toBeVisible();
  await page.getByRole('button', { name: 'View' }).click();
  await page.getByRole('button', { name: 'Lichen', exact: true }).click();
  await expect.poll(async () => (await lichen.boundingBox())?.width ?? 0).toBe(place?.width);
  const now = await lichen.boundingBox();
  expect(Math.hypot((now?.x ?? 0) - (place?.x ?? 0), (now?.y ?? 0) - (place?.y ?? 0))).toBeLessThan(
    2,
  );
});

test('parts of the window hide by keys; an empty bench leaves its place to the board', async ({
  page,
}) => {
  await signIn(page, 'maren');
  await page.goto('/materials/demo-painted-tin');
  await expect(card(page, 'Bare tin')).toBeVisible();
  const heightOf = async (of: Locator): Promise<number> => (await of.boundingBox())?.height ?? 0;
  const widthOf = async (of: Locator): Promise<number> => (await of.boundingBox())?.width ?? 0;
  const stage = page.getByTestId('stage');
  const tall = await heightOf(boardOf(page));
  expect(tall).toBeGreaterThan(680);
  await card(page, 'Bare tin').click();
  await expect(page.getByTestId('bench')).toBeVisible();
  expect(await heightOf(boardOf(page))).toBeLessThan(tall * 0.8);
  await expect(card(page, 'Bare tin')).toBeInViewport({ ratio: 0.99 });
  // The numbers of a colour are whole, and its swatch is as large as it is to be hit.
  const row = page.getByTestId('bench').locator('[data-input="baseColour"]');
  expect(await widthOf(row.locator('[data-colour]'))).toBeGreaterThan(24);
  for (const number of await row.locator('input').all())
    expect(await number.evaluate((field) => field.scrollWidth <= field.clientWidth)).toBe(true);
  await page.keyboard.press('Alt+3');
  await expect(page.getByTestId('bench')).toHaveCount(0);
  expect(await heightOf(boardOf(page))).toBeGreaterThan(tall);
  await page.keyboard.press('Alt+1');
  await expect(stage).toHaveCount(0);
  expect(await widthOf(boardOf(page))).toBeGreaterThan(1200);
  await page.keyboard.press('Alt+0');
  await expect(boardOf(page)).toHaveCount(0);
  expect(await widthOf(stage)).toBeGreaterThan(1270);
  await page.keyboard.press('Alt+0');
  await expect(page.getByTestId('bench')).toBeVisible();
  await expect(boardOf(page)).toBeVisible();
  // While it changes size, a picture is cropped and never stretched.
  const canvas = stage.locator('canvas');
  await expect(canvas).toHaveCSS('object-fit', 'cover');
});
