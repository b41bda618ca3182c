/** Two people in one material, looking back; a material out as a file, and in again. */
import { readFile } from 'node:fs/promises';
import { BEGUN } from './support/harbour-paint';
import { card, expect, openStart, openStored, saved, signIn, test, untilIdle } from './studio';

test('two people see each other; one looks back and restores while the other edits', async ({
  page,
  other,
}) => {
  await signIn(page, 'tove');
  await openStored(page, { ...BEGUN, name: 'Shared paint' }, 'demo-tile');
  await untilIdle(page);
  const setScale = async (at: typeof page, value: string): Promise<void> => {
    await card(at, 'Fractal noise').click();
    await at.getByLabel('Scale, number').fill(value);
    await at.getByLabel('Scale, number').press('Enter');
    await saved(at);
  };
  await setScale(page, '11');
  await setScale(page, '3');

  await signIn(other, 'maren');
  await other.goto(page.url());
  await untilIdle(other);
  await expect(other.getByTestId('company')).toContainText('Tove Lindqvist has it open');
  await expect(page.getByTestId('company')).toContainText('Maren Holt has it open');
  await setScale(other, '7');
  await expect(page.getByTestId('company')).toContainText(/newer: \d+ by Maren Holt/);

  await other.getByRole('button', { name: 'States', exact: true }).click();
  const revisions = other.getByTestId('revisions');
  await revisions.getByText('Revisions').click();
  await expect(revisions.locator('[data-revision="1"]')).toBeVisible();
  await revisions.getByRole('button', { name: 'Compare revision 2 as A' }).click();
  await expect(other.getByTestId('changes')).toContainText('Scale', { timeout: 60_000 });
  await revisions.getByRole('button', { name: 'Go back to revision 2' }).click();
  await expect(other.getByText('Revision 2 is open again.')).toBeVisible();
  await saved(other);
  await other.getByTestId('states').press('Escape');
  await card(other, 'Fractal noise').click();
  await expect(other.getByLabel('Scale, number')).toHaveValue('11');

  await other.close();
  await expect(page.getByTestId('company')).not.toContainText('has it open');
});

test('a material leaves as a file and comes into another project, once', async ({ page }) => {
  await openStart(page, 'sefa');
  await page.getByLabel('Search materials').fill('Sea glass');
  const tile = page.getByRole('listitem').filter({ hasText: 'Sea glass' }).first();
  await tile.hover();
  await tile.getByRole('button').first().click();
  const download = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: /^Save as a file/ }).click();
  const file = await (await download).path();
  const bring = async (project: string): Promise<void> => {
    await page.getByRole('button', { name: 'Bring a file …' }).click();
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('menuitem', { name: project }).click();
    await (
      await chooser
    ).setFiles({
      name: 'sea glass.zip',
      mimeType: 'application/zip',
      buffer: await readFile(file),
    });
  };
  await bring('Into Night heron');
  await expect(page.getByText(/Brought in “Sea glass/)).toBeVisible();
  const heron = page.getByRole('region', { name: 'Night heron' });
  await page
    .getByRole('navigation', { name: 'Projects and sets' })
    .getByRole('button', { name: /Night heron/ })
    .click();
  await expect(heron.getByText('Sea glass').first()).toBeVisible();
  await bring('Into Night heron');
  await expect(page.getByText(/is there already/)).toBeVisible();
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Bring a file …' }).click();
  await page.getByRole('menuitem', { name: 'Into Night heron' }).click();
  await (
    await chooser
  ).setFiles({
    name: 'notes.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from('no zip at all'),
  });
  await expect(page.getByText(/This is not a zip file/)).toBeVisible();
});
