/** One act that rewires, by hand: exchange, swap, off and on, channels, lists, linked copies. */
import { encode } from 'fast-png';
import type { Locator, Page } from '@playwright/test';
import {
  addNode,
  card,
  drag,
  expect,
  newMaterial,
  openStored,
  port,
  signIn,
  strands,
  test,
  tidy,
  untilIdle,
} from './studio';
import { BEGUN } from './support/harbour-paint';

const bench = (page: Page): Locator => page.getByTestId('bench');
const toastOf = (page: Page, words: string | RegExp): Locator =>
  page.locator('[data-sonner-toast]').filter({ hasText: words }).first();
async function menu(page: Page, item: string | RegExp): Promise<void> {
  await bench(page).getByRole('button', { name: 'Node …' }).click();
  await page.getByRole('menuitem', { name: item }).click();
}
async function choose(page: Page, label: string, item: string): Promise<void> {
  await page.getByRole('combobox', { name: label }).click();
  await page.getByRole('option', { name: item, exact: true }).click();
}

test('a noise is exchanged for an image in three gestures; its strand and scale stay', async ({
  page,
}) => {
  await newMaterial(page, 'Exchange');
  await addNode(page, 'fractal', 120, 120);
  await addNode(page, 'smoothstep', 360, 120);
  await page.keyboard.press('Escape');
  await tidy(page);
  await drag(
    page,
    port(card(page, 'Fractal noise'), 'output', 'Value'),
    port(card(page, 'Smoothstep'), 'input', 'Value'),
  );
  await card(page, 'Fractal noise').click();
  const scale = bench(page).getByLabel('Scale, number');
  await scale.fill('17');
  await scale.press('Enter');
  await menu(page, /Exchange for another node/);
  await page.getByPlaceholder('What should take its place?').fill('cell');
  await page.keyboard.press('Enter');
  await expect(toastOf(page, '1 strand kept')).toBeVisible();
  await expect(card(page, 'Fractal noise')).toHaveCount(0);
  await expect(strands(page)).toHaveCount(1);
  await expect(bench(page).getByLabel('Scale, number')).toHaveValue('17');
  await menu(page, /Exchange for another node/);
  await page.getByPlaceholder('What should take its place?').fill('image');
  await page.keyboard.press('Enter');
  await expect(card(page, 'Image')).toBeVisible();
  await expect(strands(page)).toHaveCount(1);
  // Escape leaves it as it is.
  await menu(page, /Exchange for another node/);
  await page.keyboard.press('Escape');
  await expect(card(page, 'Image')).toBeVisible();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(card(page, 'Fractal noise')).toBeVisible();
});

test('nodes are switched off and on, alone and together; inputs are swapped', async ({ page }) => {
  await newMaterial(page, 'Off');
  await addNode(page, 'number', 120, 120);
  await addNode(page, 'math', 360, 120);
  await page.keyboard.press('Escape');
  await tidy(page);
  await drag(
    page,
    port(card(page, 'Number'), 'output', 'Value'),
    port(card(page, 'Math'), 'input', 'A'),
  );
  await card(page, 'Number').click();
  const value = bench(page).getByLabel('Value, number');
  await value.fill('0.3');
  await value.press('Enter');
  await card(page, 'Math').click();
  await choose(page, 'Operation', 'Subtract');
  await untilIdle(page);
  const range = card(page, 'Math').getByTestId('range');
  await expect(range).toContainText('0.30');
  await bench(page).getByLabel('B, number').fill('0.2');
  await bench(page).getByLabel('B, number').press('Enter');
  await expect(range).toContainText('0.10');
  await menu(page, 'Swap A and B');
  await expect(range).toContainText('-0.10');
  await page.keyboard.press('Control+z');
  await expect(range).toContainText('0.10');

  await page.keyboard.press('Control+.');
  await expect(toastOf(page, 'off and passes on')).toBeVisible();
  await expect(card(page, 'Math').getByText('off', { exact: true })).toBeVisible();
  await expect(range).toContainText('0.30');
  await bench(page).getByRole('button', { name: 'off: switch on' }).click();
  await expect(range).toContainText('0.10');
  await page.getByTestId('board').focus();
  await page.keyboard.press('Control+a');
  const both = page.getByTestId('selection-bench');
  await expect(both).toContainText('2 nodes');
  await both.getByRole('button', { name: 'Switch off or on' }).click();
  await expect(card(page, 'Number').getByText('off', { exact: true })).toBeVisible();
  await toastOf(page, '2 nodes are off').getByRole('button', { name: 'Undo' }).click();
  await expect(range).toContainText('0.10');
});

