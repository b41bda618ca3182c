/** What travels: a material as text, a group as a file; and a project that is full. */
import { readFile } from 'node:fs/promises';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import type { Page } from '@playwright/test';
import { card, expect, openStart, saved, test, untilAwake, untilIdle } from './studio';

async function act(page: Page, name: string, item: RegExp): Promise<void> {
  await page.getByLabel('Search materials').fill(name);
  await page
    .getByRole('button', { name: `What to do with ${name}`, exact: true })
    .first()
    .click();
  await page.getByRole('menuitem', { name: item }).click();
}

test('a material is pasted as text, and a group of it goes out and in as a file', async ({
  page,
}) => {
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await openStart(page, 'tove');
  await act(page, 'Mooring bell, worn', /^Copy as text/);
  await expect(page.getByText('is on the clipboard as text')).toBeVisible();
  const pasted = page.getByRole('link', { name: /Mooring bell, worn/ });
  const before = await pasted.count();
  await page.locator('main').click({ position: { x: 5, y: 5 } });
  await page.keyboard.press('Control+v');
  await expect(page.getByText('Pasted “Mooring bell, worn”')).toBeVisible();
  await expect(pasted).toHaveCount(before + 1);
  await page.evaluate(() => navigator.clipboard.writeText('a shopping list'));
  await page.keyboard.press('Control+v');
  await expect(page.getByText('What is on the clipboard is no material.')).toBeVisible();

  await pasted.first().click();
  await page.waitForURL(/\/materials\/[0-9a-f-]{36}/);
  await untilIdle(page);
  await card(page, 'Worn edges').click();
  await page.getByRole('button', { name: 'Node …' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: /^Save as a file/ }).click();
  const buffer = await readFile(await (await download).path());
  await page.getByRole('button', { name: 'Place', exact: true }).click();
  const field = page.getByLabel('or place one from a file');
  const mimeType = 'application/zip';
  await field.setInputFiles({ name: 'none.zip', mimeType, buffer: Buffer.from('no zip') });
  await expect(page.getByText('This is not a zip file, or it is cut off.')).toBeVisible();
  await field.setInputFiles({ name: 'edges.zip', mimeType, buffer });
  await expect(page.getByText('Placed Worn edges')).toBeVisible();
  // It is brought into sight, chosen; the other one may be beyond the edge then.
  await page.getByTestId('board').focus();
  await page.keyboard.press('Home');
  await expect(card(page, 'Worn edges')).toHaveCount(2);
  await saved(page);
});

test('what a file lacks is said before it is brought in, and after', async ({ page }) => {
  await openStart(page, 'maren');
  const download = page.waitForEvent('download');
  await act(page, 'Tide line', /^Save as a file/);
  const parts = unzipSync(await readFile(await (await download).path()));
  const manifest = JSON.parse(strFromU8(parts['manifest.json'] ?? new Uint8Array())) as object;
  const lacking = {
    ...manifest,
    model: { name: 'Old quay', file: null, preparation: {} },
    images: [{ hash: 'ab'.repeat(32), file: null }],
  };
  const document = JSON.parse(strFromU8(parts['document.json'] ?? new Uint8Array())) as object;
  const buffer = Buffer.from(
    zipSync({
      'manifest.json': strToU8(JSON.stringify(lacking)),
      'document.json': strToU8(JSON.stringify({ ...document, name: 'Tide elsewhere' })),
    }),
  );
  const bring = async (): Promise<void> => {
    await page.getByRole('button', { name: 'Bring a file …' }).click();
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('menuitem', { name: 'Into Lantern ferry' }).click();
    await (await chooser).setFiles({ name: 'tide.zip', mimeType: 'application/zip', buffer });
    await expect(page.getByText('the model “Old quay”: it will stand on another')).toBeVisible();
    await expect(page.getByText(/the image abababababab…: it will be grey/)).toBeVisible();
  };
  await page.getByLabel('Search materials').fill('');
  await bring();
  await page.getByRole('button', { name: 'Leave it' }).click();
  await bring();
  await page.getByRole('button', { name: 'Bring it in all the same' }).click();
  await expect(page.getByText(/Brought in “Tide elsewhere”. Missing: the model/)).toBeVisible();
});

test('a full project says so before and keeps nothing; its page says who uses what', async ({
  page,
}) => {
  await openStart(page, 'sefa');
  await page.getByLabel('Search materials').fill('Sea glass');
  const download = page.waitForEvent('download');
  await act(page, 'Sea glass', /^Save as a file/);
  const buffer = await readFile(await (await download).path());
  const limit = async (megabytes: string): Promise<void> => {
    await page.goto('/storage');
    await page.getByRole('button', { name: /Night heron/ }).click();
    await page.getByLabel(/It may hold/).fill(megabytes);
    await page.getByRole('button', { name: 'Set the limit' }).click();
  };
  await limit('0.001');
  await expect(page.getByText('The limit is set.')).toBeVisible();
  await page.goto('/materials');
  await untilAwake(page);
  try {
    await page.getByRole('button', { name: 'Bring a file …' }).click();
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('menuitem', { name: 'Into Night heron' }).click();
    const file = { name: 'sea glass.zip', mimeType: 'application/zip', buffer };
    await (await chooser).setFiles(file);
    await expect(page.getByText(/The project Night heron holds at most/)).toBeVisible();
    await expect(page.getByText('Nothing was brought in.').first()).toBeVisible();
  } finally {
    await limit('');
    await expect(page.getByText('The project has no limit now.')).toBeVisible();
  }
  await page.getByRole('button', { name: /Lantern ferry/ }).click();
  const holds = page.getByRole('region', { name: 'What Lantern ferry holds' });
  await expect(holds.getByRole('row', { name: /Maren Holt/ }).first()).toBeVisible();
  await page.getByRole('button', { name: 'Put it in order now' }).click();
  await expect(page.getByText('It is being put in order')).toBeVisible();
  await page.goto('/work');
  await expect(page.getByText('Putting the studio in order').first()).toBeVisible();
});

test('what nothing uses is removed for ever; what is in use says by what', async ({ page }) => {
  await openStart(page, 'maren');
  await act(page, 'Bell bronze', /^Duplicate/);
  await expect(page.getByText('Made “Bell bronze (copy)”')).toBeVisible();
  const holds = page.getByRole('region', { name: 'What Lantern ferry holds' });
  const remove = async (): Promise<void> => {
    await page.goto('/storage');
    await holds.getByRole('button', { name: 'Remove Bell bronze (copy)', exact: true }).click();
    await page.keyboard.press('Enter');
  };
  await remove();
  await expect(page.getByText('It cannot be removed: it is not archived.')).toBeVisible();
  await page.goto('/materials');
  await untilAwake(page);
  await act(page, 'Bell bronze (copy)', /^Archive/);
  await remove();
  await expect(page.getByText('“Bell bronze (copy)” is removed.')).toBeVisible();
  await expect(holds.getByText('Bell bronze (copy)')).toHaveCount(0);
  await expect(holds.getByText('Bell bronze').first()).toBeVisible();
});
