/** Times of the stage in Chromium, each beside one plain frame of the same scene. Needs a running ./start. */
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { chromium } from '@playwright/test';
import type {} from '@/features/stage/Stage';
import { median } from './evaluate';

export interface StageFigures { readonly plainFrame: number; readonly editToPicture: number; readonly dragToPicture: number; readonly dragToFinePicture: number; readonly compilationsWhileDragging: number }

export async function measureStage(rounds: number): Promise<StageFigures | null> {
  const folder = process.env['BRIGHT_LOOM_DATA'] ?? path.resolve(import.meta.dirname, '../.data');
  let settings: { port: number; demoPassword: string };
  try {
    settings = JSON.parse(readFileSync(path.join(folder, 'settings.json'), 'utf8')) as typeof settings;
    await fetch(`http://127.0.0.1:${String(settings.port)}/sign-in`);
  } catch {
    return null;
  }
  const browser = await chromium.launch({ executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium', args: ['--no-sandbox', '--enable-unsafe-swiftshader', '--disable-background-networking', '--disable-component-update', '--disable-sync'] });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`http://127.0.0.1:${String(settings.port)}/sign-in`);
    await page.getByLabel('E-mail').fill('maren@studio.example');
    await page.getByLabel('Password').fill(settings.demoPassword);
    await page.getByRole('button', { name: 'Sign in' }).click();
    await page.waitForURL('**/materials');
    await page.goto(`http://127.0.0.1:${String(settings.port)}/materials/demo-painted-tin`);
    await page.waitForFunction(() => window.brightLoomEvaluation?.isIdle === true, null, { timeout: 120_000 });
    // The runner's compiler names functions with a helper that the page does not have.
    await page.evaluate('globalThis.__name = (named) => named');
    const figures = await page.evaluate(async (count) => {
      const [stage, evaluation, store] = [window.brightLoomStage, window.brightLoomEvaluation, window.brightLoomStore];
      if (!stage || !evaluation || !store) throw new Error('no stage');
      const idle = async (): Promise<void> => { while (!evaluation.isIdle) await new Promise((resolve) => { setTimeout(resolve, 1); }); };
      const original = store.getState().document;
      const timed = async (change: (k: number) => typeof original, until: 'first' | 'last'): Promise<number[]> => {
        const times: number[] = [];
        for (let k = 0; k < count; k++) {
          await idle();
          await new Promise((resolve) => { setTimeout(resolve, 60); });
          const { frames } = stage.timing;
          const began = performance.now();
          store.setState({ document: change(k) });
          if (until === 'first') while (stage.timing.frames === frames) await new Promise((resolve) => { requestAnimationFrame(resolve); });
          else await idle();
          stage.finish();
          times.push(performance.now() - began);
        }
        return times;
      };
      const withNodes = (change: (node: typeof original.network.nodes[number]) => typeof original.network.nodes[number]): typeof original => ({ ...original, network: { ...original.network, nodes: original.network.nodes.map(change) } });
      const drag = (k: number): typeof original => withNodes((node) => (node.id === 'blotches' ? { ...node, values: { ...node.values, scale: 6 + k * 0.1, octaves: 3 + (k % 4) } } : node));
      const edit = (k: number): typeof original => withNodes((node) => (node.id === 'blotches' ? { ...node, options: { ...node.options, fold: k % 2 ? 'ridged' : 'billow' } } : node));
      const plain = Array.from({ length: count }, () => stage.drawAndWait());
      const { compilations } = evaluation.counts;
      const dragFirst = await timed(drag, 'first'), dragLast = await timed(drag, 'last');
      const compiled = evaluation.counts.compilations - compilations;
      const edits = await timed(edit, 'first');
      store.setState({ document: original });
      return { plain, dragFirst, dragLast, edits, compiled };
    }, rounds);
    return { plainFrame: median(figures.plain), editToPicture: median(figures.edits), dragToPicture: median(figures.dragFirst), dragToFinePicture: median(figures.dragLast), compilationsWhileDragging: figures.compiled };
  } finally {
    await browser.close();
  }
}
