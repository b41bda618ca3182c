/**
 * A second studio, empty and with a database of its own: its first librarian comes from the command
 * line, others by invitation; a material and a group of the first studio come in as files.
 */
import { execFile, spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import type { Page } from '@playwright/test';
import type { NetworkDocument } from '@/core/graph/document';
import { outputAt } from '../support/evaluate';
import {
  card,
  expect,
  openStart,
  ownSparePort,
  saved,
  test,
  untilAwake,
  untilIdle,
} from './studio';

const ROOT = path.resolve(import.meta.dirname, '../..');
const PORT = ownSparePort();
const ELSEWHERE = `http://127.0.0.1:${String(PORT)}`;
const POINTS = 4096;
const run = promisify(execFile);
const shot = async (page: Page, name: string): Promise<void> => {
  const folder = process.env['SHOTS'];
  if (folder) await page.screenshot({ path: `${folder}/${name}.png` });
};

let folder: string;
let studio: ChildProcess;
const env = (): NodeJS.ProcessEnv => ({
  ...process.env,
  BRIGHT_LOOM_DATA: folder,
  PORT: String(PORT),
  NEXT_PUBLIC_TEST_HOOKS: 'yes',
});

test.beforeAll(async () => {
  test.setTimeout(240_000);
  folder = mkdtempSync(path.join(tmpdir(), 'bright-loom-elsewhere-'));
  studio = spawn('./start', ['--empty', '--throw-away'], { cwd: ROOT, env: env(), stdio: 'pipe' });
  await new Promise<void>((resolve, reject) => {
    let said = '';
    studio.stdout?.on('data', (text: Buffer) => {
      said += text.toString();
      if (said.includes('Ctrl-C stops it')) resolve();
    });
    studio.once('exit', () => {
      reject(new Error(`the second studio did not start: ${said}`));
    });
  });
});
test.afterAll(async () => {
  const ended = new Promise((resolve) => studio.once('exit', resolve));
  studio.kill('SIGTERM');
  await ended;
  rmSync(folder, { recursive: true, force: true });
});

/** Comes in by a link, with a password. */
async function comeIn(page: Page, link: string): Promise<void> {
  await page.goto(link);
  await page.getByLabel('Password').fill('a longer password');
  await page.getByRole('button', { name: 'Come in' }).click();
  await page.waitForURL('**/materials');
  await untilAwake(page);
}

async function documentOf(page: Page, address: string): Promise<NetworkDocument> {
  const opened = await page.request.get(address);
  return ((await opened.json()) as { document: NetworkDocument }).document;
}

/** What every output of a document that is wired to something gives at many points. */
function valuesOf(document: NetworkDocument): readonly number[][][] {
  const places = Float32Array.from({ length: POINTS }, (_, k) => (k % 64) / 31 - 1);
  const heights = Float32Array.from({ length: POINTS }, (_, k) => Math.floor(k / 64) / 31 - 1);
  const lanes = { 'position.x': places, 'position.y': heights, 'position.z': places };
  const outputs = new Set(
    document.network.strands.map(({ from }) => `${from.node}:${from.output}`),
  );
  return [...outputs].map((output) => outputAt(document, output, lanes, POINTS));
}

test('a material and a group come into an empty studio, equal to the bit', async ({
  page,
  browser,
}) => {
  test.setTimeout(300_000);
  const { stdout } = await run(
    './bright-loom',
    ['people', 'invite', 'first@elsewhere.example', 'Liv First', 'librarian', 'Pier'],
    { cwd: ROOT, env: env() },
  );
  const link = /http\S+/.exec(stdout)?.[0] ?? '';
  const other = await (
    await browser.newContext({ viewport: { width: 1280, height: 800 } })
  ).newPage();
  await comeIn(other, link);
  await expect(other.getByText('There are no materials here yet')).toBeVisible();
  await shot(other, 'empty');

  await openStart(page, 'maren');
  await page.getByLabel('Search materials').fill('Storybook two-tone');
  const tile = page.getByRole('listitem').filter({ hasText: 'Storybook two-tone' }).first();
  const address = (await tile.getByRole('link').getAttribute('href')) ?? '';
  await tile.hover();
  await tile.getByRole('button', { name: /^What to do with/ }).click();
  const saving = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: /^Save as a file/ }).click();
  const file = await readFile(await (await saving).path());

  await other.getByRole('button', { name: 'Bring a file …' }).click();
  const choosing = other.waitForEvent('filechooser');
  await other.getByRole('menuitem', { name: 'Into Pier' }).click();
  const sent = { name: 'storybook.zip', mimeType: 'application/zip', buffer: file };
  await (await choosing).setFiles(sent);
  await expect(other.getByText(/Brought in “Storybook/)).toBeVisible();
  const link2 = other.getByRole('link', { name: /Storybook two-tone/ }).first();
  const brought = (await link2.getAttribute('href')) ?? '';
  const [before, after] = [
    await documentOf(page, `/api${address}`),
    await documentOf(other, `${ELSEWHERE}/api${brought}`),
  ];
  expect(after).toEqual(before);
  expect(valuesOf(after)).toEqual(valuesOf(before));
  await link2.click();
  await untilIdle(other);
  await shot(other, 'brought');

  await page.goto('/library');
  await page.getByLabel('Search the library').fill('Worn edges');
  await page.getByTestId('entry-Worn edges').getByRole('link').first().click();
  const entry = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as a file' }).click();
  const group = await readFile(await (await entry).path());
  await other.goto(`${ELSEWHERE}/library`);
  await untilAwake(other);
  await other
    .getByLabel('File of a group')
    .setInputFiles({ name: 'edges.zip', mimeType: 'application/zip', buffer: group });
  await expect(other.getByText(/“Worn edges” is on your own rack/)).toBeVisible({
    timeout: 90_000,
  });
  await expect(other.getByTestId('entry-Worn edges')).toBeVisible();
  await shot(other, 'brought-group');

  await other.goto(`${ELSEWHERE}${brought}`);
  await untilIdle(other);
  await other.getByRole('button', { name: 'Place', exact: true }).click();
  await other
    .getByLabel('or place one from a file')
    .setInputFiles({ name: 'edges.zip', mimeType: 'application/zip', buffer: group });
  await expect(other.getByText('Placed Worn edges')).toBeVisible();
  await expect(card(other, 'Worn edges')).toBeVisible();
  await saved(other);
  await other.context().close();
});
