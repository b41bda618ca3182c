/**
 * Edits a material in a real browser while server, database, worker and tab are killed at random,
 * and holds what the server has against what was confirmed and what was typed. `npm run drill:saves
 * [edits] [seed]`.
 */
import { chromium } from '@playwright/test';
import type { BrowserContext, Page, Response } from '@playwright/test';
import { seededRandom } from '@/core/base/random';
import { startOwnStudio } from './drill/own-studio';
import type { Part } from './drill/own-studio';

const edits = Number(process.argv[2] ?? 1000);
const seed = Number(process.argv[3] ?? 1);
/**
 * Edits between two kills, on average; and how long everything may take to be back, milliseconds.
 */
const BETWEEN = 40,
  BACK = 90_000;
/** How often editing rests until all is saved. */
const REST = 0.12;
/** What was typed longer ago than this must survive the tab, milliseconds. */
const KEPT_AFTER = 200;
const random = seededRandom(seed);
const wait = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

const studio = await startOwnStudio();
const args = [
  '--no-sandbox',
  '--enable-unsafe-swiftshader',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];
const browser = await chromium.launch({
  executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
  args,
});
const context = await browser.newContext({ viewport: { width: 900, height: 600 } });
/** Saves that the server confirmed, by revision. */
const confirmed = new Map<number, string>();
const tally = {
  kills: { server: 0, database: 0, worker: 0, tab: 0 },
  longestBack: 0,
  lostDrafts: [] as string[],
};

function watch(page: Page): void {
  page.on('dialog', (dialog) => void dialog.accept());
  page.on('response', (response: Response) => {
    if (response.request().method() !== 'PUT' || response.status() !== 200) return;
    const sent = response.request().postDataJSON() as { document: { name: string } };
    response.json().then(
      (body: { revision: number }) => confirmed.set(body.revision, sent.document.name),
      // Cut off: not confirmed.
      () => undefined,
    );
  });
}

async function open(on: BrowserContext, url: string): Promise<Page> {
  const page = await on.newPage();
  watch(page);
  for (let until = Date.now() + BACK; ;) {
    try {
      await page.goto(url, { timeout: 10_000 });
      await page.getByLabel('Name of the material').waitFor({ timeout: 10_000 });
      return page;
    } catch (error) {
      if (Date.now() > until) throw error;
      await wait(500);
    }
  }
}

async function edit(page: Page, name: string): Promise<void> {
  const field = page.getByLabel('Name of the material');
  await field.fill(name);
  await field.press('Enter');
}

/** Waits until the last edit is saved. @returns how long that took */
async function untilSaved(page: Page): Promise<number> {
  const began = Date.now();
  await page
    .getByTestId('save-state')
    .filter({ hasText: /^Saved$/ })
    .waitFor({ timeout: BACK });
  return Date.now() - began;
}

const start = await context.newPage();
await start.goto(`${studio.base}/sign-in`);
await start.getByLabel('E-mail').fill('tove@studio.example');
await start.getByLabel('Password').fill(studio.password);
await start.getByRole('button', { name: 'Sign in' }).click();
await start.waitForURL('**/materials');
await start.getByLabel('Name of the new material').fill('Drill');
await start.getByLabel('Model', { exact: true }).click();
await start.getByRole('option', { name: 'Tile' }).click();
await start.getByRole('button', { name: 'Make it' }).click();
await start.waitForURL(/\/materials\/[0-9a-f-]{36}$/);
const url = start.url();
await start.close();

let page = await open(context, url);
let nextKill = 10;
for (let k = 1; k <= edits; k++) {
  const name = `Edit ${String(k)}`;
  await edit(page, name);
  await wait(20 + random() * 60);
  // Most edits follow each other closely; some rest until they are saved.
  if (random() < REST) tally.longestBack = Math.max(tally.longestBack, await untilSaved(page));
  if (k < nextKill) continue;
  nextKill = k + 10 + Math.floor(random() * BETWEEN * 1.5);
  const what =
    (['server', 'database', 'worker', 'tab'] as const)[Math.floor(random() * 4)] ?? 'tab';
  tally.kills[what]++;
  if (what === 'tab') {
    await wait(KEPT_AFTER);
    await page.close({ runBeforeUnload: false });
    page = await open(context, url);
    const shown = await page.getByLabel('Name of the material').inputValue();
    if (shown !== name) tally.lostDrafts.push(`${name}: ${shown} was shown`);
  } else studio.kill(what satisfies Part);
  // Half of the time editing goes on while it is away.
  if (random() < 0.5) tally.longestBack = Math.max(tally.longestBack, await untilSaved(page));
}
await untilSaved(page);
const last = await page.getByLabel('Name of the material').inputValue();

const lost: string[] = [];
for (const [revision, name] of confirmed) {
  const id = url.split('/').at(-1) ?? '';
  const answer = await page.request.get(
    `${studio.base}/api/materials/${id}/revisions/${String(revision)}`,
  );
  const found = answer.ok()
    ? ((await answer.json()) as { document: { name: string } }).document.name
    : `status ${String(answer.status())}`;
  if (found !== name)
    lost.push(`revision ${String(revision)}: ${name} was confirmed, ${found} is there`);
}
const health = (await (await fetch(`${studio.base}/api/health`)).json()) as { ok: boolean };
await browser.close();
await studio.stop();
const { server, database, worker, tab } = tally.kills;
console.log(
  `${String(edits)} edits, seed ${String(seed)}; killed: server ${String(server)}, ` +
    `database ${String(database)}, worker ${String(worker)}, tab ${String(tab)}`,
);
console.log(
  `${String(confirmed.size)} confirmed saves, ${String(lost.length)} lost; drafts lost ` +
    `${String(tally.lostDrafts.length)}; the last edit ` +
    (last === `Edit ${String(edits)}` ? 'is there' : `is not there (${last})`),
);
console.log(
  `longest until saved again ${(tally.longestBack / 1000).toFixed(1)} s; health at the ` +
    `end: ${health.ok ? 'ok' : 'not ok'}`,
);
for (const each of [...lost, ...tally.lostDrafts].slice(0, 20)) console.log(`  ${each}`);
process.exit(lost.length + tally.lostDrafts.length === 0 && health.ok ? 0 : 1);
