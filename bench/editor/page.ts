/**
 * The longest task of the page's own thread while a model of a million triangles is brought in.
 * Needs the application.
 */
import type {} from '@/features/stage/Stage';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Page } from '@playwright/test';
import { emptyDocument } from '@/core/graph/document';
import { writeGlb } from '@/core/exchange/write-glb';
import { smoothNormals } from '@/core/mesh/smooth-normals';
import { bumpyTorus } from '../models/occlusion';
import { openMaterial, openStudio, untilIdle, watchLongTasks } from '../studio/own-studio';
import { sized } from '../size';
import type { OpenStudio } from '../studio/own-studio';

export interface PageFigures {
  readonly triangles: number;
  readonly longestTask: number;
  readonly tasksOver50: number;
  readonly seconds: number;
}
export interface BothFigures {
  /** On the page of models: read, diagnosed, drawn. */
  readonly models: PageFigures;
  /**
   * On the editor's stage: brought in, occlusion measured and shown, turned; and the same with a
   * small model.
   */
  readonly stage: PageFigures;
  readonly stageOfSmall: PageFigures;
}

async function torusFile(
  folder: string,
  n: number,
): Promise<{ readonly file: string; readonly triangles: number }> {
  const { positions, indices } = bumpyTorus(n);
  const shaded = smoothNormals({ positions, indices }, Math.PI);
  const file = path.join(folder, `torus of ${String(n)}.glb`);
  writeFileSync(
    file,
    await writeGlb(
      { ...shaded, parts: new Uint32Array(indices.length / 3), partNames: ['torus'] },
      'torus',
    ),
  );
  return { file, triangles: indices.length / 3 };
}

/** Does something and says how long the page was kept busy at a time. */
async function watched(
  page: Page,
  triangles: number,
  act: () => Promise<void>,
): Promise<PageFigures> {
  return { triangles, ...(await watchLongTasks(page, act)) };
}

async function onModelsPage(
  { page, base }: OpenStudio,
  { file, triangles }: { readonly file: string; readonly triangles: number },
): Promise<PageFigures> {
  await page.goto(`${base}/models?model=demo-tile`);
  await page.waitForFunction(
    () => document.querySelector('[data-testid=model-status]')?.textContent === '',
    null,
    { timeout: 120_000 },
  );
  const name = path.basename(file, '.glb');
  return watched(page, triangles, async () => {
    await page.getByLabel('Model file').setInputFiles(file);
    await page.getByRole('heading', { name }).waitFor({ timeout: 300_000 });
    await page.getByRole('img', { name: `Parts: ${name}` }).waitFor({ timeout: 300_000 });
  });
}

/**
 * A new material on the tile with one occlusion node, pinned; then the file is dropped onto the
 * stage.
 */
async function onStage(
  studio: OpenStudio,
  { file, triangles }: { readonly file: string; readonly triangles: number },
): Promise<PageFigures> {
  const { page } = studio;
  const nodes = [
    { id: 'o', type: 'model.occlusion', version: 1, at: [60, 60], values: {}, options: {} },
  ] as const;
  const begun = emptyDocument('Occluded');
  await openMaterial(studio, { ...begun, network: { ...begun.network, nodes } });
  await page.getByRole('button', { name: 'Pin Occlusion on the stage' }).first().click();
  await untilIdle(page);
  const input = await page.evaluateHandle(() =>
    Object.assign(document.createElement('input'), { type: 'file' }),
  );
  await input.asElement()?.setInputFiles(file);
  return watched(page, triangles, async () => {
    await input.evaluate((element) => {
      const transfer = new DataTransfer();
      const [dropped] = element.files ?? [];
      if (dropped) transfer.items.add(dropped);
      document
        .querySelector('[data-testid=stage]')
        ?.dispatchEvent(new DragEvent('drop', { dataTransfer: transfer, bubbles: true }));
    });
    await page
      .getByLabel('Model on the stage')
      .filter({ hasText: path.basename(file, '.glb') })
      .waitFor({ timeout: 300_000 });
    await untilIdle(page);
    for (let k = 0; k < 8; k++) {
      await page.evaluate(() => window.brightLoomStage?.orbit(0.2, 0));
      await page.waitForTimeout(150);
    }
    await untilIdle(page);
  });
}

/** @param sides of the tori: two times the square of it triangles */
export async function measurePage(
  sides: { readonly large: number; readonly small: number } = sized(
    { large: 708, small: 20 },
    { large: 40, small: 20 },
  ),
): Promise<BothFigures> {
  const studio = await openStudio();
  const folder = mkdtempSync(path.join(tmpdir(), 'bright-loom-page-'));
  try {
    const [large, small] = [
      await torusFile(folder, sides.large),
      await torusFile(folder, sides.small),
    ];
    return {
      models: await onModelsPage(studio, large),
      stageOfSmall: await onStage(studio, small),
      stage: await onStage(studio, large),
    };
  } finally {
    rmSync(folder, { recursive: true });
    await studio.browser.close();
  }
}
