/** Other ways to see: channels, texture space, parts of the board, help, balls. */
import type { Page } from '@playwright/test';
import { BEGUN } from './support/harbour-paint';
import { card, expect, openStored, signIn, test, untilIdle } from './studio';

const SHOTS = process.env['SHOTS'];
const shot = async (page: Page, name: string): Promise<void> => {
  if (SHOTS) await page.screenshot({ path: `${SHOTS}/${name}.png` });
};

test('a pin lies spread out with seams, channel by channel, and its texels are explained', async ({
  page,
}) => {
  await signIn(page, 'tove');
  await openStored(page, { ...BEGUN, name: 'Spread paint' }, 'demo-buoy');
  await untilIdle(page);
  await page.getByRole('button', { name: 'Pin Ramp on the stage' }).click();
  const pinned = page.getByTestId('pinned');
  await expect(pinned).toContainText('Ramp');
  const channels = pinned.getByRole('group', { name: 'Channel that is shown' });
  await channels.getByRole('button', { name: 'g' }).click();
  await expect(channels.getByRole('button', { name: 'g' })).toHaveAttribute('aria-pressed', 'true');
  await untilIdle(page);
  await shot(page, 'channel');

  await page.getByRole('button', { name: 'Spread out in texture space, with seams' }).click();
  const sheet = page.getByTestId('flat-view');
  await expect(sheet.locator('path')).toHaveAttribute('d', /^M/);
  await shot(page, 'flat');
  const box = await sheet.getByRole('img').boundingBox();
  if (!box) throw new Error('no sheet');
  const note = page.getByTestId('flat-note');
  const places = [0.3, 0.5, 0.7].flatMap((x) => [0.3, 0.5, 0.7].map((y) => [x, y] as const));
  for (const [x, y] of places) {
    await page.mouse.move(box.x + box.width * x, box.y + box.height * y);
    await expect(note).toContainText('Texel');
    if (!((await note.textContent()) ?? '').includes('no surface')) break;
  }
  await expect(note).not.toContainText('no surface');
  await page.keyboard.down('Alt');
  await page.mouse.down();
  await page.mouse.up();
  await page.keyboard.up('Alt');
  await expect(page.getByTestId('explained')).toContainText('Ramp');
  await shot(page, 'flat-explained');
});

test('a node and a strand show what they make of the picture; both orders, help, balls', async ({
  page,
}) => {
  await signIn(page, 'tove');
  await page.goto('/materials/demo-painted-tin');
  await untilIdle(page);
  await page.keyboard.down('Alt');
  await card(page, 'Chips').hover();
  await expect(page.getByTestId('influence')).toContainText('Without “Chips”');
  await shot(page, 'part');
  await page.keyboard.up('Alt');
  await card(page, 'Chips').click();
  await page.mouse.move(5, 5);
  await expect(page.getByTestId('influence')).toHaveCount(0);

  await page.getByRole('button', { name: 'Node …' }).click();
  await page.getByRole('menuitem', { name: /^About this node/ }).click();
  const help = page.getByTestId('node-help');
  await expect(help).toContainText('finished networks');
  await expect(help).toContainText('Which of similar nodes to take');
  await expect(help.getByLabel('What comes out for what arrives')).toBeVisible();
  await shot(page, 'help');
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: 'Grey and mirror ball in the same light' }).click();
  await untilIdle(page);
  await shot(page, 'balls');
});
