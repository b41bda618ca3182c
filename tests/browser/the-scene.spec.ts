import { listLights } from '@/core/compile/lights';
import { lightHandle } from '@/core/edit/light-drag';
import { decode } from 'fast-png';
import { Document, WebIO } from '@gltf-transform/core';
import { KHRDracoMeshCompression } from '@gltf-transform/extensions';
import type { Page } from '@playwright/test';
import draco from 'draco3d';
import { documentOf, node } from '../support/networks';
import {
  addNode,
  card,
  drag,
  expect,
  newMaterial,
  openStored,
  port,
  signIn,
  stagePicture,
  test,
  untilAwake,
  untilIdle,
} from './studio';

const seenAt = (
  page: Page,
  place: readonly [number, number, number],
): Promise<readonly [number, number]> =>
  page.evaluate((at) => window.brightLoomStage?.project(at) ?? ([0, 0] as const), place);

test(
  'a beacon is dragged by its handle in one undoable step; lights move what follows them; ' +
    'parts are chosen by name; a strand is bent',
  { tag: '@stage' },
  async ({ page }) => {
    await newMaterial(page, 'Scene trial');
    await addNode(page, 'helper', 60, 40, 'Beacon');
    const tools = page.getByTestId('beacon-tools');
    await expect(tools.getByRole('button', { name: 'Beacon', exact: true })).toHaveAttribute(
      'aria-pressed',
      'true',
    );
    const height = page.getByLabel('Place y');
    await expect(height).toHaveValue('0.25');

    // The arrow upwards stands some way above the middle of the beacon.
    const place = await page.evaluate(() => {
      const { model } = window.brightLoomStores?.stage.getState() ?? {};
      if (!model) throw new Error('no model');
      const { minimum, extent, size } = model.scale;
      return [
        minimum[0] + extent[0] / 2,
        minimum[1] + extent[1] / 2 + 0.25 * size,
        minimum[2] + extent[2] / 2,
      ] as const;
    });
    const [x, y] = await seenAt(page, place);
    await page.mouse.move(x, y - 48);
    await page.mouse.down();
    await page.mouse.move(x, y - 80, { steps: 5 });
    await page.mouse.move(x, y - 100, { steps: 5 });
    await page.mouse.up();
    await expect(height).not.toHaveValue('0.25');
    await expect.poll(async () => Number(await height.inputValue())).toBeGreaterThan(0.3);
    await page.keyboard.press('Control+z');
    await expect(height).toHaveValue('0.25');
    await tools.getByRole('button', { name: 'Extent' }).click();
    await expect(tools.getByRole('button', { name: 'Extent' })).toHaveAttribute(
      'aria-pressed',
      'true',
    );
    await tools.getByLabel('Find it on the stage').click();

    // A light that is moved changes what follows the lights, and nothing is compiled for it.
    await addNode(page, 'lambert', 60, 260, 'Light response');
    await untilIdle(page);
    await card(page, 'Light response').getByRole('button', { name: /^Pin / }).first().click();
    await untilIdle(page);
    const before = await stagePicture(page);
    const compilations = (): Promise<number> =>
      page.evaluate(() => window.brightLoomEvaluation?.counts.compilations ?? -1);
    const known = await compilations();
    await page.getByRole('button', { name: 'Lights', exact: true }).click();
    await page.getByLabel('Azimuth of Key, degrees').fill('-140');
    await page.getByLabel('Azimuth of Key, degrees').press('Enter');
    await untilIdle(page);
    expect(before.equals(await stagePicture(page))).toBe(false);
    expect(await compilations()).toBe(known);
    await dragKeyLight(page);
    for (const light of ['Key', 'Fill']) {
      await page.getByLabel(`Strength of ${light}, number`).fill('0');
      await page.getByLabel(`Strength of ${light}, number`).press('Enter');
    }
    await expect(page.getByText('No light is on')).toBeVisible();
    await page.keyboard.press('Escape');
    // The panel gives the focus back when it is gone.
    await expect(page.getByRole('button', { name: 'Lights', exact: true })).toBeFocused();

    // Parts have the names the file gave them.
    await addNode(page, 'distance to', 330, 260, 'Proximity');
    await page.getByRole('combobox', { name: 'To', exact: true }).click();
    await page.getByRole('option', { name: 'A part' }).click();
    await page.getByRole('combobox', { name: 'Part', exact: true }).click();
    await page.getByRole('option', { name: 'rivets' }).click();
    await untilIdle(page);
    await expect(page.getByTestId('problem')).toHaveCount(0);
    await expect(page.getByRole('combobox', { name: 'Part', exact: true })).toHaveText('rivets');

    await drag(
      page,
      port(card(page, 'Beacon'), 'output', 'Mask'),
      port(card(page, 'Proximity'), 'input', 'At far'),
    );
    await page
      .locator('[data-strand]')
      .last()
      .dispatchEvent('dblclick', { clientX: 900, clientY: 200 });
    await expect(page.getByTestId('bend')).toHaveCount(1);
    await page.getByTestId('bend').click();
    await page.keyboard.press('Delete');
    await expect(page.getByTestId('bend')).toHaveCount(0);
  },
);

