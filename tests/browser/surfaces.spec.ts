import { encode } from 'fast-png';
import {
  addNode,
  card,
  drag,
  expect,
  newMaterial,
  port,
  saved,
  stagePicture,
  strands,
  test,
  tidy,
  untilIdle,
} from './studio';

const redPng = Buffer.from(
  encode({
    width: 4,
    height: 4,
    channels: 3,
    depth: 8,
    data: new Uint8Array(48).map((_, k) => (k % 3 === 0 ? 255 : 0)),
  }),
);

test(
  'an image is brought in, read as what it is wired into; a wrong pair is told and cured; ' +
    'choices are compared; a coat shows on the stage',
  { tag: '@stage' },
  async ({ page }) => {
    await newMaterial(page, 'Surfaces trial');

    // A file that is no image is refused with its reason; one that is becomes the node's value.
    await addNode(page, 'bitmap', 60, 60);
    await untilIdle(page);
    await page.getByLabel('File for Image').setInputFiles({
      name: 'notes.png',
      mimeType: 'image/png',
      buffer: Buffer.from('not an image at all'),
    });
    await expect(
      page.getByText(/notes\.png: The file is not a PNG, JPEG, OpenEXR or Radiance HDR image/),
    ).toBeVisible();
    await page
      .getByLabel('File for Image')
      .setInputFiles({ name: 'red.png', mimeType: 'image/png', buffer: redPng });
    await expect(page.getByTestId('image-image')).toContainText('PNG, 8 bit, 4 × 4');
    await expect(page.getByTestId('image-reading')).toHaveText('read as colour (sRGB)');

    await addNode(page, 'varnish', 330, 60);
    await drag(
      page,
      port(card(page, 'Image'), 'output', 'Colour'),
      port(card(page, 'Surface'), 'input', 'Roughness'),
    );
    await card(page, 'Image').click();
    await expect(page.getByTestId('image-reading')).toHaveText('read as data');

    // Degrees are not roughness: the strand says so, and one click puts the cure in between.
    await addNode(page, 'slope', 60, 300, 'Slope');
    await drag(
      page,
      port(card(page, 'Slope'), 'output', 'Degrees'),
      port(card(page, 'Surface'), 'input', 'Roughness'),
    );
    await expect(page.getByText('degrees is not roughness')).toBeVisible();
    await page.locator('[data-strand]').last().dispatchEvent('click');
    await expect(page.getByTestId('strand-bench')).toContainText(
      'From Degrees of Slope to Roughness of Surface',
    );
    await page.getByRole('button', { name: 'Remap 0–180° to 0–1' }).click();
    await expect(card(page, 'Remap')).toBeVisible();
    await expect(page.getByText('degrees is not roughness')).toHaveCount(0);
    await tidy(page);

    // The surface ends in the material; its coat lies folded away until it is used, and changes the
    // picture.
    await drag(
      page,
      port(card(page, 'Surface'), 'output', 'Surface'),
      page.getByTestId('selvedge-out').locator('.port'),
    );
    await card(page, 'Surface').click();
    await untilIdle(page);
    const before = await stagePicture(page);
    await page.getByTestId('section-Coat').locator('summary').click();
    await page.getByLabel('Coat, number').fill('1');
    await page.getByLabel('Coat, number').press('Enter');
    await untilIdle(page);
    expect(before.equals(await stagePicture(page))).toBe(false);

    // Every choice of a mode in pictures; a click takes one.
    await card(page, 'Remap').click();
    await page.getByLabel('Compare every choice of Shape').click();
    await expect(page.getByTestId('compare').getByRole('img')).toHaveCount(3);
    await page.getByTestId('compare').getByRole('button', { name: 'Smooth' }).click();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('combobox', { name: 'Shape' })).toHaveText('Smooth');

    // A ready chain arrives as a group with its dials.
    const count = await strands(page).count();
    await addNode(page, 'worn edges', 60, 40, 'Edge wear');
    await untilIdle(page);
    await expect(card(page, 'Edge wear')).toBeVisible();
    await expect(page.getByTestId('value-amount')).toBeVisible();
    expect(await strands(page).count()).toBe(count);
    await saved(page);
  },
);
