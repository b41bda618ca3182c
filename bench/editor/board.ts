/**
 * Frames of the board while it is panned and zoomed, beside a bare board of the same drawing
 * library with as many cards (`bench/control`). Needs the application.
 */
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { NetworkDocument } from '@/core/graph/document';
import type { Page } from '@playwright/test';
import { build } from 'esbuild';
import { median } from '../core/evaluate';
import { largeNetwork } from '../core/network';
import { openMaterial, openStudio } from '../studio/own-studio';
import type { OpenStudio } from '../studio/own-studio';

/** Median gap between frames, milliseconds. */
interface Gaps {
  readonly pan: number;
  readonly zoom: number;
}
export interface BoardFigures {
  readonly cards: number;
  readonly ours: Gaps;
  readonly control: Gaps;
}

/** Gathers the gaps between animation frames while something is done. */
async function gapsDuring(page: Page, act: () => Promise<void>): Promise<number> {
  await page.evaluate(() => {
    const times: number[] = [];
    Object.assign(window, { frameTimes: times, isFramesWatched: true });
    const note = (time: number): void => {
      times.push(time);
      if ((window as unknown as { isFramesWatched: boolean }).isFramesWatched)
        requestAnimationFrame(note);
    };
    requestAnimationFrame(note);
  });
  await act();
  const times = await page.evaluate(() => {
    const watched = window as unknown as { frameTimes: number[]; isFramesWatched: boolean };
    watched.isFramesWatched = false;
    return watched.frameTimes;
  });
  return median(times.slice(1).map((time, k) => time - (times[k] ?? time)));
}

/** Pans by the middle button (20 moves of 8 pixels) and zooms by the wheel (10 steps). */
async function measureGaps(page: Page, board: string): Promise<Gaps> {
  const box = await page.locator(board).boundingBox();
  if (!box) throw new Error(`there is no ${board}`);
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  const pan = await gapsDuring(page, async () => {
    await page.mouse.down({ button: 'middle' });
    for (let k = 1; k <= 20; k++) {
      await page.mouse.move(x + k * 8, y + k * 3);
      await page.waitForTimeout(30);
    }
    await page.mouse.up({ button: 'middle' });
  });
  const zoom = await gapsDuring(page, async () => {
    for (let k = 0; k < 10; k++) {
      await page.mouse.wheel(0, k % 2 ? 120 : -120);
      await page.waitForTimeout(60);
    }
  });
  return { pan, zoom };
}

/** Serves the bare board on loopback. @returns its address, and what stops it */
async function serveControl(): Promise<{ readonly url: string; readonly stop: () => void }> {
  const folder = mkdtempSync(path.join(tmpdir(), 'bright-loom-control-'));
  const outfile = path.join(folder, 'board.js');
  await build({
    entryPoints: [path.join(import.meta.dirname, 'control/board.tsx')],
    bundle: true,
    minify: true,
    jsx: 'automatic',
    outfile,
    define: { 'process.env.NODE_ENV': '"production"' },
  });
  const html =
    '<!doctype html><link rel="stylesheet" href="/board.css"><div id="root"></div>' +
    '<script src="/board.js"></script>';
  const server = createServer(({ url = '/' }, answer) => {
    const file = /^\/board\.(js|css)$/.exec(url);
    answer.setHeader(
      'Content-Type',
      file ? `text/${file[1] === 'js' ? 'javascript' : 'css'}` : 'text/html',
    );
    answer.end(file ? readFileSync(path.join(folder, `board.${file[1] ?? ''}`)) : html);
  });
  await new Promise<void>((resolve) => {
    server.listen(0, '127.0.0.1', resolve);
  });
  const address = server.address();
  const port = typeof address === 'object' && address ? address.port : 0;
  return {
    url: `http://127.0.0.1:${String(port)}/`,
    stop: () => {
      server.close();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** Opens a material of so many cards. @param change what is done to its network before */
export async function openOurs(
  studio: OpenStudio,
  cards: number,
  change: (document: NetworkDocument) => NetworkDocument = (same) => same,
): Promise<void> {
  const document = change(largeNetwork(cards));
  const nodes = document.network.nodes.map((node, k) => ({
    ...node,
    at: [(k % 30) * 190, Math.floor(k / 30) * 230] as const,
  }));
  await openMaterial(studio, {
    ...document,
    name: `${String(cards)} cards`,
    network: { ...document.network, nodes },
  });
}

/** Each size in turn, ours and the control in the same browser. */
export async function measureBoard(sizes: readonly number[]): Promise<readonly BoardFigures[]> {
  const studio = await openStudio();
  const control = await serveControl();
  try {
    const figures: BoardFigures[] = [];
    for (const cards of sizes) {
      await openOurs(studio, cards);
      const ours = await measureGaps(studio.page, '[data-testid="board"]');
      await studio.page.goto(`${control.url}?n=${String(cards)}`);
      await studio.page.locator('.react-flow__node').first().waitFor();
      figures.push({ cards, ours, control: await measureGaps(studio.page, '.react-flow') });
    }
    return figures;
  } finally {
    control.stop();
    await studio.browser.close();
  }
}
