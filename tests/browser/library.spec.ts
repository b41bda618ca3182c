/** The library by hand: found, tried, placed, published again, reviewed, taken and put back. */
import type { Page } from '@playwright/test';
import { addNode as putNode, setValue } from '@/core/edit/nodes';
import type { GroupDefinition, NetworkDocument } from '@/core/graph/document';
import { bringIn } from '@/core/releases/release-groups';
import { strand } from '../support/networks';
import { BEGUN, openPackaged } from './support/harbour-paint';
import {
  card,
  expect,
  openStored,
  ownOrigin,
  saved,
  signIn,
  test,
  unique,
  untilIdle,
} from './studio';

interface OpenedEntry {
  readonly id: string;
  readonly groups: { root: string; definitions: Record<string, GroupDefinition> };
}
/** The first release of an entry, as the page reads it. */
async function readEntry(page: Page, name: string): Promise<OpenedEntry> {
  const found = await page.request.get(`/api/library?query=${encodeURIComponent(name)}`);
  const { entries } = (await found.json()) as { entries: { id: string; name: string }[] };
  const id = entries.find((entry) => entry.name === name)?.id ?? '';
  const release = await page.request.get(`/api/library/${id}/releases/1.0.0`);
  return { id, ...((await release.json()) as Pick<OpenedEntry, 'groups'>) };
}

/** Publishes a group of the author's own on the studio rack, as its editor would. */
async function publishOwn(page: Page, name: string): Promise<void> {
  const materialId = await openPackaged(page, name);
  const opened = await page.request.get(`/api/materials/${materialId}`);
  const { document } = (await opened.json()) as { document: NetworkDocument };
  const asked = await page.request.post('/api/library', {
    headers: { origin: ownOrigin() },
    data: {
      materialId,
      revision: 2,
      groupId: Object.keys(document.groups)[0],
      rack: 'studio',
      name,
      description: 'Blotched paint with a mask of its worn edges.',
      tags: ['paint'],
      next: null,
      notes: '',
    },
  });
  expect(asked.status()).toBe(202);
  const { id } = (await asked.json()) as { id: string };
  const state = async (): Promise<unknown> =>
    ((await (await page.request.get(`/api/jobs/${id}`)).json()) as { state: unknown }).state;
  await expect.poll(state, { timeout: 90_000 }).toBe('done');
}

/** A material that uses the first release, its first dial at half. */
async function storeUser(page: Page, { id, groups }: OpenedEntry, name: string): Promise<string> {
  const brought = bringIn({ ...BEGUN, name }, { entryId: id, version: '1.0.0', groups });
  const added = putNode(brought.document, null, 'group', [60, 520], brought.groupId);
  const group = groups.definitions[groups.root];
  const set = setValue(added.document, null, added.id, group?.dials[0]?.id ?? '', 0.5);
  const document: NetworkDocument = {
    ...set,
    network: {
      ...set.network,
      strands: [
        ...set.network.strands,
        strand(`${added.id}:${group?.outputs[0]?.id ?? ''} > paint:roughness`),
      ],
    },
  };
  return openStored(page, document, 'demo-tile');
}

/** Which release a stored material has, and its card's own value. */
async function stored(page: Page, id: string): Promise<{ version?: string; value?: unknown }> {
  const opened = await page.request.get(`/api/materials/${id}`);
  const { document } = (await opened.json()) as { document: NetworkDocument };
  const group = Object.values(document.groups).find(({ release }) => release);
  const node = document.network.nodes.find((each) => each.group === group?.id);
  return {
    ...(group?.release ? { version: group.release.version } : {}),
    value: Object.values(node?.values ?? {})[0],
  };
}

/** Types on the board what is wanted, and takes the first that is offered. */
async function placeByName(page: Page, name: string): Promise<void> {
  const { width = 0, height = 0 } = (await page.getByTestId('board').boundingBox()) ?? {};
  await page.getByTestId('board').click({ position: { x: width - 30, y: height - 30 } });
  await page.keyboard.press(name.charAt(0).toLowerCase());
  await page.getByPlaceholder('What should it do?').fill(name);
  await page.getByRole('option', { name: new RegExp(`^${name} library`) }).click();
  await expect(card(page, name)).toBeVisible();
}

