import type { Page } from '@playwright/test';
import { documentOf, node } from '../support/networks';
import { difference, expect, openStored, signIn, stagePicture, test, untilIdle } from './studio';

/** A mask of the model's shape, a part's number and a surface whose colour is the mask. */
const NETWORK = documentOf(
  [
    { ...node('o', 'model.occlusion'), at: [60, 60] },
    { ...node('p', 'model.part'), at: [60, 260] },
    { ...node('s', 'surface.surface'), at: [60, 460] },
  ],
  ['o:openness > s:baseColour', 's:surface > @out:surface'],
);

/** Shows an output of a card, or the finished surface, by the card's own button. */
async function pin(page: Page, title: string | null): Promise<void> {
  const pinned = page.getByTestId('pinned').getByText('back to the surface');
  if (title === null) {
    if (await pinned.isVisible()) await pinned.click();
  } else await page.getByRole('button', { name: `Pin ${title} on the stage` }).click();
  await untilIdle(page);
}

test(
  'the graphics processor’s own program shows what the workers show: a surface, a mask, a ' +
    'part',
  { tag: '@stage' },
  async ({ page }) => {
    await signIn(page, 'tove');
    await openStored(page, NETWORK, 'demo-buoy');
    const url = page.url();
    const pictures = async (mode: string): Promise<readonly Buffer[]> => {
      await page.goto(`${url}?stage=${mode}`);
      await untilIdle(page);
      expect(await page.evaluate(() => window.brightLoomStage?.mode)).toBe(mode);
      const taken: Buffer[] = [];
      for (const shown of [null, 'Occlusion', 'Part']) {
        await pin(page, shown);
        taken.push(await stagePicture(page));
      }
      await expect(page.getByTestId('problem')).toHaveCount(0);
      return taken;
    };
    const [byWorkers, byProgram] = [await pictures('workers'), await pictures('program')];
    byWorkers.forEach((picture, k) => {
      const { shown, share } = difference(picture, byProgram[k] ?? Buffer.alloc(0));
      expect(shown).toBeGreaterThan(k === 2 ? 1 : 40);
      expect(share).toBeLessThan(0.02);
    });
  },
);
