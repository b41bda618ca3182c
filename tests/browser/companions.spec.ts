import { decode } from 'fast-png';
import type { Page } from '@playwright/test';
import { emptyDocument } from '@/core/graph/document';
import {
  addNode,
  card,
  expect,
  newMaterial,
  openStored,
  saved,
  signIn,
  stagePicture,
  test,
  untilIdle,
} from './studio';

/** Where the picture is covered: for each of a few columns of the stage, how many pixels. */
async function covered(page: Page): Promise<readonly number[]> {
  const { data, channels, width, height } = decode(await stagePicture(page));
  const columns = Array.from({ length: 12 }, () => 0);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      if ((data[(y * width + x) * channels + 3] ?? 255) > 250)
        columns[Math.floor((x * 12) / width)] = (columns[Math.floor((x * 12) / width)] ?? 0) + 1;
  return columns;
}
const spread = (columns: readonly number[]): number => columns.filter((count) => count > 20).length;
const wanted = (page: Page): Promise<number> =>
  page.evaluate(() => window.brightLoomEvaluation?.models.settingsAsked.length ?? 0);

test(
  'models stand beside the current one with this network or another; pinned values show on ' +
    'them, the world is one, and it is all saved and undone',
  { tag: '@stage' },
  async ({ page }) => {
    await newMaterial(page, 'Company');
    await addNode(page, 'curvature', 60, 40, 'Curvature');
    await untilIdle(page);
    await card(page, 'Curvature').getByRole('button', { name: /^Pin / }).first().click();
    await untilIdle(page);
    const alone = await covered(page),
      measuredAlone = await wanted(page);

    await page.getByRole('button', { name: 'Models on the stage', exact: true }).click();
    const panel = page.getByRole('region', { name: 'Models on the stage' });
    await panel.getByLabel('Put a model beside it').click();
    await page.getByRole('option', { name: 'Tile' }).click();
    await untilIdle(page);
    // The mask is measured on the other model too, and both are seen.
    expect(await wanted(page)).toBe(measuredAlone + 1);
    const both = await covered(page);
    expect(both.reduce((a, b) => a + b)).not.toBe(alone.reduce((a, b) => a + b));
    expect(spread(both)).toBeGreaterThan(3);
    const still = await stagePicture(page);
    await panel.getByLabel('Turn of Tile, degrees').fill('50');
    await panel.getByLabel('Turn of Tile, degrees').press('Enter');
    await untilIdle(page);
    expect(still.equals(await stagePicture(page))).toBe(false);

    // Another material of the studio, and one that is no more.
    await panel.getByLabel('Network on Tile').click();
    await page.getByPlaceholder('Name, model, person, project').fill('stoneware');
    await page.getByRole('option', { name: /Glazed stoneware/ }).click();
    await untilIdle(page);
    const [pinned, coloured] = [still, await stagePicture(page)];
    expect(pinned.equals(coloured)).toBe(false);
    expect(
      await page.evaluate(
        () => window.brightLoomStores?.document.getState().document.companions?.models[0]?.material,
      ),
    ).toBeTruthy();
    await page.keyboard.press('Escape');
    await saved(page);
    expect(
      await page.evaluate(
        () => window.brightLoomStores?.document.getState().document.companions?.models.length,
      ),
    ).toBe(1);
    await saved(page);
    await page.reload();
    await untilIdle(page);
    expect(
      await page.evaluate(
        () => window.brightLoomStores?.document.getState().document.companions?.models[0]?.name,
      ),
    ).toBe('Tile');
  },
);

test('a model beside the current one that is no more says so, and can be taken away', async ({
  page,
}) => {
  await signIn(page, 'tove');
  await openStored(page, {
    ...emptyDocument('Lost company'),
    companions: {
      sizes: 'alike',
      models: [{ id: 'gone', model: 'no-such-model', name: 'Lost anchor', turn: 0 }],
    },
  });
  await untilIdle(page);
  await page.getByRole('button', { name: 'Models on the stage', exact: true }).click();
  const panel = page.getByRole('region', { name: 'Models on the stage' });
  await expect(panel.getByTestId('gone').getByRole('alert')).not.toBeEmpty();
  await panel.getByLabel('Take Lost anchor from the stage').click();
  await page.keyboard.press('Escape');
  await saved(page);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await page.getByRole('button', { name: 'Models on the stage', exact: true }).click();
  await expect(panel.getByTestId('gone')).toBeVisible();
});
