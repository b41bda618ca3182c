/** Seeing: states kept and compared, causes put back, amounts in rounds, figures, examples. */
import type { Page } from '@playwright/test';
import { BEGUN } from './support/harbour-paint';
import { card, expect, openStored, signIn, test, untilIdle } from './studio';

async function open(page: Page, name: string): Promise<void> {
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page, 'tove');
  await openStored(page, { ...BEGUN, name }, 'demo-tile');
  await untilIdle(page);
}
async function type(page: Page, label: string, value: string): Promise<void> {
  const field = page.getByLabel(`${label}, number`);
  await field.fill(value);
  await field.press('Enter');
}
async function chooseMenu(page: Page, item: RegExp): Promise<void> {
  await page.getByRole('button', { name: 'Node …' }).click();
  await page.getByRole('menuitem', { name: item }).click();
}

test('a state is kept, compared, its changes put back one by one, and gone back to', async ({
  page,
}) => {
  await open(page, 'States of paint');
  await page.getByRole('button', { name: 'States', exact: true }).click();
  const states = page.getByTestId('states');
  await states.getByLabel('Name').fill('Dry');
  await states.getByLabel('Note').fill('as approved');
  await states.getByRole('button', { name: 'Keep this state' }).click();
  const tile = page.locator('[data-state="Dry"]');
  await expect(tile).toContainText('as approved');
  await expect(tile.getByRole('img')).toBeVisible({ timeout: 30_000 });
  await tile.getByRole('button', { name: 'Compare Dry as A' }).click();
  await expect(page.getByTestId('difference')).toHaveText('The pictures are the same.');

  await card(page, 'Fractal noise').click();
  await type(page, 'Scale', '19');
  const changes = page.getByTestId('changes').getByRole('listitem');
  await expect(changes).toHaveCount(1);
  await expect(changes.first()).toContainText('100 %');
  await expect(page.getByTestId('difference')).toContainText('of the pixels differ');
  await states.getByRole('button', { name: /^Another material as A/ }).click();
  await page.getByPlaceholder('Name, model, person, project').fill('stoneware');
  await page.getByRole('option', { name: /Glazed stoneware/ }).click();
  await expect(states.getByLabel('State A')).toHaveText(/Material “Glazed stoneware”/);
  await expect(changes.nth(1)).toBeVisible();
  await tile.getByRole('button', { name: 'Compare Dry as A' }).click();
  await expect(changes).toHaveCount(1);
  for (const way of ['Side by side', 'Flicker', 'Difference', 'Wipe'])
    await page.getByRole('radio', { name: way }).click();
  await expect(page.getByTestId('wipe')).toHaveAttribute('data-way', 'wipe');

  await page.getByRole('button', { name: 'Keep A in sight' }).click();
  await expect(page.getByTestId('kept-sight')).toContainText('State “Dry”');
  await page.getByRole('button', { name: /^Put State .* away$/ }).click();
  await changes
    .first()
    .getByRole('button', { name: /^Put back Scale/ })
    .click();
  await expect(page.getByTestId('difference')).toHaveText('The pictures are the same.');
  await expect(page.getByLabel('Scale, number')).not.toHaveValue('19');
  await type(page, 'Scale', '3');
  await tile.getByRole('button', { name: 'Go back to Dry' }).click();
  await expect(page.getByLabel('Scale, number')).not.toHaveValue('3');
  await tile.getByRole('button', { name: 'Forget Dry' }).click();
  await expect(tile).toHaveCount(0);
});

test('a node is pulled back by a third, and what was said is kept as a round', async ({ page }) => {
  await open(page, 'Amounts of paint');
  await card(page, 'Fractal noise').click();
  await chooseMenu(page, /^Overall amount/);
  const amount = page.getByTestId('amount');
  await amount.getByRole('button', { name: 'back by a third' }).click();
  await expect(amount).toContainText('67 %');
  await expect(card(page, 'Fractal noise')).toContainText('67 %');
  await amount.getByLabel('What was said').fill('the grain is too strong');
  await amount.getByRole('button', { name: 'Keep as a round' }).click();
  await page.getByRole('button', { name: 'States', exact: true }).click();
  await expect(page.locator('[data-state="Round 1"]')).toContainText('Fractal noise, 67 %');
  await page.getByRole('button', { name: 'Close' }).click();
  await amount.getByRole('button', { name: 'Settle' }).click();
  await expect(amount).toHaveCount(0);
  await expect(card(page, 'Amount')).toBeVisible();
});

test('figures, a plot and the equation of the chosen node follow it', async ({ page }) => {
  await open(page, 'Figures of paint');
  await card(page, 'Ramp').click();
  await chooseMenu(page, /^Figures and plots/);
  const sheet = page.getByTestId('figures');
  for (const channel of ['r', 'g', 'b'])
    await expect(sheet.getByRole('button', { name: `Colour ${channel}` })).toBeVisible();
  await expect(sheet.getByTestId('transfer')).toContainText('Fractal noise');
  await expect(sheet.getByTestId('plot').first().locator('svg').first()).toBeVisible();
  await sheet.getByRole('button', { name: 'Copy as GLSL' }).click();
  await expect(page.getByText('Copied as a function of GLSL')).toBeVisible();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toContain('void evaluate(');
  await expect(sheet.getByTestId('equation')).toContainText('fractal_noise');
});

test('a mask is fitted to strokes on the model', async ({ page }) => {
  await open(page, 'Example of paint');
  await card(page, 'Fractal noise').click();
  await page.getByRole('application').or(page.locator('.react-flow__pane')).first().click();
  await page.keyboard.press('s');
  await page.getByPlaceholder('What should it do?').fill('threshold');
  await page.keyboard.press('Enter');
  await card(page, 'Threshold').click();
  await untilIdle(page);
  const box = await page.getByTestId('stage').boundingBox();
  if (!box) throw new Error('no stage');
  const example = page.getByTestId('by-example');
  const stroke = async (dx: number, dy: number): Promise<void> => {
    const [x, y] = [box.x + box.width / 2 + dx, box.y + box.height / 2 + dy];
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x + 14, y, { steps: 4 });
    await page.mouse.up();
  };
  await example.getByRole('button', { name: /^In here/ }).click();
  await expect(page.getByTestId('stroke-prompt')).toContainText('In here');
  await stroke(0, 0);
  await expect(example.getByRole('button', { name: /^In here/ })).not.toContainText('0');
  await example.getByRole('button', { name: /^Not there/ }).click();
  await stroke(0, 20);
  await expect(example).toContainText(/separates|overlap|Between/);
});