test('an author fixes a group, a librarian reviews it, an artist takes it and goes back', async ({
  page,
  other: artist,
  browser,
}) => {
  test.setTimeout(300_000);
  const [name, jug, bowl] = [unique('Worn paint'), unique('Glazed jug'), unique('Glazed bowl')];
  await signIn(page, 'maren');
  await publishOwn(page, name);
  await signIn(artist, 'tove');
  const entry = await readEntry(artist, name);
  const one = await storeUser(artist, entry, jug);
  const two = await storeUser(artist, entry, bowl);

  await openStored(page, BEGUN, 'demo-tile');
  await placeByName(page, name);
  await card(page, name).dblclick();
  await card(page, 'Fractal noise').click();
  const octaves = page.getByLabel('Octaves, number');
  await octaves.fill('2');
  await octaves.press('Enter');
  await page.getByRole('button', { name: 'Publish this group' }).click();
  await expect(page.getByTestId('next-choice')).toContainText('after 1.0.0');
  await expect(page.getByLabel('What is new')).toHaveValue(/Fractal noise: Octaves, .+ → 2/);
  const publish = page.getByRole('button', { name: 'Publish the next release' });
  await page.getByRole('button', { name: 'Look at the consequences' }).click();
  await expect(page.getByTestId('changes')).toContainText('100 %', { timeout: 90_000 });
  await expect(page.getByTestId('consequences')).toContainText(bowl);
  await expect(page.getByTestId('reading')).not.toContainText('still to be tried', {
    timeout: 90_000,
  });
  await page.getByLabel('I have read these notes').check();
  await expect(publish).toBeEnabled({ timeout: 60_000 });
  await publish.click();
  await expect(page.getByText(`Proposed ${name} 1.1.0`)).toBeVisible({ timeout: 90_000 });

  const librarian = await (await browser.newContext()).newPage();
  await signIn(librarian, 'sefa');
  await librarian.goto('/library');
  await librarian.getByRole('link', { name: `${name} 1.1.0` }).click();
  const accept = librarian.getByRole('button', { name: 'Accept 1.1.0' });
  await expect(accept).toBeDisabled();
  await librarian.getByRole('button', { name: 'Look at the consequences' }).click();
  const wipe = librarian.getByTestId('wipe');
  await expect(wipe).toBeVisible({ timeout: 90_000 });
  await wipe.getByRole('radio', { name: 'Difference' }).click();
  await expect(wipe.getByRole('img', { name: /exaggerated 4 times/ })).toBeVisible();
  await accept.click();
  await expect(librarian.getByText('1.1.0 is on the rack.')).toBeVisible();

  await artist.goto(`/materials/${one}`);
  await untilIdle(artist);
  await artist.getByRole('button', { name: '1 release waits' }).click();
  await artist.getByRole('button', { name: 'Take 1.1.0' }).click();
  await expect(artist.getByText(`Took ${name} 1.1.0`)).toBeVisible();
  await saved(artist);
  expect(await stored(artist, one)).toEqual({ version: '1.1.0', value: 0.5 });
  expect(await stored(artist, two)).toEqual({ version: '1.0.0', value: 0.5 });
  await artist.keyboard.press('Escape');
  await artist.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => stored(artist, one)).toEqual({ version: '1.0.0', value: 0.5 });

  await artist.goto(`/library/${entry.id}`);
  await artist.getByRole('tab', { name: /^Used in/ }).click();
  await artist.getByLabel(`Choose ${bowl}`).check();
  await artist.getByRole('button', { name: 'Take 1.1.0 in 1' }).click();
  await expect.poll(() => stored(artist, two)).toEqual({ version: '1.1.0', value: 0.5 });
  await artist.getByRole('button', { name: 'Put the release of before back' }).click();
  await expect.poll(() => stored(artist, two)).toEqual({ version: '1.0.0', value: 0.5 });
  await librarian.context().close();
});

test('an entry is found by facets and keys, tried on its page, and placed from there', async ({
  page,
}) => {
  const plate = unique('Trial plate');
  await signIn(page, 'tove');
  const material = await openStored(page, { ...BEGUN, name: plate }, 'demo-tile');
  await page.goto('/library');
  await page.getByLabel('Search the library').fill('crakle');
  await expect(page.getByText('These are spelt alike')).toBeVisible();
  await page.getByLabel('Search the library').fill('');
  await page
    .getByTestId('facets')
    .getByLabel(/camera/)
    .check();
  await expect(page.getByTestId('entry-Bright rim')).toBeVisible();
  await expect(page.getByTestId('entry-Crackle')).toHaveCount(0);
  await page.getByLabel('Search the library').press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: /Bright rim/ })).toBeVisible();
  await untilIdle(page);
  const front = page.getByTestId('trial-front');
  await front.getByRole('textbox').first().fill('0.5');
  await front.getByRole('textbox').first().press('Enter');
  await untilIdle(page);
  await page.getByRole('button', { name: 'Place it in …' }).click();
  await page.getByPlaceholder('Name, model, person, project').fill(plate);
  await page.getByRole('option', { name: plate }).click();
  await page.waitForURL(`**/materials/${material}`);
  await expect(card(page, 'Bright rim')).toBeVisible();
  await saved(page);
});
