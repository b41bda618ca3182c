import { decode } from 'fast-png';
import { expect, test } from '@playwright/test';
import type { Page } from '@playwright/test';
import { OUTPUT_EDGE, SURFACE_OUTPUT } from '@/core/graph/document';
import type { Strand } from '@/core/graph/document';
import { newMaterial, settled, stagePicture } from './studio';

/** A mask of the model's shape, a part's number and a surface whose colour is the mask. */
async function weave(page: Page, pin: string | null): Promise<void> {
  await page.evaluate(
    ({ pinned, end }) => {
      const store = window.brightLoomStore;
      if (!store) throw new Error('no store');
      const { document } = store.getState();
      const node = (id: string, type: string, y: number) => ({
        id,
        type,
        version: 1,
        at: [60, y] as const,
        values: {},
        options: {},
      });
      const strands: Strand[] = [
        {
          id: 's1',
          from: { node: 'o', output: 'openness' },
          to: { node: 's', input: 'baseColour' },
          order: 0,
        },
        { id: 's2', from: { node: 's', output: 'surface' }, to: end, order: 0 },
      ];
      store.setState({
        pin: pinned,
        document: {
          ...document,
          network: {
            ...document.network,
            nodes: [
              node('o', 'model.occlusion', 60),
              node('p', 'model.part', 260),
              node('s', 'surface.surface', 460),
            ],
            strands,
          },
        },
      });
    },
    { pinned: pin, end: { node: OUTPUT_EDGE, input: SURFACE_OUTPUT } },
  );
  await settled(page);
}

/** The share of pixels that differ visibly; outlines are drawn by different samples. */
function difference(
  one: Buffer,
  other: Buffer,
): { readonly shown: number; readonly share: number } {
  const [a, b] = [decode(one), decode(other)];
  const shades = new Set<number>();
  let differing = 0;
  for (let k = 0; k < a.data.length; k += a.channels) {
    shades.add(a.data[k] ?? 0);
    if (
      [0, 1, 2].some(
        (channel) => Math.abs((a.data[k + channel] ?? 0) - (b.data[k + channel] ?? 0)) > 10,
      )
    )
      differing++;
  }
  return { shown: shades.size, share: differing / (a.data.length / a.channels) };
}

test(
  'the graphics processor’s own program shows what the workers show: a surface, a mask, a ' +
    'part',
  async ({ page }) => {
    await newMaterial(page, 'Two ways');
    const url = page.url();
    const pictures = async (mode: string): Promise<readonly Buffer[]> => {
      await page.goto(`${url}?stage=${mode}`);
      await settled(page);
      expect(await page.evaluate(() => window.brightLoomStage?.mode)).toBe(mode);
      const taken: Buffer[] = [];
      for (const pin of [null, 'o:openness', 'p:id']) {
        await weave(page, pin);
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
