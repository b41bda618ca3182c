/** An invitation taken up in a second browser; a role changed and an account closed there. */
import type { Page } from '@playwright/test';
import { expect, openStart, test, unique, untilAwake } from './studio';

const shot = async (page: Page, name: string): Promise<void> => {
  const folder = process.env['SHOTS'];
  if (folder) await page.screenshot({ path: `${folder}/${name}.png` });
};

test('a librarian invites somebody, who comes in; role, rules and account follow', async ({
  page,
  other,
  browser,
}) => {
  const [runa, terrn, tern] = [unique('Runa'), unique('Grey terrn'), unique('Grey tern')];
  const address = `${runa.toLowerCase().replace(' ', '.')}@studio.example`;
  await openStart(page, 'sefa');
  await page.getByRole('button', { name: /^Sefa Quist/ }).click();
  await page.getByRole('menuitem', { name: 'People and rules' }).click();
  await page.waitForURL('**/people');
  await untilAwake(page);
  const form = page.getByRole('form', { name: 'Invite somebody' });
  await form.getByLabel('Name', { exact: true }).fill(runa);
  await form.getByLabel('E-mail').fill('not an address');
  await form.getByRole('button', { name: 'Make a link' }).click();
  await expect(form.getByRole('alert')).toHaveText('Not in the form that is needed.');
  await form.getByLabel('E-mail').fill(address);
  await form.getByRole('checkbox').first().click();
  await form.getByRole('button', { name: 'Make a link' }).click();
  const made = page.getByTestId('made-link');
  await expect(made).toContainText(`${runa} is invited as artist`);
  await expect(page.getByText(`${runa}, ${address}: invited as artist`)).toBeVisible();
  await shot(page, 'people');
  const link = await made.getByRole('textbox', { name: 'The link' }).inputValue();

  await other.goto(link);
  await expect(other.getByText(address)).toBeVisible();
  await other.getByLabel('Password').fill('short');
  await expect(other.getByText('At least 10 characters.')).toBeVisible();
  await expect(other.getByRole('button', { name: 'Come in' })).toBeDisabled();
  await other.getByLabel('Password').fill('a longer password');
  await shot(other, 'join');
  await other.getByRole('button', { name: 'Come in' }).click();
  await other.waitForURL('**/materials');
  await expect(other.getByRole('button', { name: `${runa} · artist` })).toBeVisible();
  // Whoever is no librarian finds nothing there.
  await other.goto('/people');
  await other.waitForURL('**/materials');

  const again = await (await browser.newContext()).newPage();
  await again.goto(link);
  await expect(again.getByText('used already')).toBeVisible();
  await again.context().close();

  await page.reload();
  await untilAwake(page);
  const row = page.locator(`[data-person="${address}"]`);
  await row.getByLabel(`Role of ${runa}`).click();
  await page.getByRole('option', { name: 'author' }).click();
  await expect(row.getByLabel(`Role of ${runa}`)).toContainText('author');
  await other.reload();
  await expect(other.getByRole('button', { name: `${runa} · author` })).toBeVisible();

  const last = page.locator('[data-person="sefa@studio.example"]');
  await last.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByText('is the last librarian').first()).toBeVisible();

  await row.getByRole('button', { name: 'Close' }).click();
  await expect(row.getByRole('button', { name: 'Open again' })).toBeVisible();
  await expect(row).toContainText('nowhere');
  await other.reload();
  await other.waitForURL('**/sign-in');
  await other.getByLabel('E-mail').fill(address);
  await other.getByLabel('Password').fill('a longer password');
  await other.getByRole('button', { name: 'Sign in' }).click();
  await expect(other.getByText('This account is closed.')).toBeVisible();

  await row.getByRole('button', { name: 'Open again' }).click();
  await expect(row.getByRole('button', { name: 'Close' })).toBeVisible();
  await row.getByRole('button', { name: 'New password' }).click();
  await expect(made).toContainText(`${runa} sets a new password by it.`);
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
  await other.close();

  const projects = page.getByTestId('projects');
  await projects.getByLabel('Name of a new project').fill(terrn);
  await projects.getByLabel('Name of a new project').press('Enter');
  await projects.getByRole('button', { name: `Rename ${terrn}` }).click();
  await projects.getByLabel(`New name of ${terrn}`).fill('lantern ferry');
  await page.keyboard.press('Enter');
  await expect(page.getByText('There is a project “lantern ferry”')).toBeVisible();
  await projects.getByRole('button', { name: `Rename ${terrn}` }).click();
  await projects.getByLabel(`New name of ${terrn}`).fill(tern);
  await page.keyboard.press('Enter');
  await expect(projects).toContainText(tern);
  await expect(page.getByTestId('deeds')).toContainText(`${terrn}, now ${tern}`);

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
  await expect(page.getByTestId('deeds')).toContainText(`${runa} came in by a link`);
});
