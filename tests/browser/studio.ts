import type {} from '@/features/stage/test-hooks';
import type { NetworkDocument } from '@/core/graph/document';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { expect } from '@playwright/test';
import { decode } from 'fast-png';
import type { BrowserContext, Locator, Page, Route } from '@playwright/test';

export const password = (): string =>
  (
    JSON.parse(
      readFileSync(
        path.join(process.env['BRIGHT_LOOM_DATA'] ?? '.data/check', 'settings.json'),
        'utf8',
      ),
    ) as { demoPassword: string }
  ).demoPassword;

export type Person = 'maren' | 'tove' | 'ilo' | 'sefa';
/** Sessions of people who signed in by hand before: one is enough for many tests. */
const sessions = new Map<Person, Awaited<ReturnType<BrowserContext['cookies']>>>();

/** Opens the list of materials as somebody, by hand where no session of theirs lasts. */
export async function signIn(page: Page, who: Person): Promise<void> {
  const known = sessions.get(who);
  if (known) {
    await page.context().addCookies(known);
    await page.goto('/materials');
    if (new URL(page.url()).pathname === '/materials') return untilAwake(page);
    await page.context().clearCookies();
  }
  await signInByHand(page, who);
  sessions.set(who, await page.context().cookies());
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

export const card = (page: Page, title: string): Locator =>
  page.locator(`[data-testid^="card-"][data-title="${title}"]`);
export const port = (node: Locator, side: 'input' | 'output', title: string): Locator =>
  node.getByLabel(new RegExp(`, ${side} ${title}$`));

/** Types a word at a place of the board and takes the first thing found (or the one named). */
export async function addNode(
  page: Page,
  word: string,
  x: number,
  y: number,
  name?: string,
): Promise<void> {
  const board = page.getByTestId('board');
  const box = await board.boundingBox();
  if (!box) throw new Error('no board');
  await page.mouse.click(box.x + x, box.y + y);
  await page.mouse.move(box.x + x, box.y + y);
  await page.keyboard.type(word.slice(0, 1));
  await expect(page.getByPlaceholder('What should it do?')).toBeFocused();
  await page.keyboard.type(word.slice(1));
  if (name) await page.getByRole('option', { name }).first().click();
  else await page.keyboard.press('Enter');
  await expect(page.getByPlaceholder('What should it do?')).toHaveCount(0);
  // The new card is chosen, and the bench opens for it: the board is lower then.
  if (!['note', 'region'].includes(word)) await expect(page.getByTestId('bench')).toBeVisible();
}

/** Where something is, once it stands still: the board glides when it is laid out. */
async function restingPlace(
  page: Page,
  what: Locator,
): Promise<{
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}> {
  let last = '';
  for (let k = 0; k < 100; k++) {
    const box = await what.boundingBox();
    if (box && last === JSON.stringify(box)) return box;
    last = JSON.stringify(box);
    await page.waitForTimeout(80);
  }
  throw new Error('nothing to drag, or it never stands still');
}

/** Drags once both ends stand still: the board makes room when the bench opens. */
export async function drag(page: Page, from: Locator, to: Locator): Promise<void> {
  let [a, b] = [await restingPlace(page, from), await restingPlace(page, to)];
  for (let calm = 0, k = 0; calm < 3 && k < 50; k++) {
    await page.waitForTimeout(80);
    const [c, d] = [await restingPlace(page, from), await restingPlace(page, to)];
    calm = JSON.stringify([a, b]) === JSON.stringify([c, d]) ? calm + 1 : 0;
    [a, b] = [c, d];
  }
  await page.mouse.move(a.x + a.width / 2, a.y + a.height / 2);
  await page.mouse.down();
  await page.mouse.move((a.x + b.x) / 2, (a.y + b.y) / 2, { steps: 4 });
  await page.mouse.move(b.x + b.width / 2, b.y + b.height / 2, { steps: 4 });
  await page.mouse.up();
}

/** Opens the editor of a colour, types it, and closes it. */
export async function setColour(page: Page, label: string, hex: string): Promise<void> {
  await page.getByRole('button', { name: new RegExp(`^${label} #`) }).click();
  await page.getByLabel(`${label} hex`).fill(hex);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
}

/** Whether a request saves a material, whole or as what changed. */
export const isSave = (route: Route): boolean =>
  ['PUT', 'PATCH'].includes(route.request().method());
export const saved = (page: Page): Promise<void> =>
  expect(page.getByTestId('save-state')).toHaveText('Saved');
export const strands = (page: Page): Locator => page.locator('.react-flow__edge');

/** The stage's own pixels, whatever lies over it. */
export async function stagePicture(page: Page): Promise<Buffer> {
  const url = await page.evaluate(async () => {
    const picture = await window.brightLoomStage?.picture();
    return new Promise<string>((resolve) => {
      const reader = new FileReader();
      reader.onload = () => {
        resolve(typeof reader.result === 'string' ? reader.result : '');
      };
      reader.readAsDataURL(picture ?? new Blob());
    });
  });
  return Buffer.from(url.split(',')[1] ?? '', 'base64');
}

/** The share of pixels that differ visibly; outlines are drawn by different samples. */
export function difference(
  one: Buffer,
  other: Buffer,
): { readonly shown: number; readonly share: number } {
  const [a, b] = [decode(one), decode(other)];
  const shades = new Set<number>();
  let differing = 0;
  for (let k = 0; k < a.data.length; k += a.channels) {
    shades.add(a.data[k] ?? 0);
    if (
      [0, 1, 2].some(
        (channel) => Math.abs((a.data[k + channel] ?? 0) - (b.data[k + channel] ?? 0)) > 10,
      )
    )
      differing++;
  }
  return { shown: shades.size, share: differing / (a.data.length / a.channels) };
}

/** Waits until the workers have nothing more to measure or to fill. */
export async function untilIdle(page: Page): Promise<void> {
  let calm = 0;
  for (let k = 0; k < 900 && calm < 4; k++) {
    calm = (await page.evaluate(() => window.brightLoomEvaluation?.isIdle ?? false)) ? calm + 1 : 0;
    await page.waitForTimeout(120);
  }
  expect(calm).toBe(4);
}

/** Lays the board out; it then shows all its cards. */
export async function tidy(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Tidy' }).click();
  await page.waitForTimeout(400);
  await restingPlace(page, page.getByTestId('selvedge-out'));
}

/** Makes a material on the model that is offered, and opens it. */
export async function newMaterial(page: Page, name: string): Promise<void> {
  await signIn(page, 'tove');
  await page.getByLabel('Name of the new material').fill(name);
  await page.getByRole('button', { name: 'Create' }).click();
  await page.waitForURL(/\/materials\/[0-9a-f-]{36}$/);
  await untilIdle(page);
}

/** Stores a document as a material of the person who is signed in, and opens it. */
export async function openStored(
  page: Page,
  document: NetworkDocument,
  modelId = 'demo-tile',
  search = '',
): Promise<string> {
  const session = await page.request.get('/api/session');
  const { projects } = (await session.json()) as { projects: { id: string }[] };
  const made = await page.request.post('/api/materials', {
    headers: { origin: new URL(page.url()).origin },
    data: { projectId: projects[0]?.id, modelId, document },
  });
  expect(made.status()).toBe(201);
  const { id } = (await made.json()) as { id: string };
  await page.goto(`/materials/${id}${search}`);
  return id;
}
