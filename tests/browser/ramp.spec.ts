/** A ramp by hand: stops at one place, zoom, copies, presets, files, its line on the model. */
import { readFile } from 'node:fs/promises';
import type { Locator, Page } from '@playwright/test';
import { card, expect, openStored, signIn, test, untilIdle } from './studio';
import { BEGUN } from './support/harbour-paint';

const editor = (page: Page): Locator => page.getByTestId('ramp-editor');
const stops = (page: Page): Locator => editor(page).getByRole('button', { name: /^Stop at/ });
const choose = async (page: Page, item: string): Promise<void> => {
  await editor(page).getByRole('button', { name: 'Ramp …' }).click();
  await page.getByRole('menuitem', { name: item }).click();
};
async function dragBy(page: Page, stop: Locator, by: number): Promise<void> {
  const box = await stop.boundingBox();
  if (!box) throw new Error('no stop');
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + by, y, { steps: 5 });
}

test('stops at one place are both at hand, move together, and part on purpose', async ({
  page,
}) => {
  await signIn(page, 'tove');
  await openStored(page, BEGUN, 'demo-buoy');
  await card(page, 'Ramp').click();
  const position = editor(page).getByLabel('Stop position');
  await editor(page).getByRole('button', { name: 'Add a stop' }).click();
  await editor(page).getByRole('button', { name: 'Add a stop' }).click();
  const places = await stops(page).evaluateAll((all) =>
    all.map((each) => each.getAttribute('aria-label')),
  );
  expect(places).toHaveLength(4);
  await stops(page).nth(1).click();
  await position.fill('0.6');
  await position.press('Enter');
  await stops(page).nth(1).click();
  await position.fill('0.6');
  await position.press('Enter');
  const [first, second] = [
    editor(page).getByRole('button', { name: 'Stop at 0.60, 1 of 2 here' }),
    editor(page).getByRole('button', { name: 'Stop at 0.60, 2 of 2 here' }),
  ];
  // Both by mouse, both by keyboard.
  await first.click();
  await expect(first).toHaveAttribute('aria-pressed', 'true');
  await second.click();
  await expect(second).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('Shift+Tab');
  await expect(first).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('ArrowRight');
  await expect(stops(page).and(page.getByRole('button', { name: /0\.61, . of 2/ }))).toHaveCount(2);
  // A drag out of the window ends at the end of the ramp; Escape takes it back.
  const movedPair = editor(page).getByRole('button', { name: 'Stop at 0.61, 1 of 2 here' });
  await dragBy(page, movedPair, 5000);
  await expect(editor(page).getByRole('button', { name: /^Stop at 1\.00, . of 3/ })).toHaveCount(3);
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(editor(page).getByRole('button', { name: /^Stop at 0\.61, . of 2/ })).toHaveCount(2);
  await page.keyboard.down('Alt');
  await dragBy(page, movedPair, 60);
  await page.mouse.up();
  await page.keyboard.up('Alt');
  await expect(editor(page).getByRole('button', { name: 'Stop at 0.61', exact: true })).toHaveCount(
    1,
  );
  await expect(stops(page)).toHaveCount(4);
});

test('a ramp is looked at closely, copied, kept, and read from its strip', async ({ page }) => {
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page, 'tove');
  await openStored(page, BEGUN, 'demo-buoy');
  await card(page, 'Ramp').click();
  const axis = page.getByTestId('ramp-axis');
  const bar = page.getByTestId('ramp-bar');
  await expect(axis).toContainText('0.4');
  // The wheel alone changes nothing; with Ctrl it looks closer.
  const before = await axis.textContent();
  await bar.hover();
  await page.mouse.wheel(0, 200);
  expect(await axis.textContent()).toBe(before);
  // The bench may have scrolled under the pointer.
  await bar.hover();
  await page.keyboard.down('Control');
  await page.mouse.wheel(0, -600);
  await page.keyboard.up('Control');
  await expect(axis).not.toHaveText(before ?? '');
  await editor(page).getByRole('button', { name: 'Whole ramp' }).click();
  await expect(axis).toHaveText(before ?? '');

  await choose(page, 'Copy the stop');
  await choose(page, 'Paste');
  await expect(stops(page)).toHaveCount(3);
  await choose(page, 'Copy the ramp');
  const [written] = await Promise.all([
    page.waitForEvent('download'),
    choose(page, 'Save as a strip image'),
  ]);
  const strip = await readFile(await written.path());
  expect(strip.subarray(1, 4).toString()).toBe('PNG');

  await editor(page).getByRole('button', { name: 'Presets …' }).click();
  const presets = page.getByRole('dialog', { name: 'Presets of ramps' });
  const name = presets.getByLabel('Name to keep this ramp under');
  await name.fill('Hull grey');
  await presets.getByRole('button', { name: 'Keep' }).click();
  await expect(presets.getByRole('button', { name: 'Hull grey', exact: true })).toBeVisible();
  await name.fill('Hull grey');
  await expect(presets.getByRole('button', { name: 'Replace' })).toBeVisible();
  await presets.getByRole('button', { name: 'Lantern glow' }).click();
  await expect(stops(page)).toHaveCount(4);
  await choose(page, 'Paste');
  await expect(stops(page)).toHaveCount(3);

  await page.reload();
  await card(page, 'Ramp').click();
  await editor(page).getByRole('button', { name: 'Presets …' }).click();
  await presets.getByRole('button', { name: 'Lantern glow' }).click();
  await editor(page).getByRole('button', { name: 'Presets …' }).click();
  await presets.getByRole('button', { name: 'Hull grey', exact: true }).click();
  await expect(stops(page)).toHaveCount(3);
  await editor(page).getByRole('button', { name: 'Presets …' }).click();
  await presets.getByRole('button', { name: 'Forget Hull grey' }).click();
  await expect(presets.getByRole('button', { name: 'Hull grey', exact: true })).toHaveCount(0);
  await expect(presets.getByRole('button', { name: 'Lamp soot' })).toBeVisible();
  await page.keyboard.press('Escape');

  const file = page.getByLabel('Strip image of a ramp');
  await file.setInputFiles({ name: 'strip.png', mimeType: 'image/png', buffer: strip });
  await expect(page.getByText(/Read \d+ stops from strip.png/)).toBeVisible();
  await file.setInputFiles({ name: 'note.png', mimeType: 'image/png', buffer: Buffer.from('no') });
  await expect(page.getByText(/note\.png: /)).toBeVisible();
});

test('a dragged stop draws its line on the model, and the pointer reads the ramp', async ({
  page,
}) => {
  await signIn(page, 'tove');
  await openStored(page, BEGUN, 'demo-buoy');
  await card(page, 'Ramp').click();
  await untilIdle(page);
  const stage = page.getByTestId('stage');
  const box = await stage.boundingBox();
  if (!box) throw new Error('no stage');
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await expect(async () => {
    await page.mouse.move(box.x + box.width / 2 + Math.random() * 6, box.y + box.height / 2);
    await expect(page.getByTestId('ramp-reading')).toBeVisible({ timeout: 300 });
  }).toPass();
  await page.mouse.move(box.x + 4, box.y + box.height - 40);
  await expect(page.getByTestId('ramp-reading')).toHaveCount(0);

  await dragBy(page, stops(page).first(), 150);
  const line = page.getByTestId('level-line');
  await expect(line).toBeVisible();
  expect(Number(await line.getAttribute('data-pieces'))).toBeGreaterThan(10);
  await page.mouse.up();
  await expect(line).toHaveCount(0);
});
