/**
 * How long an editor takes to open: until its cards are seen, the first swatch is, and all is done.
 * Needs the application.
 */
import type {} from '@/features/stage/test-hooks';
import type { Page } from '@playwright/test';
import { openOurs } from './board';
import { median } from '../core/evaluate';
import { openStudio } from '../studio/own-studio';
import type { OpenStudio } from '../studio/own-studio';

/** Seconds from asking for the page. */
export interface Opening {
  readonly cards: number;
  readonly firstSwatch: number;
  readonly all: number;
}
export interface OpeningFigures {
  /** In a browser that has never been here, and in one that has. */
  readonly first: Opening;
  readonly second: Opening;
}

/** Opens a material in a page and notes when each part is there. */
async function timeOpening(page: Page, url: string): Promise<Opening> {
  const began = performance.now();
  const since = (): number => (performance.now() - began) / 1000;
  await page.goto(url, { waitUntil: 'commit' });
  await page.locator('[data-testid^="card-"]').first().waitFor({ timeout: 120_000 });
  const cards = since();
  await page.waitForFunction(
    () => (window.brightLoomStores?.results.getState().taps.size ?? 0) > 0,
    null,
    { timeout: 240_000, polling: 30 },
  );
  const firstSwatch = since();
  await page.waitForFunction(() => window.brightLoomEvaluation?.isIdle === true, null, {
    timeout: 240_000,
    polling: 100,
  });
  return { cards, firstSwatch, all: since() };
}

const medians = (all: readonly Opening[]): Opening => ({
  cards: median(all.map(({ cards }) => cards)),
  firstSwatch: median(all.map(({ firstSwatch }) => firstSwatch)),
  all: median(all.map(({ all: done }) => done)),
});

/** First and second visits of new browser contexts, each signed in as the page given is. */
export async function measureOpening(
  { browser, page }: OpenStudio,
  url: string,
  rounds: number,
): Promise<OpeningFigures> {
  const state = await page.context().storageState();
  const first: Opening[] = [];
  const second: Opening[] = [];
  for (let k = 0; k < rounds; k++) {
    const context = await browser.newContext({
      storageState: state,
      viewport: { width: 1280, height: 800 },
    });
    const fresh = await context.newPage();
    first.push(await timeOpening(fresh, url));
    await fresh.goto('about:blank');
    second.push(await timeOpening(fresh, url));
    await context.close();
  }
  return { first: medians(first), second: medians(second) };
}

/** Addresses of the demo material and of those stored for the measurement. */
export async function demoMaterial({ page, base }: OpenStudio): Promise<string> {
  await page.goto(`${base}/materials`);
  const link = page.locator('a[href^="/materials/"]', { hasText: 'Channel buoy' }).last();
  return `${base}${(await link.getAttribute('href')) ?? ''}`;
}

/** Materials of so many nodes, and the demo material. */
export async function openingOf(
  sizes: readonly number[],
  rounds: number,
): Promise<Record<string, OpeningFigures>> {
  const studio = await openStudio();
  const { page, browser } = studio;
  try {
    const figures: Record<string, OpeningFigures> = {};
    for (const nodes of sizes) {
      await openOurs(studio, nodes);
      figures[`${String(nodes)} nodes`] = await measureOpening(studio, page.url(), rounds);
    }
    figures['the demo material'] = await measureOpening(studio, await demoMaterial(studio), rounds);
    return figures;
  } finally {
    await browser.close();
  }
}
