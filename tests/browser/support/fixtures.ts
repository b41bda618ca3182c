/**
 * A test of the real interface: two machines that last as long as a worker does, and a stage that
 * draws only where a test looks at it.
 */
import { test as base } from '@playwright/test';
import type { BrowserContext, Page, TestInfo } from '@playwright/test';
import type { StageTrial } from '@/features/stage/stage-events';
import { ownOrigin } from './studios';

/**
 * How a stage draws, by the tag of a test: a quarter of its pixels, or all of them. Without a tag
 * it rests: it can be pointed at, not photographed.
 */
const TRIALS: Readonly<Record<string, StageTrial>> = {
  '@stage': { ratio: 0.5 },
  '@whole-stage': {},
};
/** Tagged so, a test has a machine on which nobody was before. */
const FIRST_VISIT = '@first-visit';
const RESTING: StageTrial = { isResting: true };
const trialOf = (tags: readonly string[]): StageTrial =>
  tags.flatMap((tag) => TRIALS[tag] ?? [])[0] ?? RESTING;
const VIEWPORT = { width: 1280, height: 800 };

interface TestFixtures {
  /** A page on another machine. */
  readonly other: Page;
}
interface WorkerFixtures {
  /** Browsers of two machines: what they keep (code, maps that were measured) lasts. */
  readonly machine: BrowserContext;
  readonly otherMachine: BrowserContext;
}

/** What a page finds before its first line runs; what the test before chose there is forgotten. */
function prepare([trial, mark]: readonly [StageTrial, string]): void {
  Object.assign(window, { brightLoomTrial: trial });
  try {
    if (sessionStorage.getItem(mark) !== null) return;
    sessionStorage.setItem(mark, 'yes');
    localStorage.clear();
  } catch {
    // A page without an address keeps nothing.
  }
}

/** Has every page of a machine begin as a test wants it, and closes them after it. */
async function lend(
  machine: BrowserContext,
  info: TestInfo,
  give: (page: Page) => Promise<void>,
): Promise<void> {
  await machine.clearCookies();
  await machine.clearPermissions();
  const page = await machine.newPage();
  await page.addInitScript(prepare, [trialOf(info.tags), 'begun'] as const);
  await give(page);
  await machine.unrouteAll({ behavior: 'ignoreErrors' });
  for (const each of machine.pages()) await each.close();
}

const onMachine = (
  browser: { newContext: (options: object) => Promise<BrowserContext> },
  reducedMotion: 'reduce' | null = 'reduce',
): Promise<BrowserContext> =>
  // Nothing glides that a test would have to wait for; a first visit has all motion.
  browser.newContext({ baseURL: ownOrigin(), viewport: VIEWPORT, reducedMotion });

export const test = base.extend<TestFixtures, WorkerFixtures>({
  baseURL: async ({}, give) => {
    await give(ownOrigin());
  },
  machine: [
    async ({ browser }, give) => {
      const machine = await onMachine(browser);
      await give(machine);
      await machine.close();
    },
    { scope: 'worker' },
  ],
  otherMachine: [
    async ({ browser }, give) => {
      const machine = await onMachine(browser);
      await give(machine);
      await machine.close();
    },
    { scope: 'worker' },
  ],
  context: async ({ machine }, give) => {
    await give(machine);
  },
  page: async ({ browser, machine }, give, info) => {
    const isFirst = info.tags.includes(FIRST_VISIT);
    const lent = isFirst ? await onMachine(browser, null) : machine;
    await lend(lent, info, give);
    if (isFirst) await lent.close();
  },
  other: async ({ otherMachine }, give, info) => {
    await lend(otherMachine, info, give);
  },
});
export { expect } from '@playwright/test';
