/** The start: from a starter, materials and models as things, and the guide of first steps. */
import path from 'node:path';
import type { Locator, Page } from '@playwright/test';
import { emptyDocument } from '@/core/graph/document';
import { BEGUN } from './support/harbour-paint';
import {
  addNode,
  card,
  expect,
  keepOnFerry,
  newMaterial,
  openStart,
  openStored,
  signIn,
  storeModel,
  strands,
  test,
  unique,
  untilAwake,
  untilIdle,
} from './studio';

const toastOf = (page: Page, words: string | RegExp): Locator =>
  page.locator('[data-sonner-toast]').filter({ hasText: words }).first();
const thing = (page: Page, name: string): Locator =>
  page.getByRole('listitem').filter({ has: page.getByRole('link', { name, exact: false }) });
async function act(page: Page, name: string, item: string | RegExp): Promise<void> {
  await page.getByRole('button', { name: `What to do with ${name}`, exact: true }).click();
  await page.getByRole('menuitem', { name: item }).click();
}

test('a material begins from a starter, is copied, named, archived, found and restored', async ({
  page,
}) => {
  const [ferry, harbour] = [unique('Ferry bell'), unique('Harbour bell')];
  await openStart(page, 'maren');
  const starters = page.getByRole('radiogroup', { name: 'What the new material begins from' });
  await expect(starters.getByRole('radio', { name: /Harbour set, coated/ })).toBeVisible();
  // Nothing, twelve that ship, and those on racks, of which other tests may keep more.
  expect(await starters.getByRole('radio').count()).toBeGreaterThanOrEqual(14);
  await starters.getByRole('radio', { name: /Bell bronze/ }).click();
  await expect(page.getByLabel('Model', { exact: true })).toContainText('Mooring bell');
  await page.getByLabel('Name of the new material').fill('Bell bronze');
  await expect(page.getByText('a material of that name already')).toBeVisible();
  await page.getByLabel('Name of the new material').fill(ferry);
  await page.getByRole('button', { name: 'Create' }).click();
  await page.waitForURL(/\/materials\/[0-9a-f-]{36}$/);
  await expect(card(page, 'Verdigris')).toBeVisible();
  await expect(strands(page).first()).toBeVisible();

  await page.goto('/materials');
  await untilAwake(page);
  await act(page, ferry, 'Duplicate');
  await expect(toastOf(page, `Made “${ferry} (copy)”`)).toBeVisible();
  await act(page, `${ferry} (copy)`, 'Rename');
  const name = page.getByLabel(`New name of ${ferry} (copy)`);
  await name.fill(ferry);
  await name.press('Enter');
  await expect(toastOf(page, `The project has a material “${ferry}” already`)).toBeVisible();
  await act(page, `${ferry} (copy)`, 'Rename');
  await name.fill(harbour);
  await name.press('Enter');
  await expect(page.getByRole('link', { name: harbour })).toBeVisible();

  await act(page, harbour, 'Archive');
  await expect(page.getByRole('link', { name: harbour })).toHaveCount(0);
  const search = page.getByLabel('Search materials');
  await search.fill(harbour.toLowerCase());
  await expect(page.getByText('No material is called or made on')).toBeVisible();
  await page.getByRole('button', { name: /^Archive/ }).click();
  await expect(page.getByRole('link', { name: harbour })).toBeVisible();
  await act(page, harbour, 'Restore');
  await page.getByRole('button', { name: /^Archive/ }).click();
  await expect(thing(page, harbour)).toBeVisible();
  await search.fill(`mooring ${ferry.toLowerCase()}`);
  await expect(page.getByRole('link', { name: ferry })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Painted tin' })).toHaveCount(0);
});

test('materials are put together in a set, whose address can be sent', async ({ page }) => {
  await signIn(page, 'maren');
  const [one, two, set] = [unique('Ferry bell'), unique('Harbour bell'), unique('Bells')];
  for (const name of [one, two]) await openStored(page, emptyDocument(name));
  await openStart(page, 'maren');
  const rail = page.getByRole('navigation', { name: 'Projects and sets' });
  await rail.getByRole('button', { name: /Lantern ferry/ }).click();
  for (const name of [one, two])
    await page.getByRole('checkbox', { name: `Choose ${name}`, exact: true }).click();
  const chosen = page.getByRole('group', { name: 'Chosen materials' });
  await expect(chosen).toContainText('2 chosen');
  await chosen.getByRole('button', { name: 'Put into a set …' }).click();
  await page.getByRole('menuitem', { name: 'New set …' }).click();
  await page.getByLabel('Name of the new set').fill(set);
  await page.keyboard.press('Enter');
  await expect(toastOf(page, `Made the set “${set}”`)).toBeVisible();
  await rail.getByRole('button', { name: new RegExp(`^${set}`) }).click();
  const list = page.getByRole('region', { name: set });
  await expect(list.getByRole('link')).toHaveCount(2);
  await page.reload();
  await untilAwake(page);
  await expect(list.getByRole('link')).toHaveCount(2);
  await page.getByRole('checkbox', { name: `Choose ${one}`, exact: true }).click();
  await page.getByRole('button', { name: 'Take out of this set' }).click();
  await expect(list.getByRole('link')).toHaveCount(1);
  await page.getByRole('button', { name: `What to do with the set ${set}` }).click();
  await page.getByRole('menuitem', { name: /Take apart/ }).click();
  await expect(toastOf(page, 'its materials stay')).toBeVisible();
  await expect(page.getByRole('link', { name: two })).toBeVisible();
  await expect(rail.getByRole('button', { name: set })).toHaveCount(0);
});

test('a starter whose model is archived begins on another, and says so', async ({ page }) => {
  await signIn(page, 'tove');
  const [bell, starter] = [unique('Cracked bell'), unique('Cracked paint')];
  const modelId = await storeModel(page, 'bell.glb', bell);
  const material = unique('Paint that cracks');
  await openStored(page, { ...BEGUN, name: material }, modelId);
  await openStart(page, 'tove');
  await act(page, material, /Keep as a starter/);
  await keepOnFerry(page, 'this starter', starter);
  await expect(toastOf(page, `Kept the starter ${starter}`)).toBeVisible();

  await page.goto(`/models?model=${modelId}`);
  await untilAwake(page);
  await page.getByRole('button', { name: 'Model …' }).click();
  await page.getByRole('menuitem', { name: 'Archive' }).click();
  await expect(toastOf(page, `Archived “${bell}”`)).toBeVisible();
  await page.goto('/materials');
  await untilAwake(page);
  const kept = page.getByRole('radio', { name: starter });
  await expect(kept).toHaveAttribute('title', /is gone; it begins on another/);
  await kept.click();
  await page.getByLabel('Name of the new material').fill(unique('Begun elsewhere'));
  await page.getByRole('button', { name: 'Create' }).click();
  await page.waitForURL(/\/materials\/[0-9a-f-]{36}$/);
  await expect(card(page, 'Ramp')).toBeVisible();
});

test('what is typed before the page runs is kept', async ({ page }) => {
  const early = unique('Early bird');
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
  await page.getByLabel('Name of the new material').fill(early);
  await page.getByLabel('Search materials').fill('stoneware');
  expect(await page.locator('html[data-awake]').count()).toBe(0);
  goOn();
  await untilAwake(page);
  await expect(page.getByRole('link', { name: 'Painted tin' })).toHaveCount(0);
  await expect(page.getByRole('link', { name: 'Glazed stoneware' })).toBeVisible();
  await expect(page.getByLabel('Search materials')).toHaveValue('stoneware');
  await page.getByRole('button', { name: 'Create' }).click();
  await page.waitForURL(/\/materials\/[0-9a-f-]{36}$/);
  await expect(page.getByText(early).first()).toBeVisible();
});

test('a model’s file is replaced once it is seen what changes, and put back', async ({ page }) => {
  const bell = unique('Second bell');
  await signIn(page, 'tove');
  await page.goto('/models');
  await untilAwake(page);
  const models = path.resolve(import.meta.dirname, '../../assets/models');
  await page.getByLabel('Model file').setInputFiles(path.join(models, 'bell.glb'));
  await expect(page.getByText('bell was uploaded').or(page.getByText(/uploaded\./))).toBeVisible();
  await page.getByLabel('Name of the model').fill(bell);
  await page.getByLabel('Name of the model').press('Enter');
  await expect(toastOf(page, `Renamed to “${bell}”`)).toBeVisible();

  const newer = page.getByLabel(`Newer file of ${bell}`);
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
  await openStart(page, 'tove');
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
