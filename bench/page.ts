/** The longest task of the page's own thread while a model of a million triangles is brought in and looked over. Needs a running ./start. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { writeGlb } from '@/core/exchange/write-glb';
import { smoothNormals } from '@/core/mesh/smooth-normals';
import { bumpyTorus } from './occlusion';
import { openStudio } from './studio';

export interface PageFigures { readonly triangles: number; readonly longestTask: number; readonly tasksOver50: number; readonly seconds: number }
declare global { interface Window { longTasks?: number[] } }

export async function measurePage(n = 708): Promise<PageFigures | null> {
  const studio = await openStudio();
  if (!studio) return null;
  const folder = mkdtempSync(path.join(tmpdir(), 'bright-loom-page-'));
  try {
    const { positions, indices } = bumpyTorus(n);
    const shaded = smoothNormals({ positions, indices }, Math.PI);
    const file = path.join(folder, 'large torus.glb');
    writeFileSync(file, await writeGlb({ ...shaded, parts: new Uint32Array(indices.length / 3), partNames: ['torus'] }, 'large torus'));
    const { page } = studio;
    await page.goto(`${studio.base}/models?model=demo-tile`);
    await page.waitForFunction(() => document.querySelector('[data-testid=model-status]')?.textContent === '', null, { timeout: 120_000 });
    await page.evaluate(() => {
      const tasks: number[] = [];
      window.longTasks = tasks;
      new PerformanceObserver((list) => { for (const entry of list.getEntries()) tasks.push(entry.duration); }).observe({ type: 'longtask' });
    });
    const began = performance.now();
    await page.getByLabel('Model file').setInputFiles(file);
    await page.getByRole('heading', { name: 'large torus' }).waitFor({ timeout: 300_000 });
    await page.getByRole('img', { name: 'Parts: large torus' }).waitFor({ timeout: 300_000 });
    const tasks = await page.evaluate(() => window.longTasks ?? []);
    return { triangles: indices.length / 3, longestTask: Math.max(0, ...tasks), tasksOver50: tasks.length, seconds: (performance.now() - began) / 1000 };
  } finally {
    rmSync(folder, { recursive: true });
    await studio.browser.close();
  }
}
