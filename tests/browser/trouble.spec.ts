import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { emptyDocument } from '@/core/graph/document';
import {
  addNode,
  card,
  expect,
  isSave,
  openStored,
  saved,
  signIn,
  test,
  untilIdle,
} from './studio';

/** Opens an empty material on the tile. */
async function begin(page: Page, name: string): Promise<string> {
  await openStored(page, emptyDocument(name));
  await untilIdle(page);
  return page.url();
}

async function dropFile(
  page: Page,
  name: string,
  bytes: Uint8Array,
  onto = '[data-testid=stage]',
): Promise<void> {
  const transfer = await page.evaluateHandle(
    ([file, data]) => {
      const made = new DataTransfer();
      made.items.add(
        new File([Uint8Array.from(atob(data), (letter) => letter.charCodeAt(0))], file),
      );
      return made;
    },
    [name, Buffer.from(bytes).toString('base64')] as const,
  );
  await page.locator(onto).dispatchEvent('drop', { dataTransfer: transfer });
}

test('a GLB dropped onto the window becomes the model; broken ones are refused in words', async ({
  page,
}) => {
  await signIn(page, 'tove');
  await begin(page, 'Dropped');
  const quay = readFileSync('assets/models/quay.glb');
  await dropFile(page, 'cut.glb', quay.subarray(0, 9000));
  await expect(page.getByText(/cut\.glb: The file is cut off/)).toBeVisible();
  await dropFile(
    page,
    'photo.glb',
    new TextEncoder().encode('\x89PNG, but not a model at all, nor a picture'),
  );
  await expect(page.getByText(/photo\.glb: This is not a binary glTF file/)).toBeVisible();
  await dropFile(page, 'harbour wall.glb', quay);
  await expect(
    page.getByText('It has no texture coordinates; an automatic atlas was made.'),
  ).toBeVisible();
  await expect(page.getByLabel('Model on the stage')).toHaveText('harbour wall');
  await untilIdle(page);
  await saved(page);
  await page.reload();
  await expect(page.getByLabel('Model on the stage')).toHaveText('harbour wall');
  await page.goto('/materials');
  await expect(page.getByLabel('Name of the new material')).toBeVisible();
  await dropFile(page, 'corner.glb', quay, 'body');
  await page.waitForURL(/\/materials\/[0-9a-f-]{36}$/);
  await expect(page.getByLabel('Model on the stage')).toHaveText('corner');
});

test('work goes on while the server is away, and is saved when it is back', async ({
  page,
  context,
}) => {
  await signIn(page, 'tove');
  await begin(page, 'Stormy');
  await context.route('**/api/materials/*', (route) =>
    isSave(route)
      ? route.fulfill({
          status: 503,
          contentType: 'application/json',
          body: JSON.stringify({
            code: 'database.unreachable',
            message: 'The database cannot be reached at the moment.',
            action: 'Your work is kept in this browser and saved when it is back.',
          }),
        })
      : route.continue(),
  );
  await addNode(page, 'noise', 200, 120);
  await expect(page.getByTestId('save-state')).toHaveText(
    'Kept in this browser; the server is away',
  );
  page.on('dialog', (dialog) => void dialog.accept());
  await page.reload();
  await expect(card(page, 'Noise')).toBeVisible();
  await expect(page.getByText('Unsaved work of this browser was restored.')).toBeVisible();
  await context.unroute('**/api/materials/*');
  await saved(page);
  await page.reload();
  await expect(card(page, 'Noise')).toBeVisible();
});

test('two people at once: both versions are kept and a choice is shown', async ({
  page,
  other,
}) => {
  await signIn(page, 'maren');
  const url = await begin(page, 'Shared');
  await signIn(other, 'tove');
  await other.goto(url);
  await untilIdle(other);
  await addNode(other, 'cell', 200, 120);
  await saved(other);
  await addNode(page, 'slope', 200, 120);
  await expect(page.getByTestId('clash')).toContainText('Tove Lindqvist saved revision 2');
  await page.getByRole('button', { name: /^Theirs/ }).click();
  await expect(card(page, 'Cell noise')).toBeVisible();
  await page.goto('/materials');
  await page.getByRole('link', { name: /Shared \(my version\)/ }).click();
  await expect(card(page, 'Slope')).toBeVisible();
});

test('outsiders come to nothing', async ({ page, request }) => {
  for (const path of [
    '/api/materials',
    '/api/library',
    '/api/session',
    '/api/models/demo-buoy',
    '/api/materials/demo-painted-tin',
  ])
    expect((await request.get(path)).status()).toBe(401);
  expect((await request.put('/api/materials/demo-painted-tin', { data: {} })).status()).toBe(401);
  const visit = await page.goto('/materials/demo-painted-tin');
  expect(page.url()).toContain('/sign-in');
  const policy = visit?.headers()['content-security-policy'] ?? '';
  expect(policy).toContain("'wasm-unsafe-eval'");
  expect(policy).not.toContain("'unsafe-eval'");
  await signIn(page, 'maren');
  const shown = async (): Promise<readonly string[]> => {
    const html = await (await page.request.get('/materials')).text();
    return [...html.matchAll(/href="\/materials\/([\w-]+)"/g)].map(([, id]) => id ?? '');
  };
  const own = await shown();
  expect(own.length).toBeGreaterThan(0);
  await page.context().clearCookies();
  await signIn(page, 'ilo');
  // What the server drew for one person is not drawn for the next.
  const theirs = new Set(await shown());
  expect(own.filter((id) => theirs.has(id))).toEqual([]);
  expect(
    await page.evaluate(async () => (await fetch('/api/materials/demo-painted-tin')).status),
  ).toBe(404);
  await page.goto('/materials/demo-painted-tin');
  await expect(page.getByRole('heading', { name: 'This material cannot be opened' })).toBeVisible();
});
