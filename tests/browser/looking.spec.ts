import { decode } from 'fast-png';
import type { Page } from '@playwright/test';
import {
  addNode,
  card,
  drag,
  expect,
  newMaterial,
  port,
  stagePicture,
  test,
  untilIdle,
} from './studio';

interface Tones {
  readonly chroma: number;
  readonly spread: number;
  readonly mean: number;
}
/** How colourful the model's pixels are, and how far their greys reach. */
async function tones(page: Page): Promise<Tones> {
  const { data, channels } = decode(await stagePicture(page));
  const greys: number[] = [];
  let chroma = 0;
  for (let k = 0; k < data.length; k += channels) {
    if ((data[k + 3] ?? 255) === 0) continue;
    const [r, g, b] = [data[k] ?? 0, data[k + 1] ?? 0, data[k + 2] ?? 0];
    chroma = Math.max(chroma, Math.max(r, g, b) - Math.min(r, g, b));
    greys.push((r + g + b) / 3);
  }
  greys.sort((a, b) => a - b);
  return {
    chroma,
    spread:
      (greys[Math.floor(greys.length * 0.98)] ?? 0) - (greys[Math.floor(greys.length * 0.02)] ?? 0),
    mean: greys.reduce((sum, grey) => sum + grey, 0) / greys.length,
  };
}
const look = (page: Page, name: string): Promise<void> =>
  page.getByRole('radio', { name, exact: true }).click();

test(
  'clay shows the shape alone, exaggerating stretches what is faint, surroundings turn and ' +
    'dim; nothing of the material changes but what is saved with it',
  { tag: '@stage' },
  async ({ page }) => {
    await newMaterial(page, 'Looked at');
    await addNode(page, 'surface', 330, 60, 'Surface');
    await drag(
      page,
      port(card(page, 'Surface'), 'output', 'Surface'),
      page.getByTestId('selvedge-out').locator('.port'),
    );
    await untilIdle(page);
    await card(page, 'Surface').click();
    const red = page.getByLabel('Base colour red'),
      green = page.getByLabel('Base colour green'),
      blue = page.getByLabel('Base colour blue');
    for (const [field, value] of [
      [red, '0.7'],
      [green, '0.05'],
      [blue, '0.02'],
    ] as const) {
      await field.fill(value);
      await field.press('Enter');
    }
    await untilIdle(page);
    const coloured = await tones(page),
      before = await stagePicture(page);
    expect(coloured.chroma).toBeGreaterThan(80);

    await look(page, 'Clay');
    await untilIdle(page);
    const clay = await tones(page);
    expect(clay.chroma).toBeLessThan(coloured.chroma * 0.5);
    expect(clay.mean).toBeGreaterThan(60);
    await look(page, 'As it is');
    await untilIdle(page);
    expect(before.equals(await stagePicture(page))).toBe(true);

    // A faint noise, pinned: nearly one grey until it is exaggerated.
    await addNode(page, 'noise', 60, 60, 'Noise');
    await addNode(page, 'remap', 60, 300, 'Remap');
    await drag(
      page,
      port(card(page, 'Noise'), 'output', 'Value'),
      port(card(page, 'Remap'), 'input', 'Value'),
    );
    await card(page, 'Remap').click();
    for (const [name, value] of [
      ['Out low, number', '0.45'],
      ['Out high, number', '0.55'],
    ] as const) {
      const field = page.getByLabel(name);
      await field.fill(value);
      await field.press('Enter');
    }
    await card(page, 'Remap').getByRole('button', { name: /^Pin / }).first().click();
    await untilIdle(page);
    const faint = await tones(page);
    await look(page, 'Exaggerated');
    await untilIdle(page);
    await expect(page.getByTestId('stretch')).toContainText('Black is 0.4');
    expect((await tones(page)).spread).toBeGreaterThan(faint.spread * 4);
    await look(page, 'Clay');
    await untilIdle(page);
    expect((await tones(page)).spread).toBeGreaterThan(faint.spread);
    await look(page, 'As it is');

    // What a click takes is what is shown there.
    await card(page, 'Surface').click();
    await page.getByLabel('Pick Roughness from the stage').click();
    await expect(page.getByTestId('pick-prompt')).toContainText(
      'the number shown becomes roughness',
    );
    const box = await page.getByTestId('stage').boundingBox();
    if (!box) throw new Error('no stage');
    await page.mouse.click(box.x + 6, box.y + box.height - 60);
    await expect(page.getByTestId('pick-prompt')).toContainText('There is no model there');
    await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
    await expect(page.getByTestId('pick-prompt')).toHaveCount(0);
    const roughness = Number(
      await page.getByLabel('Roughness, number', { exact: true }).inputValue(),
    );
    expect(roughness).toBeGreaterThan(0.44);
    expect(roughness).toBeLessThan(0.56);
    await page.getByLabel('Pick Base colour from the stage').click();
    await page.keyboard.press('Escape');
    await expect(page.getByTestId('pick-prompt')).toHaveCount(0);

    await page.getByTestId('pinned').getByText('back to the surface').click();
    await page.getByRole('button', { name: 'Lights', exact: true }).click();
    await untilIdle(page);
    const still = await stagePicture(page);
    // The ground belongs to seeing: it changes the picture, and nothing of the material.
    await page.getByRole('button', { name: 'Ground under the model' }).click();
    await untilIdle(page);
    expect(still.equals(await stagePicture(page))).toBe(false);
    await page.getByRole('button', { name: 'Ground under the model' }).click();
    await untilIdle(page);
    expect(still.equals(await stagePicture(page))).toBe(true);
    await page.getByLabel('Azimuth of the surroundings, degrees').fill('120');
    await page.getByLabel('Azimuth of the surroundings, degrees').press('Enter');
    await untilIdle(page);
    expect(still.equals(await stagePicture(page))).toBe(false);
    for (const name of [
      'Strength of the surroundings, number',
      'Strength of Key, number',
      'Strength of Fill, number',
    ]) {
      await page.getByLabel(name).fill('0');
      await page.getByLabel(name).press('Enter');
    }
    await expect(
      page.getByText('No light is on and the surroundings are dark: the model is black.'),
    ).toBeVisible();
    await untilIdle(page);
    expect((await tones(page)).mean).toBeLessThan(8);
    await expect(page.getByTestId('save-state')).toHaveText('Saved');
  },
);
