/**
 * What is kept when answers are lost, people change places at one machine, and work is done in the
 * background.
 */
import type { Page } from '@playwright/test';
import {
  addNode,
  card,
  expect,
  isSave,
  newMaterial,
  saved,
  signIn,
  test,
  untilIdle,
} from './studio';

const saves = '**/api/materials/*';
const state = (page: Page) => page.getByTestId('save-state');

async function signOut(page: Page): Promise<void> {
  // A press before the page is awake is none.
  await expect(async () => {
    await page.getByRole('button', { name: /artist|author|librarian/ }).click();
    await page.getByRole('menuitem', { name: 'Sign out' }).click({ timeout: 1500 });
  }).toPass();
  await page.waitForURL('**/sign-in');
}

test(
  'an answer that is cut off, or lost after the server saved, neither ends the saving nor ' +
    'makes a clash',
  async ({ page }) => {
    await newMaterial(page, 'Cut off');
    let faults = 0;
    await page.route(saves, async (route) => {
      if (!isSave(route) || faults >= 2) return route.continue();
      faults++;
      // The server saves it both times; the first answer is cut off, the second never comes.
      await route.fetch();
      return faults === 1
        ? route.fulfill({ status: 200, contentType: 'application/json', body: '{"revision":' })
        : route.abort();
    });
    await addNode(page, 'noise', 200, 120);
    await expect(state(page)).toHaveText('Kept in this browser; the server is away');
    await addNode(page, 'slope', 320, 220);
    await saved(page);
    expect(faults).toBe(2);
    await expect(page.getByTestId('clash')).toHaveCount(0);
    await page.reload();
    await expect(card(page, 'Noise')).toBeVisible();
    await expect(card(page, 'Slope')).toBeVisible();
  },
);

test('unsaved work belongs to whoever made it, also where two people share a machine', async ({
  page,
  context,
}) => {
  await newMaterial(page, 'Shared machine');
  const url = page.url();
  await context.route(saves, (route) => (isSave(route) ? route.abort() : route.continue()));
  await addNode(page, 'cell', 200, 120);
  await expect(state(page)).toHaveText('Kept in this browser; the server is away');
  page.on('dialog', (dialog) => void dialog.accept());
  await page.goto('/materials');
  await signOut(page);
  await context.unroute(saves);
  await signIn(page, 'maren');
  await page.goto(url);
  await untilIdle(page);
  await expect(card(page, 'Cell noise')).toHaveCount(0);
  await page.goto('/materials');
  await signOut(page);
  await signIn(page, 'tove');
  await page.goto(url);
  await expect(page.getByText('Unsaved work of this browser was restored.')).toBeVisible();
  await expect(card(page, 'Cell noise')).toBeVisible();
  await saved(page);
});

test(
  'the page Work shows what is done in the background, as it happens, and a librarian sees ' +
    'everybody’s',
  async ({ page, other }) => {
    await newMaterial(page, 'Watched');
    await signIn(other, 'sefa');
    await other.goto('/work');
    await expect(other.getByText('Picture of Watched')).toHaveCount(0);
    await other.getByLabel('Everybody’s').check();
    const row = other.getByTestId('job').filter({ hasText: 'Picture of Watched' });
    await expect(row).toHaveAttribute('data-state', 'done');
    await expect(row).toContainText('Tove Lindqvist');
    // Another save, another picture: the row comes by itself, without a reload.
    await addNode(page, 'noise', 200, 120);
    await saved(page);
    await page.getByLabel('Name of the material').fill('Watched again');
    await page.getByLabel('Name of the material').press('Enter');
    await saved(page);
    await expect(
      other.getByTestId('job').filter({ hasText: 'Picture of Watched again' }),
    ).toHaveAttribute('data-state', 'done');
    await page.goto('/work');
    await expect(
      page.getByTestId('job').filter({ hasText: 'Picture of Watched again' }),
    ).toBeVisible();
    await expect(page.getByLabel('Everybody’s')).toHaveCount(0);
  },
);
