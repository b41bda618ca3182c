/** Inside a group: dials, the proof, publishing. */
import type { Page } from '@playwright/test';
import { openPackaged } from './support/harbour-paint';
import {
  addNode,
  card,
  drag,
  expect,
  newMaterial,
  port,
  saved,
  signIn,
  stagePicture,
  strands,
  test,
  tidy,
  unique,
  untilIdle,
} from './studio';

async function openInside(page: Page, name: string): Promise<void> {
  await signIn(page, 'maren');
  await openPackaged(page, name);
  await card(page, name).dblclick();
  await expect(page.getByTestId('front')).toBeVisible();
  await expect(page.getByTestId('outside')).toBeVisible();
}

/** Reads the inspector's notes once all is tried; before that nothing can be published. */
async function readNotes(page: Page): Promise<void> {
  const reading = page.getByTestId('reading');
  await expect(page.getByRole('button', { name: 'Publish', exact: true })).toBeDisabled();
  await expect(reading).not.toContainText('still to be tried', { timeout: 60_000 });
  await reading.getByLabel('I have read these notes').check();
}

test(
  'a dial is made by its law with pictures of both ends; at home nothing changes',
  { tag: '@stage' },
  async ({ page }) => {
    await openInside(page, 'Dialled paint');
    await untilIdle(page);
    const before = await stagePicture(page);
    await page.getByLabel('Group name').fill('Worn paint');
    await page.getByLabel('Group name').press('Enter');
    await card(page, 'Fractal noise').click();
    await page.getByRole('button', { name: 'Make Octaves a dial' }).click();
    await expect(page.getByTestId('expose').locator('canvas')).toHaveCount(10);
    await page.getByLabel('Name of the new dial').fill('Fineness');
    await page.getByRole('radio', { name: /times/ }).click();
    await page.getByRole('button', { name: 'Make the dial' }).click();
    await expect(page.getByTestId('proof')).toContainText('identical', { timeout: 60_000 });
    await untilIdle(page);
    expect((await stagePicture(page)).equals(before)).toBe(true);
  },
);

test(
  'a dial moves the look and goes home; one drives several values',
  { tag: '@stage' },
  async ({ page }) => {
    await openInside(page, 'Moved paint');
    await untilIdle(page);
    const before = await stagePicture(page);
    const wear = page.getByLabel('Wear, number');
    await wear.fill('0.4');
    await wear.press('Enter');
    await untilIdle(page);
    expect((await stagePicture(page)).equals(before)).toBe(false);
    await page.getByRole('button', { name: 'home', exact: true }).click();
    await untilIdle(page);
    expect((await stagePicture(page)).equals(before)).toBe(true);
    await card(page, 'Smoothstep').click();
    await page.getByRole('button', { name: 'Make Width a dial' }).click();
    await page.getByRole('radio', { name: /times/ }).click();
    await page.getByRole('button', { name: 'Let Wear drive it too' }).click();
    await expect(page.getByTestId('proof')).toContainText('identical', { timeout: 60_000 });
  },
);

test('a value changed inside is found by the proof, and publishing it is refused', async ({
  page,
}) => {
  await openInside(page, 'Changed paint');
  await card(page, 'Smoothstep').click();
  await page.getByLabel('Edge, number').fill('0.61');
  await page.getByLabel('Edge, number').press('Enter');
  await expect(page.getByTestId('proof')).toContainText('different', { timeout: 60_000 });
  await expect(page.getByTestId('proof')).toContainText('edge');
  await page.getByRole('button', { name: 'Publish this group' }).click();
  await readNotes(page);
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  await expect(page.getByTestId('publish-failure')).toContainText('It has no description');
  await page.getByLabel('Description', { exact: true }).fill('Paint that was changed inside.');
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  await expect(page.getByTestId('publish-failure')).toContainText(
    'does not look like the network it came from',
    { timeout: 90_000 },
  );
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByLabel('Edge, number').focus();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('proof')).toContainText('identical', { timeout: 60_000 });
});

test('a group is published; another artist finds it by what it does', async ({
  page,
  other: artist,
}) => {
  const name = unique('Chipped paint');
  await openInside(page, name);
  await page.getByRole('button', { name: 'Publish this group' }).click();
  await page
    .getByLabel('Description', { exact: true })
    .fill('Blotched paint with a mask of its worn edges.');
  await page.getByLabel('Tags, with commas between').fill('paint, wear, edges');
  await readNotes(page);
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  await expect(page.getByText(`Published ${name} 1.0.0 to the studio rack`)).toBeVisible({
    timeout: 90_000,
  });
  await signIn(artist, 'ilo');
  await artist.goto('/library');
  await artist.getByLabel('Search the library').fill('worn edges');
  await expect(artist.getByTestId(`entry-${name}`)).toBeVisible();
  await expect(artist.getByTestId('entry-Crackle')).toHaveCount(0);
  await artist.getByRole('link', { name }).click();
  await expect(artist.getByRole('cell', { name: 'Blotch size' })).toBeVisible();
  await expect(artist.getByText(/proved identical to its network at 4,096/)).toBeVisible();
  // Its proof sheet is made in the background, and kept with the release.
  const papers = artist.getByTestId('release-papers');
  await expect(async () => {
    await artist.reload();
    await artist.getByRole('tab', { name: 'Proof sheet' }).click();
    await expect(papers.getByRole('img').first()).toBeVisible({ timeout: 3_000 });
  }).toPass({ timeout: 90_000 });
  await expect(papers.getByTestId('equation')).toContainText('“Blotch size”');
  const download = artist.waitForEvent('download');
  await papers.getByRole('button', { name: 'Save the sheet as PNG' }).click();
  expect((await download).suggestedFilename()).toBe(`${name} 1.0.0, proof sheet.png`);
});

test('a group of the library is placed, turned and wired; its source stays as it is', async ({
  page,
}) => {
  const source = '/api/materials/demo-stoneware-crackle';
  await newMaterial(page, 'Old float');
  const before: unknown = await (await page.request.get(source)).json();
  await page.getByRole('button', { name: 'Place', exact: true }).click();
  await page.getByLabel('Search the library').fill('fine cracks');
  await page.getByTestId('entry-Crackle').getByRole('button', { name: 'Place' }).click();
  await expect(card(page, 'Crackle')).toBeVisible();
  await addNode(page, 'surface', 420, 120);
  await addNode(page, 'slope', 60, 320);
  await tidy(page);
  await drag(
    page,
    port(card(page, 'Crackle'), 'output', 'Mask'),
    port(card(page, 'Surface'), 'input', 'Roughness'),
  );
  await drag(
    page,
    port(card(page, 'Surface'), 'output', 'Surface'),
    page.getByTestId('selvedge-out').locator('.port'),
  );
  await drag(
    page,
    port(card(page, 'Slope'), 'output', 'Slope'),
    port(card(page, 'Crackle'), 'input', 'Fineness'),
  );
  await expect(strands(page)).toHaveCount(3);
  await card(page, 'Crackle').click();
  await page.getByLabel('Crack width, number').fill('0.5');
  await page.getByLabel('Crack width, number').press('Enter');
  await untilIdle(page);
  await saved(page);
  expect(await (await page.request.get(source)).json()).toEqual(before);
});
