import { readFileSync } from 'node:fs';
import { NodeIO } from '@gltf-transform/core';
import { decode } from 'fast-png';
import { CHIPPED } from './support/harbour-paint';
import { expect, openStored, signIn, test, untilIdle } from './studio';

test('baked maps and the model download and open', async ({ page }) => {
  await signIn(page, 'ilo');
  await openStored(page, CHIPPED, 'demo-floats');
  await untilIdle(page);
  await page.getByRole('button', { name: 'Bake' }).click();
  await page.getByRole('combobox', { name: 'Size' }).click();
  await page.getByRole('option', { name: '512 × 512' }).click();
  await page.getByRole('combobox', { name: 'Depth' }).click();
  await page.getByRole('option', { name: '16 bit' }).click();
  await page.getByRole('button', { name: 'Bake', exact: true }).last().click();
  await expect(page.getByTestId('bake-message')).toHaveText('Wrote 7 files at 512 × 512.', {
    timeout: 150_000,
  });
  const fetchFile = async (name: string): Promise<Buffer> => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name }).click(),
    ]);
    return readFileSync(await download.path());
  };
  const colour = decode(await fetchFile('harbour-paint-base-colour.png'));
  expect([colour.width, colour.height, colour.depth, colour.channels]).toEqual([512, 512, 16, 3]);
  expect(new Set(colour.data).size).toBeGreaterThan(1000);
  const model = await new NodeIO().readBinary(new Uint8Array(await fetchFile('harbour-paint.glb')));
  expect(model.getRoot().listMaterials()[0]?.getBaseColorTexture()?.getSize()).toEqual([512, 512]);
  expect(
    model.getRoot().listMeshes()[0]?.listPrimitives()[0]?.getAttribute('TEXCOORD_0'),
  ).toBeTruthy();
});
