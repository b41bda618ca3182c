/** Who sits at a machine. */
import type { BrowserContext, Page } from '@playwright/test';
import { expect } from './fixtures';
import { ownOrigin, password } from './studios';

export type Person = 'maren' | 'tove' | 'ilo' | 'sefa';
/** Sessions of people who signed in before: one is enough for many tests. */
const sessions = new Map<Person, Awaited<ReturnType<BrowserContext['cookies']>>>();

/** Makes somebody the one who sits at this machine; opens no page. */
export async function signIn(page: Page, who: Person): Promise<void> {
  const context = page.context();
  await context.clearCookies();
  const known = sessions.get(who);
  if (known) {
    await context.addCookies(known);
    if ((await page.request.get('/api/session')).ok()) return;
    await context.clearCookies();
  }
  const answer = await page.request.post('/api/auth/sign-in/email', {
    headers: { origin: ownOrigin() },
    data: { email: `${who}@studio.example`, password: password() },
  });
  expect(answer.status()).toBe(200);
  sessions.set(who, await context.cookies());
}

/** Opens the list of materials as somebody. */
export async function openStart(page: Page, who: Person): Promise<void> {
  await signIn(page, who);
  await page.goto('/materials');
  await untilAwake(page);
}

export async function signInByHand(page: Page, who: Person): Promise<void> {
  await page.goto('/sign-in');
  await page.getByLabel('E-mail').fill(`${who}@studio.example`);
  await page.getByLabel('Password').fill(password());
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL('**/materials');
  await untilAwake(page);
}

/** A page takes presses and files once it runs: what comes before is lost. */
export const untilAwake = (page: Page): Promise<void> =>
  page.locator('html[data-awake]').waitFor({ state: 'attached' });