test('a strand carries one channel, and an operation put on it changes nothing at first', async ({
  page,
}) => {
  await signIn(page, 'tove');
  await openStored(page, BEGUN, 'demo-buoy');
  await untilIdle(page);
  await addNode(page, 'levels', 560, 300);
  await page.keyboard.press('Escape');
  await tidy(page);
  await drag(
    page,
    port(card(page, 'Ramp'), 'output', 'Colour'),
    port(card(page, 'Levels'), 'input', 'Value'),
  );
  const strand = strands(page).last();
  await strand.click();
  await expect(page.getByTestId('strand-bench')).toContainText('Ramp');
  await choose(page, 'Conversion', 'First (x, red)');
  await expect(page.getByTestId('strand-bench')).toContainText('First (x, red)');
  const count = await strands(page).count();
  await page.getByTestId('board').focus();
  await strand.click();
  await page.keyboard.press('m');
  await page.getByPlaceholder('What should it do?').fill('multiply');
  await page.keyboard.press('Enter');
  await expect(strands(page)).toHaveCount(count + 1);
  await expect(bench(page).getByLabel('B, number')).toHaveValue('1');
});

test('a mask is repeated for five beacons into one list; a linked copy is edited once', async ({
  page,
}) => {
  await newMaterial(page, 'Beacons');
  await addNode(page, 'beacon', 120, 120);
  await addNode(page, 'union', 420, 120);
  await page.keyboard.press('Escape');
  await tidy(page);
  await card(page, 'Beacon').click();
  await bench(page).getByRole('button', { name: 'Node …' }).waitFor();
  await expect(page.getByRole('button', { name: 'Repeat in its list' })).toHaveCount(0);
  await drag(
    page,
    port(card(page, 'Beacon'), 'output', 'Mask'),
    port(card(page, 'Union'), 'input', 'Masks'),
  );
  await expect(strands(page)).toHaveCount(1);
  await card(page, 'Beacon').click();
  await page.getByRole('button', { name: 'Repeat in its list' }).click();
  await expect(card(page, 'Beacon')).toHaveCount(1);
  for (const k of [2, 3, 4, 5]) await expect(card(page, `Beacon ${String(k)}`)).toHaveCount(1);
  await expect(strands(page)).toHaveCount(5);
  await page.keyboard.press('Control+z');
  await expect(card(page, 'Beacon')).toHaveCount(1);

  await card(page, 'Beacon').click();
  await menu(page, /Add a linked copy/);
  await expect(card(page, 'Beacon')).toHaveCount(2);
  await expect(bench(page)).toContainText('edited together with its copies');
  const name = bench(page).getByLabel('Name', { exact: true });
  await name.fill('Wet foot');
  await name.press('Enter');
  await expect(card(page, 'Wet foot')).toHaveCount(2);
  await menu(page, 'Edit this one alone');
  await name.fill('Dry top');
  await name.press('Enter');
  await expect(card(page, 'Wet foot')).toHaveCount(1);
});

/** A small PNG with a colour, as a file that is dropped somewhere. */
async function dropFiles(page: Page, onto: Locator, names: readonly string[]): Promise<void> {
  const png = encode({ width: 2, height: 2, channels: 3, depth: 8, data: pixels(names.length) });
  const files = await page.evaluateHandle(
    ([bytes, given]) => {
      const transfer = new DataTransfer();
      for (const name of given) {
        const content = name.endsWith('.png') ? new Uint8Array(bytes) : 'no image at all';
        transfer.items.add(new File([content], name));
      }
      return transfer;
    },
    [[...png], names] as const,
  );
  await onto.dispatchEvent('drop', { dataTransfer: files, clientX: 700, clientY: 240 });
}
const pixels = (seed: number): Uint8Array =>
  Uint8Array.from({ length: 12 }, (_, k) => (k * 37 + seed * 11) % 256);

test('images are dropped on the board, several at once, and on a card to exchange it', async ({
  page,
}) => {
  await newMaterial(page, 'Images');
  await addNode(page, 'fractal', 120, 120);
  await addNode(page, 'smoothstep', 360, 120);
  await page.keyboard.press('Escape');
  await tidy(page);
  await drag(
    page,
    port(card(page, 'Fractal noise'), 'output', 'Value'),
    port(card(page, 'Smoothstep'), 'input', 'Value'),
  );
  await expect(strands(page)).toHaveCount(1);
  await dropFiles(page, page.getByTestId('board').locator('.react-flow__pane'), [
    'kelp.png',
    'slate.png',
  ]);
  await expect(card(page, 'Image')).toHaveCount(2);
  await page.keyboard.press('Control+z');
  await expect(card(page, 'Image')).toHaveCount(0);
  await dropFiles(page, card(page, 'Fractal noise'), ['kelp.png']);
  await expect(card(page, 'Image')).toHaveCount(1);
  await expect(strands(page)).toHaveCount(1);
  await expect(page.getByTestId('flat-image')).toBeVisible();
  // Read where the surface under the pointer reads it.
  await untilIdle(page);
  const box = await page.getByTestId('stage').boundingBox();
  if (!box) throw new Error('no stage');
  await expect(async () => {
    await page.mouse.move(box.x + box.width / 2 + Math.random() * 4, box.y + box.height / 2);
    await expect(page.getByTestId('sampled-place')).toBeVisible({ timeout: 300 });
  }).toPass();
  // What is no image is refused by its name, and nothing is lost.
  await dropFiles(page, card(page, 'Image'), ['note.jpg']);
  await expect(toastOf(page, 'note.jpg:')).toBeVisible();
  await expect(page.getByTestId('image-image')).toContainText('kelp.png');
});
