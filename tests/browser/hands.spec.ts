/** The small gestures: numbers, seeds, colours, lists, keys, and steps by name. */
import type { Locator, Page } from '@playwright/test';
import {
  addNode,
  card,
  expect,
  newMaterial,
  openStored,
  setColour,
  signIn,
  test,
  untilIdle,
} from './studio';
import { BEGUN } from './support/harbour-paint';

const bench = (page: Page): Locator => page.getByTestId('bench');
const toastOf = (page: Page, words: string | RegExp): Locator =>
  page.locator('[data-sonner-toast]').filter({ hasText: words }).first();
async function type(field: Locator, text: string): Promise<void> {
  await field.click();
  await field.fill(text);
  await field.press('Enter');
}
async function middleOf(what: Locator): Promise<{ x: number; y: number; width: number }> {
  const box = await what.boundingBox();
  if (!box) throw new Error('nothing there');
  return { x: box.x + box.width / 2, y: box.y + box.height / 2, width: box.width };
}

test('numbers are calculated, dragged finely and coarsely, and never wheeled', async ({ page }) => {
  await newMaterial(page, 'Numbers');
  await addNode(page, 'fractal', 200, 120);
  const number = bench(page).getByLabel('Diminish, number');
  const slider = bench(page).getByRole('slider', { name: 'Diminish', exact: true });
  await type(number, '3*0.2');
  await expect(number).toHaveValue('0.6');
  await type(number, '+10%');
  await expect(number).toHaveValue('0.66');
  await type(number, '1/4');
  await expect(number).toHaveValue('0.25');
  await type(number, 'rough');
  await expect(toastOf(page, '“rough” is no number for Diminish')).toContainText('It stays 0.25.');
  await expect(number).toHaveValue('0.25');
  const octaves = bench(page).getByLabel('Octaves, number');
  await type(octaves, '1e9');
  await expect(toastOf(page, 'the most it takes')).toBeVisible();
  expect(Number(await octaves.inputValue())).toBeLessThan(100);

  // A drag across the field: a step for each pixel, a tenth of it with Shift; Escape gives it up.
  const { x, y } = await middleOf(number);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 10, y, { steps: 5 });
  await expect(number).toHaveValue('0.35');
  await page.keyboard.down('Shift');
  await page.mouse.move(x + 20, y, { steps: 5 });
  await expect(number).toHaveValue('0.36');
  await page.keyboard.up('Shift');
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(number).toHaveValue('0.25');

  // The slider: at once where its bar is pressed; the wheel over it changes nothing.
  const track = await middleOf(slider.locator('xpath=..'));
  await page.mouse.click(track.x, track.y);
  await expect(number).toHaveValue('0.5');
  await page.mouse.wheel(0, 300);
  await number.hover();
  await page.mouse.wheel(0, 300);
  await expect(number).toHaveValue('0.5');
  await slider.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(number).toHaveValue('0.501');
  // One drag is one step of the history.
  await page.getByTestId('board').focus();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(number).toHaveValue('0.25');
});

test('a seed has a next, a previous and a thrown one; a direction has a ball', async ({ page }) => {
  await newMaterial(page, 'Seeds');
  await addNode(page, 'fractal', 160, 120);
  const seed = bench(page).getByLabel('Seed, number');
  const press = (name: string): Promise<void> =>
    bench(page).getByRole('button', { name, exact: true }).click();
  await press('Next seed');
  await press('Next seed');
  await press('Previous seed');
  await expect(seed).toHaveValue('1');
  await type(seed, '2.6');
  await expect(toastOf(page, 'takes whole numbers')).toBeVisible();
  await expect(seed).toHaveValue('3');
  await press('Seed at random');
  await expect(seed).not.toHaveValue('3');

  await addNode(page, 'slope', 300, 60);
  const ball = bench(page).getByRole('button', { name: /^Up on a ball/ });
  const { x, y, width } = await middleOf(ball);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + width, y, { steps: 4 });
  await page.mouse.up();
  // To the right of what the camera sees: level, and a unit long.
  const values = await Promise.all(
    ['x', 'y', 'z'].map((axis) => bench(page).getByLabel(`Up ${axis}`).inputValue()),
  );
  const [right = 0, up = 1, deep = 0] = values.map(Number);
  expect(Math.abs(up)).toBeLessThan(0.05);
  expect(right).toBeGreaterThan(0.5);
  expect(Math.hypot(right, up, deep)).toBeCloseTo(1, 2);
});

