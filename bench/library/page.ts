/** How long the page of the library takes from a letter typed to the first results. */
import type { Page } from '@playwright/test';
import { sql } from 'drizzle-orm';
import { closeDatabase, database } from '@/db/client';
import { seedLibrary } from './seed';
import { connectToStudio, openStudio } from '../studio/own-studio';
import { sized } from '../size';

const WORDS = sized(
  ['edge', 'rust cr', 'salt', 'moss', 'brass', 'lantern', 'frost', 'paint', 'weed'],
  ['edge'],
);
/** Between two letters, longer than any answer takes, milliseconds. */
const PAUSE = sized(700, 250);

/** Types one letter. @returns milliseconds from the key to the first change of the results */
async function typeLetter(page: Page, letter: string): Promise<number | null> {
  await page.evaluate(() => {
    const results = document.querySelector('[data-testid="library"]');
    const times: { key?: number; shown?: number } = {};
    Object.assign(window, { letterTimes: times });
    window.addEventListener(
      'keydown',
      ({ timeStamp }) => {
        times.key = timeStamp;
      },
      { once: true, capture: true },
    );
    const observer = new MutationObserver(() => {
      if (times.key === undefined) return;
      observer.disconnect();
      requestAnimationFrame(() => {
        times.shown = performance.now();
      });
    });
    if (results) observer.observe(results, { childList: true, subtree: true, characterData: true });
  });
  await page.keyboard.press(letter === ' ' ? 'Space' : letter);
  await page.waitForTimeout(PAUSE);
  return page.evaluate(() => {
    const { key, shown } = (window as unknown as { letterTimes: Record<string, number> })
      .letterTimes;
    return key === undefined || shown === undefined ? null : shown - key;
  });
}

async function emptyLibrary(): Promise<void> {
  const some = sql`delete from entry where id in
    (select id from entry where id like 'bench-%' limit 1000)`;
  while (((await database().execute(some)).rowCount ?? 0) > 0);
}

/**
 * Measures in the application that runs, whose library is filled for that and emptied again.
 * @returns times of letters in milliseconds
 */
export async function measureLibraryPage(entries: number): Promise<readonly number[]> {
  const studio = await openStudio();
  await connectToStudio();
  const { page, base, browser } = studio;
  const times: number[] = [];
  try {
    await seedLibrary(0, entries, 'maren');
    await page.goto(`${base}/library`);
    await page.waitForTimeout(3 * PAUSE);
    const field = page.getByLabel('Search the library');
    for (const word of WORDS) {
      await field.fill('');
      await field.focus();
      await page.waitForTimeout(PAUSE);
      for (const letter of word) {
        const time = await typeLetter(page, letter);
        if (time !== null) times.push(time);
      }
    }
  } finally {
    await emptyLibrary();
    await closeDatabase();
    await browser.close();
  }
  return times;
}
