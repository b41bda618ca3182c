import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { plantedDocument } from '../support/planted-faults';
import { expect, openStart, openStored, signIn, test, untilIdle } from './studio';

const DIALOG = '[role=dialog]';
const RULES = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];
/**
 * What the rules of WCAG 2.2 A and AA and the best practices find on the page as it is, or in the
 * part of it that came last: the rest was looked at before.
 */
async function violations(page: Page, part = 'html'): Promise<readonly string[]> {
  const { violations: found } = await new AxeBuilder({ page })
    .include(part)
    .options({ runOnly: { type: 'tag', values: RULES }, resultTypes: ['violations'] })
    .analyze();
  return found.flatMap(({ id, nodes }) =>
    nodes.map(({ target, failureSummary }) => `${id}: ${target.join(' ')} ${failureSummary ?? ''}`),
  );
}

test('the sign-in has nothing that keeps anybody out', async ({ page }) => {
  await page.goto('/sign-in');
  await expect(page.getByLabel('E-mail')).toBeVisible();
  expect(await violations(page)).toEqual([]);
});

test('nor have people and rules, and the way in by a link', async ({ page }) => {
  await signIn(page, 'sefa');
  await page.goto('/people');
  await page.getByLabel('Names on shared racks keep a rule').click();
  await expect(page.getByTestId('names-tried')).toBeVisible();
  await page.locator('[data-person="maren@studio.example"]').getByText('Lantern ferry').click();
  await expect(page.getByRole('dialog')).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('Escape');
  const row = page.locator('[data-person="maren@studio.example"]');
  await row.getByRole('button', { name: 'New password' }).click();
  const made = page.getByTestId('made-link');
  const link = await made.getByRole('textbox', { name: 'The link' }).inputValue();
  expect(await violations(page)).toEqual([]);
  await page.goto(link);
  await expect(page.getByLabel('Password')).toBeVisible();
  expect(await violations(page)).toEqual([]);
});

test('nor have the lists: materials, models, library, an entry, work', async ({ page }) => {
  await openStart(page, 'tove');
  await expect(page.getByLabel('Name of the new material')).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.getByRole('button', { name: /^Lantern ferry/ }).click();
  await page.getByRole('checkbox').first().click();
  await expect(page.getByRole('group', { name: 'Chosen materials' })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.goto('/models');
  await page.getByRole('button', { name: 'Channel buoy' }).first().click();
  await expect(page.getByRole('table').first()).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.goto('/library');
  await expect(page.getByRole('link', { name: /Crackle/ }).first()).toBeVisible();
  expect(await violations(page)).toEqual([]);
  for (const [kind, name] of [
    ['Palettes', 'Harbour lights'],
    ['Starters', 'Harbour set, coated'],
  ] as const) {
    await page.getByRole('tab', { name: kind }).click();
    await expect(page.getByTestId(`preset-${name}`)).toBeVisible();
    expect(await violations(page, 'main')).toEqual([]);
  }
  await page.getByRole('tab', { name: 'Groups' }).click();
  await page
    .getByRole('link', { name: /Crackle/ })
    .first()
    .click();
  for (const name of ['Proof sheet', 'Releases', /^Used in/, 'Front']) {
    await page.getByRole('tab', { name }).click();
    expect(await violations(page, 'main')).toEqual([]);
  }
  for (const address of ['/work', '/storage']) {
    await page.goto(address);
    await expect(page.getByRole('heading').first()).toBeVisible();
    expect(await violations(page)).toEqual([]);
  }
  await page
    .getByRole('button', { name: /^Remove / })
    .first()
    .click();
  await expect(page.getByRole('button', { name: 'Remove for ever' })).toBeFocused();
  expect(await violations(page)).toEqual([]);
});

test('nor has the editor: a card, a strand, a group’s front, the sheets and panels', async ({
  page,
}) => {
  await signIn(page, 'tove');
  await page.goto('/materials/demo-painted-tin');
  await untilIdle(page);
  expect(await violations(page)).toEqual([]);
  await page.locator('[data-testid^="card-"]').first().click();
  expect(await violations(page)).toEqual([]);
  for (const name of ['Place', 'Bake', 'States', 'View']) {
    await page.getByRole('button', { name }).first().click();
    await expect(page.getByRole('dialog').first()).toBeVisible();
    expect(await violations(page, DIALOG)).toEqual([]);
    if (name === 'States') {
      await page.getByRole('button', { name: /^Another material as A/ }).click();
      await expect(page.getByRole('option').first()).toBeVisible();
      expect(await violations(page, DIALOG)).toEqual([]);
      await page.keyboard.press('Escape');
    }
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toHaveCount(0);
  }
  for (const name of ['Models on the stage', 'References', 'Lights']) {
    await page.getByRole('button', { name, exact: true }).click();
    const dock = page.getByRole('region', { name });
    await expect(dock).toBeVisible();
    expect(
      await violations(page, `[role=region][aria-label="${name}"],section[aria-label="${name}"]`),
    ).toEqual([]);
    await dock.getByRole('button', { name: `Close ${name}` }).click();
    await expect(dock).toHaveCount(0);
  }
  await page.getByRole('button', { name: 'Node …' }).click();
  await page.getByRole('menuitem', { name: /^Figures and plots/ }).click();
  await expect(page.getByTestId('plot').first()).toBeVisible();
  expect(await violations(page, DIALOG)).toEqual([]);
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  await page.keyboard.press('Control+f');
  await expect(page.getByTestId('find')).toBeVisible();
  expect(await violations(page, '[data-testid=find]')).toEqual([]);
  await page.keyboard.press('Escape');
  // And seen from so far that one picture shows all cards.
  const board = page.getByTestId('board');
  await board.hover();
  for (let k = 0; k < 6; k++) await page.mouse.wheel(0, 240);
  await expect(page.getByTestId('overview')).toBeVisible();
  expect(await violations(page)).toEqual([]);
});

test('nor has a material in which much is wrong, its list, and the front of a group', async ({
  page,
}) => {
  await signIn(page, 'tove');
  await openStored(page, plantedDocument());
  await page.getByTestId('findings').click();
  expect(await violations(page)).toEqual([]);
  await page.locator('button[data-code="drive.kind"]').first().click();
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('front')).toBeVisible();
  expect(await violations(page)).toEqual([]);
});
