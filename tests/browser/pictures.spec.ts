/**
 * The README's pictures, recomputed from the demo data by `npm run pictures`; a plain run of the
 * tests makes none, and leaves the tree clean.
 */
import type { Page } from '@playwright/test';
import { openPackaged } from './support/harbour-paint';
import { card, expect, openStart, signIn, test, untilIdle } from './studio';

const picture = (page: Page, name: string): Promise<Buffer> =>
  page.screenshot({ path: `docs/screenshots/${name}.png` });

/** Waits until the page shows a picture wherever it has one, those that are drawn by jobs, too. */
const shown = (page: Page): Promise<void> =>
  expect(async () => {
    await page.reload();
    await page.waitForLoadState('networkidle');
    await expect(page.getByText('no picture yet')).toHaveCount(0, { timeout: 1000 });
    const images = page.locator('img:visible');
    await expect
      .poll(() =>
        images.evaluateAll((all) =>
          all.every((each) => each instanceof HTMLImageElement && each.naturalWidth > 0),
        ),
      )
      .toBe(true);
  }).toPass({ timeout: 120_000 });

test('start, editor, baking', { tag: '@whole-stage' }, async ({ page }) => {
  await openStart(page, 'maren');
  await shown(page);
  await picture(page, 'start');
  await page.goto('/materials/demo-painted-tin');
  await untilIdle(page);
  await card(page, 'Old red').click();
  await expect(page.getByTestId('ramp-histogram')).toBeVisible();
  await untilIdle(page);
  await picture(page, 'editor');
  await page.getByRole('button', { name: 'Bake' }).click();
  await page.getByRole('button', { name: 'Bake', exact: true }).last().click();
  await expect(page.getByTestId('bake-message')).toBeVisible({ timeout: 150_000 });
  await picture(page, 'bake');
});

test('states, figures, what makes a point', { tag: '@whole-stage' }, async ({ page }) => {
  await signIn(page, 'maren');
  await page.goto('/materials/demo-painted-tin');
  await untilIdle(page);
  await page.getByRole('button', { name: 'States', exact: true }).click();
  await page.getByTestId('states').getByLabel('Name').fill('As approved');
  await page.getByRole('button', { name: 'Keep this state' }).click();
  const tile = page.locator('[data-state="As approved"]');
  await expect(tile.getByRole('img')).toBeVisible({ timeout: 60_000 });
  await tile.getByRole('button', { name: /as A$/ }).click();
  await card(page, 'Chips').click();
  await page.getByLabel('Edge, number').fill('0.55');
  await page.getByLabel('Edge, number').press('Enter');
  await card(page, 'Old red').click();
  await expect(page.getByTestId('changes')).toContainText('100 %', { timeout: 60_000 });
  await untilIdle(page);
  await picture(page, 'states');
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  await card(page, 'Chips').click();
  await page.getByRole('button', { name: 'Node …' }).click();
  await page.getByRole('menuitem', { name: /^Figures and plots/ }).click();
  await expect(page.getByTestId('transfer').locator('svg').first()).toBeVisible();
  await untilIdle(page);
  await picture(page, 'figures');
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  await untilIdle(page);
  const box = await page.getByTestId('stage').boundingBox();
  await page.keyboard.down('Alt');
  await page.mouse.click(
    (box?.x ?? 0) + (box?.width ?? 0) / 2,
    (box?.y ?? 0) + (box?.height ?? 0) / 2,
  );
  await page.keyboard.up('Alt');
  await expect(page.getByTestId('explained')).toBeVisible();
  await page.locator('.react-flow__pane').click({ position: { x: 20, y: 20 } });
  await card(page, 'Chips').click();
  await page.keyboard.press('Shift+Home');
  await expect(page.locator('[data-testid^="passes-"]').first()).toBeVisible({ timeout: 30_000 });
  await untilIdle(page);
  await picture(page, 'explain');
});

test('people and rules', { tag: '@whole-stage' }, async ({ page }) => {
  await signIn(page, 'sefa');
  await page.goto('/people');
  await expect(page.getByTestId('rules')).toBeVisible();
  await page.getByLabel('Names on shared racks keep a rule').click();
  await page.getByLabel('Try a name').fill('salt_crust');
  await picture(page, 'people');
  await page.goto('/storage');
  await expect(page.getByRole('region', { name: /^What .* holds/ })).toBeVisible();
  await page.waitForTimeout(1000);
  await picture(page, 'storage');
});

test('inside a group', { tag: '@whole-stage' }, async ({ page }) => {
  await signIn(page, 'maren');
  await openPackaged(page, 'Chipped paint');
  await card(page, 'Chipped paint').dblclick();
  await expect(page.getByTestId('proof')).toContainText('identical', { timeout: 60_000 });
  await untilIdle(page);
  await picture(page, 'group-editor');
});

test('a library entry, a model, the work', { tag: '@whole-stage' }, async ({ page }) => {
  await signIn(page, 'maren');
  await page.goto('/library');
  await shown(page);
  await expect(page.getByTestId('facets')).toContainText('camera');
  await picture(page, 'library');
  await page.getByTestId('entry-Worn edges').getByRole('link', { name: 'Worn edges' }).click();
  await untilIdle(page);
  await picture(page, 'library-entry');
  await page.goto('/models?model=demo-buoy');
  await expect(page.getByTestId('model-status')).toHaveText('', { timeout: 120_000 });
  await picture(page, 'models');
  await page.getByRole('link', { name: 'Work' }).click();
  await expect(page.getByRole('heading', { name: 'Work' })).toBeVisible();
  await expect(page.getByText('Looking …')).toBeHidden();
  await picture(page, 'work');
});

test('several models at once', { tag: '@whole-stage' }, async ({ page }) => {
  await openStart(page, 'tove');
  await page.getByRole('link', { name: 'Bollard, worn and salted' }).click();
  await untilIdle(page);
  await page.getByRole('button', { name: 'Models on the stage', exact: true }).click();
  const panel = page.getByRole('region', { name: 'Models on the stage' });
  for (const model of ['Study form', 'Mooring bell']) {
    await panel.getByLabel('Put a model beside it').click();
    await page.getByRole('option', { name: model }).click();
  }
  await panel.getByLabel('Network on Mooring bell').click();
  await page.getByPlaceholder('Name, model, person, project').fill('mooring bell');
  await page
    .getByRole('option', { name: /Mooring bell, worn/ })
    .first()
    .click();
  await untilIdle(page);
  await page.getByRole('button', { name: 'Frame the model' }).click();
  await untilIdle(page);
  await picture(page, 'companions');
});
