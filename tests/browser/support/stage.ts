/** What the stage shows, and when there is nothing left to do for it. */
import { decode } from 'fast-png';
import type { Page } from '@playwright/test';
import type {} from '@/features/stage/test-hooks';

/** Milliseconds within which a page of the tests has measured and filled everything. */
const IDLE_MS = 110_000;

/** Waits until the workers have nothing more to measure or to fill. */
export async function untilIdle(page: Page): Promise<void> {
  await page.waitForFunction(() => window.brightLoomEvaluation !== undefined);
  const isIdle = await page.evaluate(
    (most) =>
      Promise.race([
        window.brightLoomEvaluation?.whenIdle().then(() => true),
        new Promise<boolean>((resolve) => {
          setTimeout(resolve, most, false);
        }),
      ]),
    IDLE_MS,
  );
  if (!isIdle) throw new Error('The page is never done with its work.');
}

/** The stage's own pixels, whatever lies over it; only where a test has it drawn. */
export async function stagePicture(page: Page): Promise<Buffer> {
  const url = await page.evaluate(async () => {
    const picture = await window.brightLoomStage?.picture();
    return new Promise<string>((resolve) => {
      const reader = new FileReader();
      reader.onload = () => {
        resolve(typeof reader.result === 'string' ? reader.result : '');
      };
      reader.readAsDataURL(picture ?? new Blob());
    });
  });
  return Buffer.from(url.split(',')[1] ?? '', 'base64');
}

/** The share of pixels that differ visibly; outlines are drawn by different samples. */
export function difference(
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
