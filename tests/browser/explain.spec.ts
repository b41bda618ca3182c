/** What makes a point, asked on the stage: told from the surface to the sources, live. */
import { BEGUN } from './support/harbour-paint';
import { card, expect, openStored, signIn, test, untilIdle } from './studio';

test('a point is explained by Alt and a click, follows edits, and stands beside others', async ({
  page,
}) => {
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page, 'tove');
  await openStored(page, { ...BEGUN, name: 'Explained paint' }, 'demo-tile');
  await untilIdle(page);
  const box = await page.getByTestId('stage').boundingBox();
  if (!box) throw new Error('no stage');
  const click = async (dx: number): Promise<void> => {
    await page.keyboard.down('Alt');
    await page.mouse.click(box.x + box.width / 2 + dx, box.y + box.height / 2);
    await page.keyboard.up('Alt');
  };
  await click(0);
  const table = page.getByTestId('explained');
  await expect(table.getByRole('button', { name: 'Fractal noise Value' })).toBeVisible();
  const places = await table.getByRole('rowheader').allTextContents();
  expect(places.map((text) => text.split(' ')[0])).toEqual(['Surface', 'Ramp', 'Fractal']);
  await expect(table.getByText('Math')).toHaveCount(0);

  await expect(page.getByTestId('passes-s-noise-value-ramp-value')).toContainText('100 %');

  const noise = table.locator('tbody').last().getByRole('cell').last();
  const before = await noise.textContent();
  await card(page, 'Fractal noise').click();
  const scale = page.getByLabel('Scale, number');
  await scale.fill('11');
  await scale.press('Enter');
  await expect(noise).not.toHaveText(before ?? '');

  await page.getByText('What would change the first point most').click();
  await expect(page.getByTestId('strongest').getByRole('listitem').first()).toBeVisible();

  await click(30);
  await expect(table.locator('tbody').last().getByRole('cell')).toHaveCount(3);
  await page.getByRole('button', { name: 'Copy as a table' }).click();
  await expect(page.getByText('Copied as a table')).toBeVisible();
  const copied = await page.evaluate(() => navigator.clipboard.readText());
  expect(copied.split('\n')[0]).toBe('place\toutput\tchannel\tpoint 1\tpoint 2');
  await page.getByRole('button', { name: 'Leave out point 1' }).click();
  await expect(table.locator('tbody').last().getByRole('cell')).toHaveCount(2);
  await table.getByRole('button', { name: /^Ramp Colour/ }).click();
  await expect(page.getByTestId('ramp-bar')).toBeVisible();
});