/** Takes the key light by its mark on the stage; the step is undone as one. */
async function dragKeyLight(page: Page): Promise<void> {
  const { document, bounds } = await page.evaluate(() => {
    const stores = window.brightLoomStores;
    const { model } = stores?.stage.getState() ?? {};
    if (!stores || !model) throw new Error('no model');
    const { minimum, extent, size } = model.scale;
    return { document: stores.document.getState().document, bounds: { minimum, extent, size } };
  });
  const light = listLights(document).find(({ id }) => id === 'key');
  if (!light) throw new Error('no light');
  const azimuth = page.getByLabel('Azimuth of Key, degrees');
  const before = await azimuth.inputValue();
  const [x, y] = await seenAt(page, [...lightHandle(light, bounds)]);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 30, y + 5, { steps: 4 });
  await page.mouse.move(x + 60, y + 10, { steps: 4 });
  await page.mouse.up();
  await expect(azimuth).not.toHaveValue(before);
  await expect(page.getByTitle('Undo: Moved a light (Ctrl+Z)')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(azimuth).toHaveValue(before);
}

/**
 * How often white meets black along a row of the stage, and how often the chosen beacon's line lies
 * between.
 */
async function bordersOf(page: Page): Promise<{ readonly all: number; readonly lined: number }> {
  const { data, channels, width, height } = decode(await stagePicture(page));
  const found = { all: 0, lined: 0 };
  for (let y = 0; y < height; y++) {
    let last: { readonly at: number; readonly isWhite: boolean } | null = null,
      isLined = false;
    for (let x = 0; x < width; x++) {
      const at = (y * width + x) * channels;
      const [r, g, b, covered] = [
        data[at] ?? 0,
        data[at + 1] ?? 0,
        data[at + 2] ?? 0,
        (data[at + 3] ?? 255) > 250,
      ];
      const isWhite = Math.min(r, g, b) > 250;
      if (!covered) last = null;
      else if (isWhite || Math.max(r, g, b) < 12) {
        if (last && last.isWhite !== isWhite && x - last.at < 9) {
          found.all++;
          if (isLined) found.lined++;
        }
        last = { at: x, isWhite };
        isLined = false;
      } else if (r > 150 && g > 120 && b < r * 0.75) isLined = true;
    }
  }
  return found;
}

test(
  'the boundary of a beacon is drawn where its mask ends, whatever its shape',
  { tag: '@stage' },
  async ({ page }) => {
    await signIn(page, 'tove');
    for (const [shape, place, extent] of [
      ['sphere', [0.1, 0.1, 0.25], [0.3, 0.2, 0.35]],
      ['box', [0.05, 0, 0.2], [0.15, 0.12, 0.4]],
      ['cylinder', [0, 0.05, 0.2], [0.2, 0.2, 0.4]],
      ['half-space', [0, -0.05, 0], [0.3, 0.3, 0.3]],
    ] as const) {
      const beacon = {
        ...node(
          'b',
          'model.beacon',
          { place, extent, turn: [10, 20, shape === 'half-space' ? -35 : 35], inner: 1 },
          { shape },
        ),
        at: [60, 60] as const,
      };
      await openStored(page, documentOf([beacon]), 'demo-buoy');
      await untilIdle(page);
      await card(page, 'Beacon').click();
      await page.getByRole('button', { name: 'Pin Beacon on the stage' }).click();
      await untilIdle(page);
      const { all, lined } = await bordersOf(page);
      expect(all).toBeGreaterThan(40);
      // Where one thing stands before another, white meets black without a boundary between.
      expect(lined / all).toBeGreaterThan(0.8);
    }
  },
);

test('a Draco-compressed model and an OBJ are brought in by the browser', async ({ page }) => {
  await signIn(page, 'tove');
  const document = new Document();
  const buffer = document.createBuffer();
  const side = 10;
  const vertices = Array.from({ length: side * side }, (_, k) => [
    (k % side) / side,
    0,
    Math.floor(k / side) / side,
  ]).flat();
  const indices = Array.from({ length: (side - 1) ** 2 }, (_, k) => {
    const v = Math.floor(k / (side - 1)) * side + (k % (side - 1));
    return [v, v + side, v + 1, v + 1, v + side, v + side + 1];
  }).flat();
  const primitive = document
    .createPrimitive()
    .setAttribute(
      'POSITION',
      document
        .createAccessor()
        .setType('VEC3')
        .setArray(Float32Array.from(vertices))
        .setBuffer(buffer),
    )
    .setIndices(
      document
        .createAccessor()
        .setType('SCALAR')
        .setArray(Uint16Array.from(indices))
        .setBuffer(buffer),
    );
  document
    .createScene()
    .addChild(document.createNode('deck').setMesh(document.createMesh().addPrimitive(primitive)));
  document.createExtension(KHRDracoMeshCompression).setRequired(true);
  const bytes = await new WebIO()
    .registerExtensions([KHRDracoMeshCompression])
    .registerDependencies({ 'draco3d.encoder': await draco.createEncoderModule() })
    .writeBinary(document);
  const obj =
    'o mast\nv 0 0 0\nv 0.2 0 0\nv 0 2 0\nf 1 2 3\no sail\nv 0 0 0.1\nv 1 0 0.1\nv 0 2 ' +
    '0.1\nf 4 5 6\n';
  for (const [name, content, parts] of [
    ['deck.glb', Buffer.from(bytes), ['deck']],
    ['boat.obj', Buffer.from(obj), ['mast', 'sail']],
  ] as const) {
    await page.goto('/materials');
    await untilAwake(page);
    await page
      .locator('input[type=file]:not([accept*=zip])')
      .setInputFiles({ name, mimeType: 'application/octet-stream', buffer: content });
    await page.waitForURL(/\/materials\/[0-9a-f-]{36}$/, { timeout: 60_000 });
    await untilIdle(page);
    expect(
      await page.evaluate(() => window.brightLoomStores?.stage.getState().model?.parts),
    ).toEqual(parts);
  }
});
