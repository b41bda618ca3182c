/** Somebody who was never here: nothing is in their browser, neither code nor maps. */
import { card, expect, signInByHand, test, untilIdle } from './studio';

test(
  'a first visit signs in, opens a material and measures its maps; the second finds them',
  { tag: ['@first-visit', '@stage'] },
  async ({ page }) => {
    const sources = (): Promise<{ readonly recalled: number; readonly made: number }> =>
      page.evaluate(() => {
        const counts = window.brightLoomEvaluation?.models.counts;
        return {
          recalled: counts?.recalled ?? -1,
          made: (counts?.measured ?? 0) + (counts?.fetched ?? 0),
        };
      });
    await page.goto('/materials/demo-painted-tin');
    await expect(page).toHaveURL(/sign-in/);
    await signInByHand(page, 'maren');
    // What other tests made stands before it.
    await page.getByLabel('Search materials').fill('Painted tin');
    await page.getByRole('link', { name: /^Painted tin on Channel buoy/ }).click();
    await expect(card(page, 'Chipped paint')).toBeVisible();
    await untilIdle(page);
    const first = await sources();
    expect(first.recalled).toBe(0);
    expect(first.made).toBeGreaterThan(0);
    await page.reload();
    await untilIdle(page);
    expect(await sources()).toEqual({ recalled: first.made, made: 0 });
  },
);
