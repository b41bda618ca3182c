import type { Page } from '@playwright/test';
import {
  addNode,
  card,
  expect,
  newMaterial,
  openStart,
  stagePicture,
  test,
  untilIdle,
} from './studio';

/** A ball in millimetres whose normals are those of its facets. */
function facetedBall(): string {
  const [rings, columns] = [10, 20];
  const place = (ring: number, column: number): readonly number[] => {
    const a = (Math.PI * ring) / rings,
      b = (2 * Math.PI * column) / columns;
    return [500 * Math.sin(a) * Math.cos(b), 500 * Math.cos(a), 500 * Math.sin(a) * Math.sin(b)];
  };
  const lines: string[] = [];
  let vertices = 0,
    normals = 0;
  for (let r = 0; r < rings; r++)
    for (let c = 0; c < columns; c++) {
      const corners = [place(r, c), place(r, c + 1), place(r + 1, c + 1), place(r + 1, c)].filter(
        (p, k, all) =>
          all.findIndex((q) => Math.hypot(...q.map((x, axis) => x - (p[axis] ?? 0))) < 1e-6) === k,
      );
      const middle = [0, 1, 2].map((axis) => corners.reduce((sum, p) => sum + (p[axis] ?? 0), 0));
      const length = Math.hypot(...middle);
      for (const p of corners) lines.push(`v ${p.join(' ')}`);
      lines.push(`vn ${middle.map((x) => x / length).join(' ')}`);
      normals++;
      lines.push(
        `f ${corners.map((_, k) => `${String(vertices + k + 1)}//${String(normals)}`).join(' ')}`,
      );
      vertices += corners.length;
    }
  return lines.join('\n');
}
const lookedOver = (page: Page): Promise<void> =>
  expect(page.getByTestId('model-status')).not.toContainText('…', { timeout: 90_000 });

test(
  'a model is looked over in a worker, corrected with a click for everyone, and that ' +
    'is undone',
  async ({ page }) => {
    await openStart(page, 'tove');
    await page.getByRole('link', { name: 'Models' }).click();
    await page.getByLabel('Model file').setInputFiles({
      name: 'faceted ball.obj',
      mimeType: 'model/obj',
      buffer: Buffer.from(facetedBall()),
    });
    await expect(page.getByRole('heading', { name: 'faceted ball' })).toBeVisible();
    const findings = page.getByLabel('What masks will make of it'),
      facts = page.getByLabel('What it is');
    await expect(findings.getByText(/of its edges are faceted/)).toBeVisible();
    await expect(facts.getByText('1 km × 1 km × 1 km')).toBeVisible();
    await lookedOver(page);
    await expect(page.getByLabel(/^Where it is: .* faceted$/)).toBeVisible();

    await findings.getByRole('button', { name: 'Smooth its normals' }).click();
    await expect(findings.getByRole('button', { name: 'Undo it' })).toBeVisible();
    await lookedOver(page);
    await expect(findings.getByText(/of its edges are faceted/)).toHaveCount(0);
    await expect(
      page.getByText('Fixed: normals are made smooth by angle. The file itself is unchanged.'),
    ).toBeVisible();

    await page.getByLabel('Unit of the file').click();
    await page.getByRole('option', { name: 'millimetre' }).click();
    await expect(facts.getByText('1 m × 1 m × 1 m')).toBeVisible();
    await lookedOver(page);
    await expect(findings.getByText(/is its unit right/)).toHaveCount(0);

    // It is as corrected for the next one who opens it, and the picture of each mask has something
    // on it.
    await page.reload();
    await expect(facts.getByText('1 m × 1 m × 1 m')).toBeVisible();
    await lookedOver(page);
    const shades = await page
      .getByRole('img', { name: 'Thickness: faceted ball' })
      .evaluate((shown: HTMLCanvasElement) => {
        const copy = document.createElement('canvas').getContext('2d');
        copy?.drawImage(shown, 0, 0);
        return new Set(
          copy?.getImageData(0, 0, shown.width, shown.height).data.filter((_, k) => k % 4 === 0),
        ).size;
      });
    expect(shades).toBeGreaterThan(3);
    await findings.getByRole('button', { name: 'Undo it' }).click();
    await expect(findings.getByText(/of its edges are faceted/)).toBeVisible();

    // Models of the whole studio are a librarian's.
    await page.getByRole('button', { name: 'Study form' }).click();
    await expect(page.getByText('Comes with Bright Loom; only librarians change it')).toBeVisible();
    await expect(facts.getByLabel('Unit of the file')).toHaveCount(0);
    const refused = await page.evaluate(
      async () =>
        (
          await fetch('/api/models/demo-study', {
            method: 'PATCH',
            headers: { 'Content-Type': 'application/json' },
            body: JSON.stringify({ before: {}, preparation: { unwrap: true } }),
          })
        ).status,
    );
    expect(refused).toBe(403);
  },
);

