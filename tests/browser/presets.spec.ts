/** Ramps, palettes, variants and starters on racks, by hand; a group dragged from the library. */
import { BEGUN } from './support/harbour-paint';
import {
  card,
  expect,
  keepOnFerry,
  openStored,
  saved,
  signIn,
  test,
  unique,
  untilIdle,
} from './studio';

test('what one keeps in the editor stands on its rack, and is taken from there', async ({
  page,
}) => {
  test.setTimeout(180_000);
  const [soot, colours, dish] = [
    unique('Galley soot'),
    unique('Galley colours'),
    unique('Galley dish'),
  ];
  await signIn(page, 'tove');
  await openStored(page, { ...BEGUN, name: 'Kept things' }, 'demo-tile');
  await card(page, 'Ramp').click();
  await page.getByRole('button', { name: 'Presets …' }).click();
  const presets = page.getByRole('dialog', { name: 'Presets of ramps' });
  await presets.getByRole('button', { name: 'Lamp soot' }).click();
  await page.getByRole('button', { name: 'Presets …' }).click();
  await keepOnFerry(page, 'this ramp', soot);
  await expect(page.getByText(`Kept ${soot} on the Lantern ferry rack`)).toBeVisible();
  await presets.getByText('Palettes', { exact: false }).click();
  await keepOnFerry(page, 'its colours', colours);
  await expect(presets.getByRole('button', { name: colours })).toBeVisible();
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
  await keepOnFerry(page, 'these dials', dish);
  await expect(variants.getByRole('button', { name: `Apply ${dish}` })).toBeVisible();
  await untilIdle(page);
  await saved(page);

  await page.goto('/library');
  await page.getByRole('tab', { name: 'Ramps' }).click();
  await page.getByLabel('Search the ramps').fill(soot);
  await page.getByRole('button', { name: `Arrange ${soot}` }).click();
  await page.getByLabel('Another rack').click();
  await page.getByRole('option', { name: 'My own rack' }).click();
  await page.getByRole('button', { name: 'Move it there' }).click();
  await expect(page.getByTestId(`preset-${soot}`)).toContainText('My own rack');
  await page.getByRole('button', { name: `Arrange ${soot}` }).click();
  await page.getByRole('button', { name: 'Forget it' }).click();
  await expect(page.getByText('No ramps have these words.')).toBeVisible();
  await page.getByRole('tab', { name: 'Variants' }).click();
  await expect(page.getByTestId(`preset-${dish}`)).toContainText('Crackle');
});

test('a material is kept as a starter, and another begins from it', async ({ page }) => {
  const [hull, starter, second] = [
    unique('Winter hull'),
    unique('Hulls in winter'),
    unique('Second hull'),
  ];
  await signIn(page, 'tove');
  await openStored(page, { ...BEGUN, name: hull }, 'demo-tile');
  await page.goto('/materials');
  await page.getByRole('link', { name: hull }).hover();
  await page.getByRole('button', { name: `What to do with ${hull}` }).click();
  await page.getByRole('menuitem', { name: /Keep as a starter/ }).click();
  await keepOnFerry(page, 'this starter', starter);
  await expect(page.getByText(`Kept the starter ${starter}`)).toBeVisible();
  await page.getByRole('radio', { name: starter }).click();
  await expect(page.getByLabel('Model')).toContainText('Tile');
  await page.getByLabel('Name of the new material').fill(second);
  await page.getByRole('button', { name: 'Create' }).click();
  await page.waitForURL(/materials\/./);
  await untilIdle(page);
  await expect(card(page, 'Ramp')).toBeVisible();
  await expect(page.getByRole('heading', { name: second })).toBeAttached();
});
