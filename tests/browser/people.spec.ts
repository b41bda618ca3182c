/** An invitation taken up in a second browser; a role changed and an account closed there. */
import { expect, test } from '@playwright/test';
import type { Page } from '@playwright/test';
import { signIn, untilAwake } from './studio';

const shot = async (page: Page, name: string): Promise<void> => {
  const folder = process.env['SHOTS'];
  if (folder) await page.screenshot({ path: `${folder}/${name}.png` });
};

test('a librarian invites somebody, who comes in; role, rules and account follow', async ({
  page,
  browser,
}) => {
  await signIn(page, 'sefa');
  await page.getByRole('button', { name: /^Sefa Quist/ }).click();
  await page.getByRole('menuitem', { name: 'People and rules' }).click();
  await page.waitForURL('**/people');
  await untilAwake(page);
  const form = page.getByRole('form', { name: 'Invite somebody' });
  await form.getByLabel('Name', { exact: true }).fill('Runa Vik');
  await form.getByLabel('E-mail').fill('not an address');
  await form.getByRole('button', { name: 'Make a link' }).click();
  await expect(form.getByRole('alert')).toHaveText('Not in the form that is needed.');
  await form.getByLabel('E-mail').fill('runa@studio.example');
  await form.getByRole('checkbox').first().click();
  await form.getByRole('button', { name: 'Make a link' }).click();
  const made = page.getByTestId('made-link');
  await expect(made).toContainText('Runa Vik is invited as artist');
  await expect(page.getByText('Runa Vik, runa@studio.example: invited as artist')).toBeVisible();
  await shot(page, 'people');
  const link = await made.getByRole('textbox', { name: 'The link' }).inputValue();

  const other = await (await browser.newContext()).newPage();
  await other.goto(link);
  await expect(other.getByText('runa@studio.example')).toBeVisible();
  await other.getByLabel('Password').fill('short');
  await expect(other.getByText('At least 10 characters.')).toBeVisible();
  await expect(other.getByRole('button', { name: 'Come in' })).toBeDisabled();
  await other.getByLabel('Password').fill('a longer password');
  await shot(other, 'join');
  await other.getByRole('button', { name: 'Come in' }).click();
  await other.waitForURL('**/materials');
  await expect(other.getByRole('button', { name: /^Runa Vik · artist/ })).toBeVisible();
  // Whoever is no librarian finds nothing there.
  await other.goto('/people');
  await other.waitForURL('**/materials');

  const again = await (await browser.newContext()).newPage();
  await again.goto(link);
  await expect(again.getByText('used already')).toBeVisible();
  await again.context().close();

  await page.reload();
  await untilAwake(page);
  const row = page.locator('[data-person="runa@studio.example"]');
  await row.getByLabel('Role of Runa Vik').click();
  await page.getByRole('option', { name: 'author' }).click();
  await expect(row.getByLabel('Role of Runa Vik')).toContainText('author');
  await other.reload();
  await expect(other.getByRole('button', { name: /^Runa Vik · author/ })).toBeVisible();

  const last = page.locator('[data-person="sefa@studio.example"]');
  await last.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByText('is the last librarian').first()).toBeVisible();

  await row.getByRole('button', { name: 'Close' }).click();
  await expect(row.getByRole('button', { name: 'Open again' })).toBeVisible();
  await expect(row).toContainText('nowhere');
  await other.reload();
  await other.waitForURL('**/sign-in');
  await other.getByLabel('E-mail').fill('runa@studio.example');
  await other.getByLabel('Password').fill('a longer password');
  await other.getByRole('button', { name: 'Sign in' }).click();
  await expect(other.getByText('This account is closed.')).toBeVisible();

  await row.getByRole('button', { name: 'Open again' }).click();
  await expect(row.getByRole('button', { name: 'Close' })).toBeVisible();
  await row.getByRole('button', { name: 'New password' }).click();
  await expect(made).toContainText('Runa Vik sets a new password by it.');
  await other.goto(await made.getByRole('textbox', { name: 'The link' }).inputValue());
  await other.getByLabel('Password').fill('quite another one');
  await other.getByRole('button', { name: 'Set the password and sign in' }).click();
  await other.waitForURL('**/materials');
  await page.reload();
  await untilAwake(page);
  await row.getByRole('button', { name: 'Sign out everywhere' }).click();
  await expect(row).toContainText('nowhere');
  await other.reload();
  await other.waitForURL('**/sign-in');
  await other.context().close();

  const projects = page.getByTestId('projects');
  await projects.getByLabel('Name of a new project').fill('Grey terrn');
  await projects.getByLabel('Name of a new project').press('Enter');
  await projects.getByRole('button', { name: 'Rename Grey terrn' }).click();
  await projects.getByLabel('New name of Grey terrn').fill('lantern ferry');
  await page.keyboard.press('Enter');
  await expect(page.getByText('There is a project “lantern ferry”')).toBeVisible();
  await projects.getByRole('button', { name: 'Rename Grey terrn' }).click();
  await projects.getByLabel('New name of Grey terrn').fill('Grey tern');
  await page.keyboard.press('Enter');
  await expect(projects).toContainText('Grey tern');
  await expect(page.getByTestId('deeds')).toContainText('Grey terrn, now Grey tern');

  await page.getByLabel('Names on shared racks keep a rule').click();
  await page.getByLabel('Try a name').fill('salt_crust');
  const tried = page.getByTestId('names-tried');
  await expect(tried).toContainText('✕ salt_crust');
  await page.getByTestId('rules').getByLabel('Underscores').click();
  await page.getByTestId('rules').getByLabel('A capital first').click();
  await expect(tried).toContainText('✓ salt_crust');
  await page.getByLabel('In front of every name').fill('Hv_');
  await expect(tried).toContainText('✕ salt_crust');
  await page.getByLabel('Try a name').fill('Hv_salt_crust');
  await expect(tried).toContainText('✓ Hv_salt_crust');
  await page.getByLabel('Characters at most').fill('12');
  await page.getByLabel('Characters at most').press('Enter');
  await expect(tried).toContainText('✕ Hv_salt_crust has more than 12 characters');
  await expect(page.getByRole('button', { name: 'Set the rules' })).toBeInViewport();
  await shot(page, 'rules');
  await page.getByLabel('Names on shared racks keep a rule').click();
  await page.getByRole('button', { name: 'Set the rules' }).click();
  await expect(page.getByText('The rules hold from now on')).toBeVisible();
  await expect(page.getByTestId('deeds')).toContainText('Runa Vik came in by a link');
});