test(
  'measuring is stopped and resumed; a worker that ends is replaced and said so; a map ' +
    'measured once is recalled',
  { tag: '@first-visit' },
  async ({ page }) => {
    await newMaterial(page, 'Measured');
    const counts = (): Promise<{
      measured: number;
      recalled: number;
      fetched: number;
      refined: number;
    }> =>
      page.evaluate(() => ({
        ...(window.brightLoomEvaluation?.models.counts ?? {
          measured: -1,
          recalled: -1,
          fetched: -1,
          refined: -1,
        }),
      }));
    await addNode(page, 'occlusion', 60, 60, 'Occlusion');
    await page.getByTestId('progress').getByRole('button', { name: 'Stop' }).click();
    await expect(page.getByTestId('measuring-stopped')).toBeVisible();
    expect(await counts()).toMatchObject({ measured: 0 });
    await page.getByTestId('measuring-stopped').getByRole('button', { name: 'Go on' }).click();
    await untilIdle(page);
    expect(await counts()).toMatchObject({ measured: 1, recalled: 0 });
    // It was seen while it was measured, not only before and after.
    expect((await counts()).refined).toBeGreaterThan(0);

    // One that measures, then the one that answers for swatches.
    await addNode(page, 'thickness', 60, 260, 'Thickness');
    await expect(page.getByTestId('progress')).toBeVisible();
    await page.evaluate(() => {
      window.brightLoomEvaluation?.pool.kill(1);
    });
    await expect(page.getByText(/A worker of the browser ended/).first()).toBeVisible();
    await untilIdle(page);
    expect((await counts()).measured).toBe(2);
    await page.evaluate(() => {
      window.brightLoomEvaluation?.pool.kill(0);
    });
    await untilIdle(page);
    await addNode(page, 'noise', 330, 260, 'Noise');
    await untilIdle(page);
    expect(await page.evaluate(() => window.brightLoomStores?.results.getState().taps.size)).toBe(
      3,
    );
    await expect(page.getByTestId('problem')).toHaveCount(0);
    await expect(page.getByTestId('save-state')).toHaveText('Saved');

    await page.reload();
    await untilIdle(page);
    expect(await counts()).toMatchObject({ measured: 0, recalled: 2, fetched: 0 });
  },
);

test(
  'a worker draws the stage; one that ends is replaced, which is said, and the picture is ' +
    'the same',
  { tag: '@stage' },
  async ({ page }) => {
    await newMaterial(page, 'Drawn off the page');
    await addNode(page, 'noise', 60, 60, 'Noise');
    await card(page, 'Noise').getByRole('button', { name: /^Pin / }).first().click();
    await untilIdle(page);
    // The page cannot draw it: its canvas belongs to the worker.
    expect(
      await page.locator('[data-testid=stage] canvas').evaluate((canvas: HTMLCanvasElement) => {
        try {
          return canvas.getContext('webgl2') === null;
        } catch {
          return true;
        }
      }),
    ).toBe(true);
    const before = await stagePicture(page);
    await page.evaluate(() => {
      window.brightLoomStage?.kill();
    });
    await expect(page.getByText('The 3D view ended, perhaps for lack of memory.')).toBeVisible();
    await untilIdle(page);
    expect(before.equals(await stagePicture(page))).toBe(true);
    await expect(page.locator('[data-testid=stage] canvas')).toHaveCount(1);
    await expect(page.getByTestId('problem')).toHaveCount(0);
    // It listens as the one before did.
    const box = await page.locator('[data-testid=stage] canvas').boundingBox();
    if (!box) throw new Error('no stage');
    await page.mouse.move(box.x + 120, box.y + 200);
    await page.mouse.down();
    await page.mouse.move(box.x + 200, box.y + 200, { steps: 4 });
    await page.mouse.up();
    await untilIdle(page);
    expect(before.equals(await stagePicture(page))).toBe(false);
  },
);

test(
  'a stage that ends again and again stays closed and says so; work goes on without it',
  { tag: '@stage' },
  async ({ page }) => {
    await newMaterial(page, 'Flat');
    for (let k = 0; k < 4; k++) {
      await page.waitForFunction(
        () =>
          window.brightLoomStage !== undefined &&
          !window.brightLoomStage.isBusy &&
          document.querySelectorAll('[data-testid=stage] canvas').length === 1,
      );
      await page.evaluate(() => {
        const ending = window.brightLoomStage;
        delete window.brightLoomStage;
        ending?.kill();
      });
      if (k < 3)
        await expect
          .poll(() => page.evaluate(() => window.brightLoomStage !== undefined))
          .toBe(true);
    }
    await expect(page.getByTestId('stage-failure')).toContainText('ended several times');
    await addNode(page, 'noise', 60, 60, 'Noise');
    await expect(
      card(page, 'Noise').getByRole('img', { name: 'Noise: its output on the model' }),
    ).toBeVisible();
    await expect(page.getByTestId('save-state')).toHaveText('Saved');
  },
);

test(
  'maps of a saved material are measured once on the server, and a browser that has none ' +
    'fetches them',
  async ({ page }) => {
    await openStart(page, 'tove');
    // The worker process measures them after the picture of the material; the browser asks as the
    // editor would.
    await page.goto('/materials/demo-bell-bronze');
    await untilIdle(page);
    const [asked] = await page.evaluate(
      () => window.brightLoomEvaluation?.models.settingsAsked ?? [],
    );
    expect(asked).toMatchObject({ kind: 'occlusion' });
    await expect(async () => {
      expect(
        (
          await page.request.get(
            `/api/models/demo-bell/maps?settings=${encodeURIComponent(JSON.stringify(asked))}`,
          )
        ).status(),
      ).toBe(200);
    }).toPass({ timeout: 150_000 });
    await page.evaluate(
      () =>
        new Promise((resolve) => {
          const gone = indexedDB.deleteDatabase('bright-loom-maps');
          gone.onsuccess =
            gone.onerror =
            gone.onblocked =
              () => {
                resolve(null);
              };
        }),
    );
    await page.reload();
    await untilIdle(page);
    expect(
      await page.evaluate(() => ({ ...window.brightLoomEvaluation?.models.counts })),
    ).toMatchObject({ measured: 0, recalled: 0, fetched: 1 });
  },
);
