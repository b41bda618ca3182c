/**
 * The application that is measured: built for tests, on a port and in a folder of its own, from a
 * copy of the demo. Brought up when a part first needs it.
 */
import { spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { chromium } from '@playwright/test';
import type { Browser, Page } from '@playwright/test';
import type { NetworkDocument } from '@/core/graph/document';
import { closeDatabase } from '@/db/client';
import type {} from '@/features/stage/test-hooks';
import { startCluster } from '../../scripts/cluster';
import { freePort } from '../../scripts/ports';

const ROOT = path.resolve(import.meta.dirname, '../..');
const FOLDER = path.join(ROOT, '.data/bench');

export interface OpenStudio {
  readonly browser: Browser;
  readonly page: Page;
  readonly base: string;
}

interface RunningStudio {
  readonly base: string;
  readonly demoPassword: string;
  readonly process: ChildProcess;
}
let running: Promise<RunningStudio> | null = null;

async function bringUp(): Promise<RunningStudio> {
  const port = await freePort();
  process.stdout.write('   bringing up a studio of its own …\n');
  const child = spawn(
    process.execPath,
    ['--import', 'tsx', 'scripts/check/studio.ts', FOLDER, String(port)],
    { cwd: ROOT, stdio: ['ignore', 'pipe', 'pipe'] },
  );
  let said = '';
  await new Promise<void>((resolve, reject) => {
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (text: Buffer) => {
        said += text.toString();
        if (said.includes('Ctrl-C stops it')) resolve();
      });
    child.once('exit', () => {
      reject(new Error(`the studio did not start: ${said.slice(-2000)}`));
    });
  });
  const { demoPassword } = JSON.parse(readFileSync(path.join(FOLDER, 'settings.json'), 'utf8')) as {
    demoPassword: string;
  };
  return { base: `http://127.0.0.1:${String(port)}`, demoPassword, process: child };
}
const ownStudio = (): Promise<RunningStudio> => (running ??= bringUp());

/** Ends the studio, where one was brought up. */
export async function endOwnStudio(): Promise<void> {
  const studio = await running?.catch(() => null);
  if (!studio || studio.process.exitCode !== null) return;
  const ended = new Promise((resolve) => studio.process.once('exit', resolve));
  studio.process.kill('SIGTERM');
  await ended;
}

/** The address of the studio, with its database to be written to by this process. */
export async function connectToStudio(): Promise<{ readonly base: string }> {
  const { base } = await ownStudio();
  const { url } = await startCluster({ folder: FOLDER, throwAway: true, say: () => undefined });
  // The studio of the library's measurements stands on a database of its own.
  await closeDatabase();
  process.env['DATABASE_URL'] = url;
  return { base };
}

/** Signs in to the studio in a browser that has never been there. */
export async function openStudio(): Promise<OpenStudio> {
  const { base, demoPassword } = await ownStudio();
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

/** Waits until the page has nothing left to measure, to fill or to draw. */
export async function untilIdle(page: Page): Promise<void> {
  await page.waitForFunction(() => window.brightLoomEvaluation !== undefined);
  await page.evaluate(() => window.brightLoomEvaluation?.whenIdle());
}

/** Stores a document as a material of the person who is signed in, and opens it. */
export async function openMaterial(
  { page, base }: OpenStudio,
  document: NetworkDocument,
): Promise<void> {
  const session = await page.request.get(`${base}/api/session`);
  const { projects } = (await session.json()) as { projects: { id: string }[] };
  const made = await page.request.post(`${base}/api/materials`, {
    headers: { origin: base },
    data: { projectId: projects[0]?.id, modelId: 'demo-tile', document },
  });
  if (!made.ok()) throw new Error(`the material was not stored: ${await made.text()}`);
  const { id } = (await made.json()) as { id: string };
  await page.goto(`${base}/materials/${id}`);
  await untilIdle(page);
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
