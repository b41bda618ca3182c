/** The start: from a starter, materials and models as things, and the guide of first steps. */
import path from 'node:path';
import { expect, test } from '@playwright/test';
import type { Locator, Page } from '@playwright/test';
import { addNode, card, newMaterial, signIn, strands, untilAwake, untilIdle } from './studio';

const toastOf = (page: Page, words: string | RegExp): Locator =>
  page.locator('[data-sonner-toast]').filter({ hasText: words }).first();
const thing = (page: Page, name: string): Locator =>
  page.getByRole('listitem').filter({ has: page.getByRole('link', { name, exact: false }) });
async function act(page: Page, name: string, item: string): Promise<void> {
  await page.getByRole('button', { name: `What to do with ${name}`, exact: true }).click();
  await page.getByRole('menuitem', { name: item }).click();
}

test('a material begins from a starter, is copied, named, archived, found and restored', async ({
  page,
}) => {
  await signIn(page, 'maren');
  const starters = page.getByRole('radiogroup', { name: 'What the new material begins from' });
  await expect(starters.getByRole('radio', { name: /Harbour set, coated/ })).toBeVisible();
  // Nothing, twelve that ship, and those on racks, of which other tests may keep more.
  expect(await starters.getByRole('radio').count()).toBeGreaterThanOrEqual(14);
  await starters.getByRole('radio', { name: /Bell bronze/ }).click();
  await expect(page.getByLabel('Model', { exact: true })).toContainText('Mooring bell');
  await page.getByLabel('Name of the new material').fill('Bell bronze');
  await expect(page.getByText('a material of that name already')).toBeVisible();
  await page.getByLabel('Name of the new material').fill('Ferry bell');
  await page.getByRole('button', { name: 'Create' }).click();
  await page.waitForURL(/\/materials\/[0-9a-f-]{36}$/);
  await expect(card(page, 'Verdigris')).toBeVisible();
  await expect(strands(page).first()).toBeVisible();

  await page.goto('/materials');
  await untilAwake(page);
  await act(page, 'Ferry bell', 'Duplicate');
  await expect(toastOf(page, 'Made “Ferry bell (copy)”')).toBeVisible();
  await act(page, 'Ferry bell (copy)', 'Rename');
  const name = page.getByLabel('New name of Ferry bell (copy)');
  await name.fill('Ferry bell');
  await name.press('Enter');
  await expect(toastOf(page, 'The project has a material “Ferry bell” already')).toBeVisible();
  await act(page, 'Ferry bell (copy)', 'Rename');
  await name.fill('Harbour bell');
  await name.press('Enter');
  await expect(page.getByRole('link', { name: 'Harbour bell' })).toBeVisible();

  await act(page, 'Harbour bell', 'Archive');
  await expect(page.getByRole('link', { name: 'Harbour bell' })).toHaveCount(0);
  const search = page.getByLabel('Search materials');
  await search.fill('harbour bell');
  await expect(page.getByText('No material is called or made on')).toBeVisible();
  await page.getByRole('button', { name: /^Archive/ }).click();
  await expect(page.getByRole('link', { name: 'Harbour bell' })).toBeVisible();
  await act(page, 'Harbour bell', 'Restore');
  await page.getByRole('button', { name: /^Archive/ }).click();
  await expect(thing(page, 'Harbour bell')).toBeVisible();
  await search.fill('mooring ferry bell');
  await expect(page.getByRole('link', { name: 'Ferry bell' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Painted tin' })).toHaveCount(0);
});

test('materials are put together in a set, whose address can be sent', async ({ page }) => {
  await signIn(page, 'maren');
  const rail = page.getByRole('navigation', { name: 'Projects and sets' });
  await rail.getByRole('button', { name: /Lantern ferry/ }).click();
  for (const name of ['Ferry bell', 'Harbour bell'])
    await page.getByRole('checkbox', { name: `Choose ${name}`, exact: true }).click();
  const chosen = page.getByRole('group', { name: 'Chosen materials' });
  await expect(chosen).toContainText('2 chosen');
  await chosen.getByRole('button', { name: 'Put into a set …' }).click();
  await page.getByRole('menuitem', { name: 'New set …' }).click();
  await page.getByLabel('Name of the new set').fill('Bells');
  await page.keyboard.press('Enter');
  await expect(toastOf(page, 'Made the set “Bells”')).toBeVisible();
  await rail.getByRole('button', { name: /^Bells/ }).click();
  const list = page.getByRole('region', { name: 'Bells' });
  await expect(list.getByRole('link')).toHaveCount(2);
  await page.reload();
  await untilAwake(page);
  await expect(list.getByRole('link')).toHaveCount(2);
  await page.getByRole('checkbox', { name: 'Choose Ferry bell', exact: true }).click();
  await page.getByRole('button', { name: 'Take out of this set' }).click();
  await expect(list.getByRole('link')).toHaveCount(1);
  await page.getByRole('button', { name: 'What to do with the set Bells' }).click();
  await page.getByRole('menuitem', { name: /Take apart/ }).click();
  await expect(toastOf(page, 'its materials stay')).toBeVisible();
  await expect(page.getByRole('link', { name: /Harbour bell/ })).toBeVisible();
  await expect(rail.getByRole('button', { name: /^Bells/ })).toHaveCount(0);
});

test('a starter whose model is archived begins on another, and says so', async ({ page }) => {
  await signIn(page, 'sefa');
  await page.goto('/models?model=demo-floats');
  await untilAwake(page);
  await page.getByRole('button', { name: 'Model …' }).click();
  await page.getByRole('menuitem', { name: 'Archive' }).click();
  await expect(toastOf(page, 'Archived “String of floats”')).toBeVisible();
  try {
    await page.goto('/materials');
    await untilAwake(page);
    const floats = page.getByRole('radio', { name: /Painted floats/ });
    await expect(floats).toHaveAttribute('title', /is gone; it begins on another/);
    await floats.click();
    await page.getByLabel('Name of the new material').fill('Floats elsewhere');
    await page.getByRole('button', { name: 'Create' }).click();
    await page.waitForURL(/\/materials\/[0-9a-f-]{36}$/);
    await expect(card(page, 'Painted float')).toBeVisible();
  } finally {
    await page.goto('/models?model=demo-floats');
    await untilAwake(page);
    await page.getByRole('button', { name: 'Model …' }).click();
    await page.getByRole('menuitem', { name: 'Restore' }).click();
    await expect(toastOf(page, 'is back')).toBeVisible();
  }
});

test('what is typed before the page runs is kept', async ({ page }) => {
  await signIn(page, 'tove');
  let goOn = (): void => undefined;
  const mayRun = new Promise<void>((resolve) => {
    goOn = resolve;
  });
  await page.route('**/_next/static/chunks/**', async (route) => {
    await mayRun;
    await route.continue();
  });
  await page.goto('/materials', { waitUntil: 'commit' });
  await page.getByLabel('Name of the new material').fill('Early bird');
  await page.getByLabel('Search materials').fill('stoneware');
  expect(await page.locator('html[data-awake]').count()).toBe(0);
  goOn();
  await untilAwake(page);
  await expect(page.getByRole('link', { name: 'Painted tin' })).toHaveCount(0);
  await expect(page.getByRole('link', { name: 'Glazed stoneware' })).toBeVisible();
  await expect(page.getByLabel('Search materials')).toHaveValue('stoneware');
  await page.getByRole('button', { name: 'Create' }).click();
  await page.waitForURL(/\/materials\/[0-9a-f-]{36}$/);
  await expect(page.getByText('Early bird').first()).toBeVisible();
});

test('a model’s file is replaced once it is seen what changes, and put back', async ({ page }) => {
  await signIn(page, 'tove');
  await page.goto('/models');
  await untilAwake(page);
  const models = path.resolve(import.meta.dirname, '../../assets/models');
  await page.getByLabel('Model file').setInputFiles(path.join(models, 'bell.glb'));
  await expect(page.getByText('bell was uploaded').or(page.getByText(/uploaded\./))).toBeVisible();
  await page.getByLabel('Name of the model').fill('Second bell');
  await page.getByLabel('Name of the model').press('Enter');
  await expect(toastOf(page, 'Renamed to “Second bell”')).toBeVisible();

  const newer = page.getByLabel('Newer file of Second bell');
  await newer.setInputFiles({ name: 'note.glb', mimeType: 'x', buffer: Buffer.from('no model') });
  await expect(page.getByTestId('problem')).toContainText('note.glb:');
  await page.getByRole('button', { name: 'Keep the present file' }).click();
  await newer.setInputFiles(path.join(models, 'quay.glb'));
  const changes = page.getByTestId('model-changes');
  await expect(changes).toContainText('Gone: the part', { timeout: 60_000 });
  await expect(changes).toContainText('Curvature');
  await page.getByRole('button', { name: 'Replace it for everyone' }).click();
  await expect(toastOf(page, 'has the file quay.glb now')).toBeVisible();
  await page.getByRole('button', { name: 'Model …' }).click();
  await page.getByRole('menuitem', { name: 'Put the former file back' }).click();
  await expect(toastOf(page, 'The former file is back')).toBeVisible();
});

test('the guide goes on by what is done, is left at any moment, and found again', async ({
  page,
}) => {
  await newMaterial(page, 'First weave');
  const guide = page.getByTestId('guide');
  await expect(guide).toContainText('1 of 6: Place a source');
  await addNode(page, 'fractal', 160, 120);
  await page.keyboard.press('Escape');
  await expect(guide).toContainText('2 of 6: Look at it alone');
  await untilIdle(page);
  await card(page, 'Fractal noise').getByRole('button', { name: /^Pin/ }).click();
  await expect(guide).toContainText('3 of 6: Shape it to a mask');
  await expect(page.getByTestId('pinned')).toContainText('Fractal noise');
  await guide.getByRole('button', { name: 'The step before' }).click();
  await expect(guide).toContainText('2 of 6');
  await guide.getByRole('button', { name: /Leave the guide/ }).click();
  await expect(guide).toHaveCount(0);
  await page.reload();
  await expect(card(page, 'Fractal noise')).toBeVisible();
  await expect(guide).toHaveCount(0);
  await page.getByRole('button', { name: 'Keys' }).click();
  await page.getByRole('button', { name: 'First weave: a guide of six steps' }).click();
  await expect(guide).toContainText('of 6');
});

test('text and controls grow together, and the choice stays', async ({ page }) => {
  await signIn(page, 'tove');
  const heading = page.getByText('New material from nothing');
  const heightOf = async (): Promise<number> => (await heading.boundingBox())?.height ?? 0;
  const before = await heightOf();
  await page.getByRole('button', { name: /Tove Lindqvist/ }).click();
  await page.getByRole('menuitemradio', { name: 'Large' }).click();
  await expect.poll(heightOf).toBeGreaterThan(before * 1.15);
  await page.getByRole('button', { name: /Tove Lindqvist/ }).click();
  await page.getByRole('menuitemradio', { name: 'Linen, light' }).click();
  // The page comes as it was chosen, before any of its code has run.
  expect(await (await page.request.get('/materials')).text()).toMatch(
    /<html[^>]*data-theme="linen"[^>]*data-density="large"/,
  );
  await page.reload();
  await expect(heading).toBeVisible();
  await expect.poll(heightOf).toBeGreaterThan(before * 1.15);
});
