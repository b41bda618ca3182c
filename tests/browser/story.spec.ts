import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import type { Page } from '@playwright/test';
import { NodeIO } from '@gltf-transform/core';
import { decode } from 'fast-png';
import {
  addNode,
  card,
  drag,
  port,
  saved,
  settled,
  signIn,
  stagePicture,
  strands,
  tidy,
} from './studio';

test.describe.configure({ mode: 'serial', timeout: 900_000 });
/**
 * The README's pictures are made anew only when that is asked for: `REFRESH_PICTURES=yes npx
 * playwright test story`.
 */
async function picture(page: Page, name: string): Promise<void> {
  if (process.env['REFRESH_PICTURES'])
    await page.screenshot({ path: `docs/screenshots/${name}.png` });
}

test('an author paints a buoy, packages the paint and publishes it; an artist uses it', async ({
  page,
  browser,
}) => {
  const complaints: string[] = [];
  page.on('pageerror', (error) => complaints.push(error.message));

  await test.step('the start page lists materials with swatches', async () => {
    await signIn(page, 'maren');
    await expect(page.getByRole('link', { name: /Painted tin/ }).first()).toBeVisible();
    await expect(page.locator('img[alt="Painted tin on Channel buoy"]')).toHaveJSProperty(
      'complete',
      true,
    );
    await picture(page, 'start');
  });

  await test.step('the editor shows stage, board and bench; maps refine', async () => {
    await page.getByRole('link', { name: /^Painted tin on Channel buoy/ }).click();
    await expect(card(page, 'Chipped paint')).toBeVisible();
    await settled(page);
    await expect(card(page, 'Edges').getByTestId('range')).toHaveText(/0\.00.*1\.00/);
    await card(page, 'Old red').click();
    await expect(page.getByTestId('ramp-histogram')).toBeVisible();
    await picture(page, 'editor');
  });

  await test.step('a pinned value shows flat, and the same action returns', async () => {
    const surface = await stagePicture(page);
    await card(page, 'Chips').getByRole('button', { name: 'Pin Chips on the stage' }).click();
    await expect(page.getByTestId('pinned')).toBeVisible();
    await settled(page);
    expect((await stagePicture(page)).equals(surface)).toBe(false);
    await card(page, 'Chips').getByRole('button', { name: 'Take Chips off the stage' }).click();
    await settled(page);
    expect((await stagePicture(page)).equals(surface)).toBe(true);
  });

  await test.step('a new material begins as clay on the buoy', async () => {
    await page.goto('/materials');
    await page.getByLabel('Name of the new material').fill('Harbour paint');
    await page.getByRole('button', { name: 'Create' }).click();
    await page.waitForURL(/\/materials\/[0-9a-f-]{36}$/);
    await expect(page.getByTestId('board')).toBeVisible();
    await settled(page);
  });

  await test.step('nodes are found by what they do', async () => {
    await addNode(page, 'surface', 480, 60);
    await addNode(page, 'fractal', 60, 60);
    await addNode(page, 'ramp', 250, 60);
    await addNode(page, 'flip', 60, 290);
    await expect(card(page, 'Math').getByText('Invert')).toBeVisible();
    await addNode(page, 'edge', 250, 290);
    await expect(card(page, 'Curvature')).toBeVisible();
  });

  await test.step('strands are laid by dragging; only fitting ports light up', async () => {
    const from = port(card(page, 'Surface'), 'output', 'Surface');
    const box = await from.boundingBox();
    if (!box) throw new Error('no port');
    await page.mouse.move(box.x + 6, box.y + 6);
    await page.mouse.down();
    await page.mouse.move(box.x + 40, box.y + 20, { steps: 3 });
    await expect(page.locator('.connecting .port.fits')).toHaveCount(1);
    await page.mouse.up();
    await page.keyboard.press('Escape');
    await drag(
      page,
      port(card(page, 'Surface'), 'output', 'Surface'),
      page.getByTestId('selvedge-out').locator('.port'),
    );
    await drag(
      page,
      port(card(page, 'Ramp'), 'output', 'Colour'),
      port(card(page, 'Surface'), 'input', 'Base colour'),
    );
    await drag(
      page,
      port(card(page, 'Fractal noise'), 'output', 'Value'),
      port(card(page, 'Ramp'), 'input', 'Value'),
    );
    await expect(strands(page)).toHaveCount(3);
  });

  await test.step('insert into a strand, delete with healing, undo and redo', async () => {
    await page.locator('[data-strand]').first().waitFor();
    const id = await page.evaluate(() =>
      [...document.querySelectorAll('[data-strand]')].at(-1)?.getAttribute('data-strand'),
    );
    await page.locator(`[data-strand="${id ?? ''}"]`).click({ force: true });
    await page.keyboard.type('levels');
    await page.keyboard.press('Enter');
    await expect(strands(page)).toHaveCount(4);
    await expect(card(page, 'Levels')).toBeVisible();
    await card(page, 'Levels').click();
    await page.keyboard.press('Delete');
    await expect(card(page, 'Levels')).toHaveCount(0);
    await expect(strands(page)).toHaveCount(3);
    await page.keyboard.press('Control+z');
    await expect(card(page, 'Levels')).toBeVisible();
    await expect(strands(page)).toHaveCount(4);
    await page.keyboard.press('Control+Shift+z');
    await expect(strands(page)).toHaveCount(3);
  });

  await test.step('duplicate with and without incoming strands, copy and paste', async () => {
    await card(page, 'Ramp').click();
    await page.keyboard.press('Control+d');
    await expect(card(page, 'Ramp')).toHaveCount(2);
    await expect(strands(page)).toHaveCount(3);
    await page.keyboard.press('Delete');
    await card(page, 'Ramp').click();
    await page.keyboard.press('Control+Shift+d');
    await expect(strands(page)).toHaveCount(4);
    await page.keyboard.press('Delete');
    await expect(card(page, 'Ramp')).toHaveCount(1);
    await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
    await card(page, 'Math').click();
    await page.keyboard.press('Control+c');
    await page.keyboard.press('Control+v');
    await expect(card(page, 'Math')).toHaveCount(2);
    await page.keyboard.press('Delete');
    await expect(card(page, 'Math')).toHaveCount(1);
  });

  await test.step('a ramp is edited over the histogram; dragging recompiles nothing', async () => {
    await card(page, 'Ramp').click();
    await settled(page);
    const before = await stagePicture(page);
    const compilations = await page.evaluate(
      () => window.brightLoomEvaluation?.counts.compilations,
    );
    await page.getByRole('button', { name: 'Add stop' }).click();
    await page.getByLabel('Stop colour').fill('#b03020');
    await page.getByRole('button', { name: 'Reverse' }).click();
    const stop = page.getByTestId('stop-s3');
    const box = await stop.boundingBox();
    if (!box) throw new Error('no stop');
    await page.mouse.move(box.x + 5, box.y + 10);
    await page.mouse.down();
    await page.mouse.move(box.x + 60, box.y + 10, { steps: 6 });
    await page.mouse.up();
    await page.getByLabel('Way to the next stop').click();
    await page.getByRole('option', { name: 'Smooth' }).click();
    await settled(page);
    expect((await stagePicture(page)).equals(before)).toBe(false);
    expect(await page.evaluate(() => window.brightLoomEvaluation?.counts.compilations)).toBe(
      compilations,
    );
  });

  await test.step('chips: curvature through a smoothstep into a layer', async () => {
    await addNode(page, 'smoothstep', 430, 290);
    await addNode(page, 'layer', 610, 200);
    await addNode(page, 'surface', 610, 20);
    await page.keyboard.press('Escape');
    await tidy(page);
    await drag(
      page,
      port(card(page, 'Curvature'), 'output', 'Convex'),
      port(card(page, 'Smoothstep'), 'input', 'Value'),
    );
    await drag(
      page,
      port(card(page, 'Smoothstep'), 'output', 'Mask'),
      port(card(page, 'Layer'), 'input', 'Where'),
    );
    await drag(
      page,
      port(card(page, 'Surface').first(), 'output', 'Surface'),
      port(card(page, 'Layer'), 'input', 'Under'),
    );
    await drag(
      page,
      port(card(page, 'Surface').last(), 'output', 'Surface'),
      port(card(page, 'Layer'), 'input', 'Over'),
    );
    await drag(
      page,
      port(card(page, 'Layer'), 'output', 'Surface'),
      page.getByTestId('selvedge-out').locator('.port'),
    );
    await expect(strands(page)).toHaveCount(7);
    await card(page, 'Surface').last().click();
    await page.getByLabel('Metalness, number').fill('1');
    await page.getByLabel('Metalness, number').press('Enter');
    await tidy(page);
    await settled(page);
    await saved(page);
  });

  let beforeGroup: Buffer = Buffer.alloc(0);
  await test.step('everything is there after a reload', async () => {
    const count = await strands(page).count();
    await page.reload();
    await expect(card(page, 'Layer')).toBeVisible();
    await expect(strands(page)).toHaveCount(count);
    await settled(page);
    beforeGroup = await stagePicture(page);
  });

  await test.step('packaging changes nothing that is seen', async () => {
    await card(page, 'Curvature').click();
    await card(page, 'Smoothstep').click({ modifiers: ['Shift'] });
    await card(page, 'Fractal noise').click({ modifiers: ['Shift'] });
    await card(page, 'Ramp').click({ modifiers: ['Shift'] });
    await page.getByRole('button', { name: 'Package' }).click();
    await expect(card(page, 'New group')).toBeVisible();
    await settled(page);
    expect((await stagePicture(page)).equals(beforeGroup)).toBe(true);
  });

  await test.step('inside: dials with their laws, and the proof', async () => {
    await card(page, 'New group').dblclick();
    await expect(page.getByTestId('front')).toBeVisible();
    await expect(page.getByTestId('outside')).toBeVisible();
    await page.getByLabel('Group name').fill('Chipped paint');
    await page.getByLabel('Group name').press('Enter');
    await card(page, 'Fractal noise').click();
    await page.getByRole('button', { name: 'Make Scale a dial' }).click();
    await expect(page.getByTestId('expose').locator('canvas')).toHaveCount(6);
    await page.getByLabel('Name of the new dial').fill('Blotch size');
    await page.getByRole('radio', { name: /times/ }).click();
    await page.getByRole('button', { name: 'Make the dial' }).click();
    await card(page, 'Smoothstep').click();
    await page.getByRole('button', { name: 'Make Edge a dial' }).click();
    await page.getByLabel('Name of the new dial').fill('Wear');
    await page.getByRole('radio', { name: /lift/ }).click();
    await page.getByRole('button', { name: 'Make the dial' }).click();
    await expect(page.getByTestId('proof')).toContainText('identical', { timeout: 60_000 });
    await settled(page);
    expect((await stagePicture(page)).equals(beforeGroup)).toBe(true);
    await picture(page, 'group-editor');
  });

  await test.step('a dial moves the look and goes home; one drives several values', async () => {
    const wear = page.getByLabel('Wear, number');
    await wear.fill('0.4');
    await wear.press('Enter');
    await settled(page);
    expect((await stagePicture(page)).equals(beforeGroup)).toBe(false);
    await page.getByRole('button', { name: 'home' }).click();
    await settled(page);
    expect((await stagePicture(page)).equals(beforeGroup)).toBe(true);
    await card(page, 'Smoothstep').click();
    await page.getByRole('button', { name: 'Make Width a dial' }).click();
    await page.getByLabel('New dial or one there is').click();
    await page.getByRole('option', { name: 'part of Wear' }).click();
    await page.getByRole('radio', { name: /times/ }).click();
    await page.getByRole('button', { name: 'Add to the dial' }).click();
    await expect(page.getByTestId('proof')).toContainText('identical', { timeout: 60_000 });
  });

  await test.step('a value changed inside is found by the proof and refused', async () => {
    await card(page, 'Smoothstep').click();
    await page.getByLabel('Edge, number').fill('0.61');
    await page.getByLabel('Edge, number').press('Enter');
    await expect(page.getByTestId('proof')).toContainText('different', { timeout: 60_000 });
    await expect(page.getByTestId('proof')).toContainText('edge');
    await page.getByRole('button', { name: 'Publish this group' }).click();
    await page.getByRole('button', { name: /^Publish 1\.0\.0/ }).click();
    await expect(page.getByTestId('publish-failure')).toContainText(
      'does not look like the network it came from',
      { timeout: 90_000 },
    );
    await page.getByRole('button', { name: 'Close' }).click();
    await page.getByLabel('Edge, number').focus();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByTestId('proof')).toContainText('identical', { timeout: 60_000 });
  });

  await test.step('published to the studio rack as 1.0.0', async () => {
    await page.getByRole('button', { name: 'Publish this group' }).click();
    await page
      .getByLabel('Description', { exact: true })
      .fill('Blotched paint with a mask of its worn edges.');
    await page.getByLabel('Tags, with commas between').fill('paint, wear, edges');
    await page.getByRole('button', { name: /^Publish 1\.0\.0/ }).click();
    await expect(page.getByText('Published Chipped paint 1.0.0 to the studio rack')).toBeVisible({
      timeout: 90_000,
    });
  });

  const original = await page.evaluate(
    async () =>
      (
        (await (await fetch(location.pathname.replace('/materials', '/api/materials'))).json()) as {
          document: unknown;
        }
      ).document,
  );
  const originalPath = new URL(page.url()).pathname;

  const other = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
  });
  const artist = await other.newPage();
  await test.step('an artist finds it by search and sees its front', async () => {
    await signIn(artist, 'ilo');
    await artist.getByRole('link', { name: 'Library' }).click();
    await artist.getByLabel('Search the library').fill('worn edges');
    await expect(artist.getByTestId('entry-Chipped paint')).toBeVisible();
    await expect(artist.getByTestId('entry-Crackle')).toHaveCount(0);
    await artist.getByRole('link', { name: 'Chipped paint' }).click();
    await expect(artist.getByRole('cell', { name: 'Blotch size' })).toBeVisible();
    await expect(artist.getByText(/proof: identical at 4,096 points/)).toBeVisible();
    await picture(artist, 'library-entry');
  });

  await test.step('places it on another model, sets its dials, wires a mask into one', async () => {
    await artist.goto('/materials');
    await artist.getByLabel('Name of the new material').fill('Old float');
    await artist.getByLabel('Model', { exact: true }).click();
    await artist.getByRole('option', { name: 'String of floats' }).click();
    await artist.getByRole('button', { name: 'Create' }).click();
    await expect(artist.getByTestId('board')).toBeVisible();
    await artist.getByRole('button', { name: 'Library' }).click();
    await artist.getByLabel('Search the library').fill('chipped');
    await artist.getByTestId('entry-Chipped paint').getByRole('button', { name: 'Place' }).click();
    await expect(card(artist, 'Chipped paint')).toBeVisible();
    await addNode(artist, 'surface', 420, 120);
    await addNode(artist, 'slope', 60, 320);
    await tidy(artist);
    await drag(
      artist,
      port(card(artist, 'Chipped paint'), 'output', 'Colour'),
      port(card(artist, 'Surface'), 'input', 'Base colour'),
    );
    await drag(
      artist,
      port(card(artist, 'Surface'), 'output', 'Surface'),
      artist.getByTestId('selvedge-out').locator('.port'),
    );
    await drag(
      artist,
      port(card(artist, 'Slope'), 'output', 'Slope'),
      port(card(artist, 'Chipped paint'), 'input', 'Blotch size'),
    );
    await expect(strands(artist)).toHaveCount(3);
    await card(artist, 'Chipped paint').click();
    await artist.getByLabel('Wear, number').fill('0.5');
    await artist.getByLabel('Wear, number').press('Enter');
    await settled(artist);
    await saved(artist);
  });

  await test.step('the author’s material is untouched', async () => {
    const now = await page.evaluate(
      async (at) =>
        (
          (await (await fetch(at.replace('/materials', '/api/materials'))).json()) as {
            document: unknown;
          }
        ).document,
      originalPath,
    );
    expect(now).toEqual(original);
  });

  await test.step('baked maps and the GLB download and open', async () => {
    await artist.getByRole('button', { name: 'Bake' }).click();
    await artist.getByRole('combobox', { name: 'Size' }).click();
    await artist.getByRole('option', { name: '512 × 512' }).click();
    await artist.getByRole('combobox', { name: 'Depth' }).click();
    await artist.getByRole('option', { name: '16 bit' }).click();
    await artist.getByRole('button', { name: 'Bake', exact: true }).last().click();
    await expect(artist.getByTestId('bake-message')).toHaveText('Wrote 7 files at 512 × 512.', {
      timeout: 150_000,
    });
    await picture(artist, 'bake');
    const fetchFile = async (name: string): Promise<Buffer> => {
      const [download] = await Promise.all([
        artist.waitForEvent('download'),
        artist.getByRole('link', { name }).click(),
      ]);
      return readFileSync(await download.path());
    };
    const colour = decode(await fetchFile('old-float-base-colour.png'));
    expect([colour.width, colour.height, colour.depth, colour.channels]).toEqual([512, 512, 16, 3]);
    expect(new Set(colour.data).size).toBeGreaterThan(1000);
    const model = await new NodeIO().readBinary(new Uint8Array(await fetchFile('old-float.glb')));
    expect(model.getRoot().listMaterials()[0]?.getBaseColorTexture()?.getSize()).toEqual([
      512, 512,
    ]);
    expect(
      model.getRoot().listMeshes()[0]?.listPrimitives()[0]?.getAttribute('TEXCOORD_0'),
    ).toBeTruthy();
  });
  expect(complaints).toEqual([]);
  await other.close();
});
