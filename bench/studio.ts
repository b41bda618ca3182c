import { readFileSync } from 'node:fs';
import path from 'node:path';
import { chromium } from '@playwright/test';
import type { Browser, Page } from '@playwright/test';
import { closeDatabase } from '@/db/client';
import { startCluster } from '../scripts/cluster';

export interface OpenStudio {
  readonly browser: Browser;
  readonly page: Page;
  readonly base: string;
}

interface RunningStudio {
  readonly base: string;
  readonly demoPassword: string;
  readonly folder: string;
}

/** The application that ./start runs; null where none runs. */
async function findStudio(): Promise<RunningStudio | null> {
  const folder = process.env['BRIGHT_LOOM_DATA'] ?? path.resolve(import.meta.dirname, '../.data');
  try {
    const { port, demoPassword } = JSON.parse(
      readFileSync(path.join(folder, 'settings.json'), 'utf8'),
    ) as { port: number; demoPassword: string };
    const base = `http://127.0.0.1:${String(port)}`;
    await fetch(`${base}/sign-in`);
    return { base, demoPassword, folder };
  } catch {
    return null;
  }
}

/** The same, with its database to be written to by this process. */
export async function connectToStudio(): Promise<RunningStudio | null> {
  const studio = await findStudio();
  if (!studio) return null;
  const { url } = await startCluster({
    folder: studio.folder,
    throwAway: false,
    say: () => undefined,
  });
  // The studio of the other measurements stands on a database of its own.
  await closeDatabase();
  process.env['DATABASE_URL'] = url;
  return studio;
}

/** Signs in to the application that ./start runs; null where none runs. */
export async function openStudio(): Promise<OpenStudio | null> {
  const studio = await findStudio();
  if (!studio) return null;
  const { base, demoPassword } = studio;
  const browser = await chromium.launch({
    executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--enable-unsafe-swiftshader',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${base}/sign-in`);
  await page.getByLabel('E-mail').fill('maren@studio.example');
  await page.getByLabel('Password').fill(demoPassword);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL('**/materials');
  // The runner's compiler names functions with a helper that the page does not have.
  await page.addInitScript('globalThis.__name = (named) => named');
  return { browser, page, base };
}

declare global {
  interface Window {
    longTasks?: number[];
  }
}

/** Does something, and gives how long the page was kept busy at a time meanwhile, milliseconds. */
export async function watchLongTasks(
  page: Page,
  act: () => Promise<void>,
): Promise<{ readonly longestTask: number; readonly tasksOver50: number; seconds: number }> {
  await page.evaluate(() => {
    const tasks: number[] = [];
    window.longTasks = tasks;
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) tasks.push(entry.duration);
    }).observe({ type: 'longtask' });
  });
  const began = performance.now();
  await act();
  const tasks = await page.evaluate(() => window.longTasks ?? []);
  return {
    longestTask: Math.max(0, ...tasks),
    tasksOver50: tasks.length,
    seconds: (performance.now() - began) / 1000,
  };
}
