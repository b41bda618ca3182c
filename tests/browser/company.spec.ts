/** Two people in one material: they see each other, and whose revision is newest; looking back. */
import { expect, test } from '@playwright/test';
import { BEGUN } from './harbour-paint';
import { card, openStored, saved, signIn, untilIdle } from './studio';

test('two people see each other; one looks back and restores while the other edits', async ({
  page,
  browser,
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

  const other = await (await browser.newContext()).newPage();
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
  if (process.env['SHOTS']) {
    await other.waitForTimeout(3000);
    await other.screenshot({ path: `${process.env['SHOTS']}/revisions.png` });
  }
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
