/** Materials that tests begin with, and how they are saved. */
import { readFileSync } from 'node:fs';
import path from 'node:path';
import type { Page, Route } from '@playwright/test';
import type { NetworkDocument } from '@/core/graph/document';
import { emptyDocument } from '@/core/graph/document';
import { expect } from './fixtures';
import { signIn } from './people';
import { untilIdle } from './stage';
import { ownOrigin } from './studios';

/** Whether a request saves a material, whole or as what changed. */
export const isSave = (route: Route): boolean =>
  ['PUT', 'PATCH'].includes(route.request().method());
export const saved = (page: Page): Promise<void> =>
  expect(page.getByTestId('save-state')).toHaveText('Saved');

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
    headers: { origin: ownOrigin() },
    data: { projectId: projects[0]?.id, modelId, document },
  });
  expect(made.status()).toBe(201);
  const { id } = (await made.json()) as { id: string };
  await page.goto(`/materials/${id}${search}`);
  return id;
}

/** A name that nothing has yet: a test can be run again in the studio where it ran before. */
export const unique = (name: string): string =>
  `${name} ${Math.random()
    .toString(36)
    .replace(/[^a-z]/g, '')
    .slice(0, 5)}`;

/** Keeps something under a name on the rack of the Lantern ferry. */
export async function keepOnFerry(page: Page, what: string, name: string): Promise<void> {
  await page.getByLabel(`Rack to keep ${what} on`).click();
  await page.getByRole('option', { name: 'Lantern ferry rack' }).click();
  const field = page.getByLabel(`Name to keep ${what} under`);
  await field.fill(name);
  await field.press('Enter');
}

/** Stores a shipped model anew in the Lantern ferry, under a name. @returns its id */
export async function storeModel(page: Page, file: string, name: string): Promise<string> {
  const bytes = readFileSync(path.resolve(import.meta.dirname, '../../../assets/models', file));
  const query = new URLSearchParams({ project: 'ferry', name });
  const made = await page.request.post(`/api/models?${query.toString()}`, {
    headers: { origin: ownOrigin(), 'Content-Type': 'model/gltf-binary' },
    data: bytes,
  });
  expect(made.status()).toBe(201);
  return ((await made.json()) as { id: string }).id;
}

/** Opens an empty material of Tove's. */
export async function newMaterial(page: Page, name: string, modelId = 'demo-buoy'): Promise<void> {
  await signIn(page, 'tove');
  await openStored(page, emptyDocument(name), modelId);
  await untilIdle(page);
}
