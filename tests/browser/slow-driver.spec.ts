/** A graphics driver that takes its time with a network's program, refuses it, or can do little. */
import type { Page } from '@playwright/test';
import { documentOf, node } from '../support/networks';
import {
  addNode,
  card,
  difference,
  drag,
  expect,
  openStored,
  port,
  signIn,
  stagePicture,
  test,
  tidy,
  untilIdle,
} from './studio';

const NETWORK = documentOf(
  [
    { ...node('n', 'patterns.noise', { scale: 6 }), at: [60, 60] },
    { ...node('s', 'surface.surface'), at: [260, 60] },
  ],
  ['n:value > s:baseColour', 's:surface > @out:surface'],
);

const programs = (page: Page): Promise<number> =>
  page.evaluate(async () => (await window.brightLoomStage?.timing())?.lastCompile ?? 0);
const fills = (page: Page): Promise<number> =>
  page.evaluate(() => window.brightLoomEvaluation?.counts.fills ?? 0);

test(
  'the workers fill while a program compiles, which then takes over without a flicker',
  { tag: '@stage' },
  async ({ page }) => {
    await signIn(page, 'tove');
    const id = await openStored(page, NETWORK, 'demo-tile', '?stage=workers');
    await untilIdle(page);
    const byWorkers = await stagePicture(page);
    await page.goto(`/materials/${id}?stage=program&delay=6000`);
    // Filled while the program is still on its way.
    await expect.poll(() => fills(page), { timeout: 60_000 }).toBeGreaterThan(1);
    await expect
      .poll(async () => difference(byWorkers, await stagePicture(page)).share, { timeout: 60_000 })
      .toBeLessThan(0.02);
    expect(await programs(page)).toBe(0);
    // From then on no picture is another one, also while the program takes over.
    const seen: number[] = [];
    while ((await programs(page)) === 0 && seen.length < 300)
      seen.push(difference(byWorkers, await stagePicture(page)).share);
    await untilIdle(page);
    seen.push(difference(byWorkers, await stagePicture(page)).share);
    expect(seen.length).toBeGreaterThan(3);
    expect(Math.max(...seen)).toBeLessThan(0.02);
    // A structural edit shows at once, long before its program.
    const filled = await fills(page);
    await tidy(page);
    await addNode(page, 'stripes', 40, 420, 'Stripes');
    await drag(
      page,
      port(card(page, 'Stripes'), 'output', 'Value'),
      port(card(page, 'Surface'), 'input', 'Base colour'),
    );
    await expect.poll(() => fills(page), { timeout: 5000 }).toBeGreaterThan(filled);
    await expect
      .poll(async () => difference(byWorkers, await stagePicture(page)).share, { timeout: 5500 })
      .toBeGreaterThan(0.02);
  },
);

test(
  'a program that the driver refuses stays with the workers, which is said once',
  { tag: '@stage' },
  async ({ page }) => {
    await signIn(page, 'tove');
    const id = await openStored(page, NETWORK, 'demo-tile', '?stage=workers');
    await untilIdle(page);
    const byWorkers = await stagePicture(page);
    for (const [search, words] of [
      ['?stage=program&refuse', /driver does not take the program/],
      ['?stage=program&targets=4', /can write too few values at once/],
    ] as const) {
      await page.goto(`/materials/${id}${search}`);
      await expect(page.getByText(words)).toHaveCount(1, { timeout: 60_000 });
      await untilIdle(page);
      expect(difference(byWorkers, await stagePicture(page)).share).toBeLessThan(0.02);
      // Edits go on being shown, and nothing more is said of it.
      await card(page, 'Noise').click();
      await page.getByLabel('Scale, number').fill('17');
      await page.keyboard.press('Enter');
      await untilIdle(page);
      expect(difference(byWorkers, await stagePicture(page)).share).toBeGreaterThan(0.02);
      await expect(page.getByText(words)).toHaveCount(1);
      await page.getByRole('button', { name: 'Undo' }).click();
      await untilIdle(page);
      await expect(page.getByTestId('problem')).toHaveCount(0);
    }
  },
);
