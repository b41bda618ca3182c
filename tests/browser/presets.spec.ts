/** Ramps, palettes, variants and starters on racks, by hand; a group dragged from the library. */
import { expect, test } from '@playwright/test';
import type { Page } from '@playwright/test';
import { BEGUN } from './harbour-paint';
import { card, openStored, saved, signIn, untilIdle } from './studio';

/** Keeps something under a name on the rack of the project. */
async function keepOnFerry(page: Page, what: string, name: string): Promise<void> {
  await page.getByLabel(`Rack to keep ${what} on`).click();
  await page.getByRole('option', { name: 'Lantern ferry rack' }).click();
  const field = page.getByLabel(`Name to keep ${what} under`);
  await field.fill(name);
  await field.press('Enter');
}

test('what one keeps in the editor stands on its rack, and is taken from there', async ({
  page,
}) => {
  test.setTimeout(180_000);
  await signIn(page, 'tove');
  await openStored(page, { ...BEGUN, name: 'Kept things' }, 'demo-tile');
  await card(page, 'Ramp').click();
  await page.getByRole('button', { name: 'Presets …' }).click();
  const presets = page.getByRole('dialog', { name: 'Presets of ramps' });
  await presets.getByRole('button', { name: 'Lamp soot' }).click();
  await page.getByRole('button', { name: 'Presets …' }).click();
  await keepOnFerry(page, 'this ramp', 'Galley soot');
  await expect(page.getByText('Kept Galley soot on the Lantern ferry rack')).toBeVisible();
  await presets.getByText('Palettes', { exact: false }).click();
  await keepOnFerry(page, 'its colours', 'Galley colours');
  await expect(presets.getByRole('button', { name: 'Galley colours' })).toBeVisible();
  await presets.getByRole('button', { name: 'Harbour lights' }).click();
  const stops = page.getByTestId('ramp-bar').getByRole('button', { name: /^Stop at/ });
  await expect(stops).toHaveCount(5);

  // A group comes over from the library by the mouse, and its dials are kept as a variant.
  await page.getByRole('button', { name: 'Place' }).first().click();
  const found = page.getByRole('dialog').getByTestId('entry-Crackle');
  await found.dragTo(page.getByTestId('board'), { targetPosition: { x: 420, y: 260 } });
  await expect(card(page, 'Crackle')).toBeVisible();
  await page.keyboard.press('Escape');
  await card(page, 'Crackle').click();
  const variants = page.getByTestId('rack-variants');
  await variants.getByRole('button', { name: 'Apply Old dish' }).click();
  await keepOnFerry(page, 'these dials', 'Galley dish');
  await expect(variants.getByRole('button', { name: 'Apply Galley dish' })).toBeVisible();
  await untilIdle(page);
  await saved(page);

  await page.goto('/library');
  await page.getByRole('tab', { name: 'Ramps' }).click();
  await page.getByLabel('Search the ramps').fill('galley');
  await page.getByRole('button', { name: 'Arrange Galley soot' }).click();
  await page.getByLabel('Another rack').click();
  await page.getByRole('option', { name: 'My own rack' }).click();
  await page.getByRole('button', { name: 'Move it there' }).click();
  await expect(page.getByTestId('preset-Galley soot')).toContainText('My own rack');
  await page.getByRole('button', { name: 'Arrange Galley soot' }).click();
  await page.getByRole('button', { name: 'Forget it' }).click();
  await expect(page.getByText('No ramps have these words.')).toBeVisible();
  await page.getByRole('tab', { name: 'Variants' }).click();
  await expect(page.getByTestId('preset-Galley dish')).toContainText('Crackle');
});

test('a material is kept as a starter, and another begins from it', async ({ page }) => {
  await signIn(page, 'tove');
  await openStored(page, { ...BEGUN, name: 'Winter hull' }, 'demo-tile');
  await page.goto('/materials');
  await page.getByRole('link', { name: /Winter hull/ }).hover();
  await page.getByRole('button', { name: 'What to do with Winter hull' }).click();
  await page.getByRole('menuitem', { name: /Keep as a starter/ }).click();
  await keepOnFerry(page, 'this starter', 'Hulls in winter');
  await expect(page.getByText('Kept the starter Hulls in winter')).toBeVisible();
  await page.getByRole('radio', { name: /Hulls in winter/ }).click();
  await expect(page.getByLabel('Model')).toContainText('Tile');
  await page.getByLabel('Name of the new material').fill('Second hull');
  await page.getByRole('button', { name: 'Create' }).click();
  await page.waitForURL(/materials\/./);
  await untilIdle(page);
  await expect(card(page, 'Ramp')).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Second hull' })).toBeAttached();
});