test('a colour is typed, copied from one field into another, and taken from the stage', async ({
  page,
}) => {
  await signIn(page, 'maren');
  await openStored(page, BEGUN);
  await untilIdle(page);
  await addNode(page, 'surface', 420, 300);
  await setColour(page, 'Base colour', '#80c040');
  const swatch = bench(page).getByRole('button', { name: 'Base colour #80c040' });
  await expect(swatch).toBeVisible();
  await swatch.click();
  await expect(page.getByLabel('Base colour, bytes red')).toHaveValue('128');
  await expect(page.getByLabel('Base colour, hsv hue')).toHaveValue('90');
  await type(page.getByLabel('Base colour, hsv hue'), '210');
  await expect(page.getByLabel('Base colour hex')).toHaveValue('#4080c0');
  await type(page.getByLabel('Base colour hex'), 'mud');
  await expect(toastOf(page, '“mud” is no colour')).toBeVisible();
  await expect(page.getByLabel('Base colour hex')).toHaveValue('#4080c0');
  // Those used last are at hand, the newest first.
  await page.getByRole('group', { name: 'Used last' }).getByLabel('Use #80c040').click();
  await expect(page.getByLabel('Base colour hex')).toHaveValue('#80c040');
  await page.keyboard.press('Escape');

  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.getByTestId('section-Emission').locator('summary').click();
  const other = bench(page).getByRole('button', { name: /^Emission #/ });
  await bench(page).getByRole('button', { name: 'Base colour #80c040' }).focus();
  await page.keyboard.press('Control+c');
  await expect(toastOf(page, 'Copied base colour')).toBeVisible();
  await other.focus();
  await page.keyboard.press('Control+v');
  await expect(bench(page).getByRole('button', { name: 'Emission #80c040' })).toBeVisible();

  await other.click();
  await page.getByRole('button', { name: 'From the stage', exact: true }).click();
  await expect(page.getByText(/Click the model: the colour shown there becomes/)).toBeVisible();
  const stage = await middleOf(page.getByTestId('stage'));
  await page.mouse.click(stage.x, stage.y);
  await expect(bench(page).getByRole('button', { name: 'Emission #80c040' })).toHaveCount(0);
});

test('after a choice of a list the next letter is for the board, and undo is offered', async ({
  page,
}) => {
  await newMaterial(page, 'Lists');
  await addNode(page, 'divide', 200, 120);
  const operation = bench(page).getByRole('combobox', { name: 'Operation' });
  await expect(operation).toHaveText('Divide');
  // A letter on the closed list changes nothing.
  await operation.focus();
  await page.keyboard.press('s');
  await expect(operation).toHaveText('Divide');
  await operation.click();
  await page.getByRole('option', { name: 'Multiply', exact: true }).click();
  await expect(operation).toHaveText('Multiply');
  await expect(page.getByTestId('board')).toBeFocused();
  const told = toastOf(page, /Operation: Divide → Multiply/);
  await told.getByRole('button', { name: 'Undo' }).click();
  await expect(operation).toHaveText('Divide');
  await page.getByTestId('board').focus();
  await page.keyboard.type('s');
  await expect(page.getByPlaceholder('What should it do?')).toHaveValue('s');
  await expect(operation).toHaveText('Divide');
});

test('steps have names to go back to, keys a sheet, and a lost pin returns', async ({ page }) => {
  await newMaterial(page, 'Steps');
  await addNode(page, 'checks', 160, 120);
  await addNode(page, 'slope', 320, 120);
  await untilIdle(page);
  await card(page, 'Slope').getByRole('button', { name: 'Pin Slope on the stage' }).click();
  await expect(page.getByTestId('pinned')).toContainText('Slope, Slope');
  await page.getByTestId('board').focus();
  await page.keyboard.press('Delete');
  await expect(page.getByTestId('pinned')).toHaveCount(0);
  await expect(toastOf(page, 'Removed 1 node')).toBeVisible();

  await page.getByRole('button', { name: 'History' }).click();
  await expect(page.getByRole('button', { name: 'Removed', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Added Slope', exact: true }).click();
  await expect(card(page, 'Slope')).toHaveCount(0);
  await expect(card(page, 'Checks')).toBeVisible();
  await page.getByRole('button', { name: 'Removed', exact: true }).click();
  await page.keyboard.press('Escape');
  await page.getByTestId('board').focus();
  await page.keyboard.press('Control+z');
  await expect(card(page, 'Slope')).toBeVisible();

  await page.getByTestId('board').focus();
  await page.keyboard.press('Shift+?');
  const sheet = page.getByRole('dialog', { name: 'Keys' });
  await expect(sheet.getByText('Find on this board')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(sheet).toHaveCount(0);

  await card(page, 'Checks').click();
  await type(bench(page).getByLabel('Scale, number'), '33');
  await bench(page).getByRole('button', { name: 'Node …' }).click();
  await page.getByRole('menuitem', { name: 'All home' }).click();
  await expect(bench(page).getByLabel('Scale, number')).not.toHaveValue('33');
});
