import {
  addNode,
  card,
  drag,
  expect,
  newMaterial,
  port,
  saved,
  strands,
  test,
  tidy,
  untilIdle,
} from './studio';

test(
  'a formula tells its mistake at the character and keeps the last one in use; advice is ' +
    'cured by one click',
  async ({ page }) => {
    await newMaterial(page, 'Formula trial');
    await addNode(page, 'expression', 200, 120);
    await untilIdle(page);
    const text = page.getByLabel('Formula', { exact: true });
    const advice = page.getByTestId('advice');

    await text.fill('a + 1.0');
    await untilIdle(page);
    await expect(page.getByTestId('range').getByText('1.50').first()).toBeVisible();
    await text.fill('a + 1.0 +');
    await expect(page.getByText('At character 10: the formula stops too early.')).toBeVisible();
    await expect(text).toHaveAttribute('aria-invalid', 'true');
    await untilIdle(page);
    await expect(card(page, 'Formula').getByText('1.50').first()).toBeVisible();

    await text.fill('a + 1.0');
    await untilIdle(page);
    await expect(advice.getByText('100 % of the surface lies above 1')).toBeVisible();
    await advice.getByRole('button', { name: 'Limit to 0–1' }).click();
    await untilIdle(page);
    await expect(advice.getByText('lies above 1')).toHaveCount(0);
    await expect(card(page, 'Formula').getByText('1.00').first()).toBeVisible();
    await page.keyboard.press('Control+z');
    await untilIdle(page);
    await expect(advice.getByText('100 % of the surface lies above 1')).toBeVisible();

    // A vector has every right to leave 0–1.
    await text.fill('vec3(a, 2.0, b)');
    await untilIdle(page);
    await expect(advice.getByText('lies above 1')).toHaveCount(0);
    await expect(advice.getByRole('button', { name: 'Limit to 0–1' })).toHaveCount(0);

    // What cannot be read is not lost: it stays in the document, named as wrong, and comes back
    // after a reload.
    await text.fill('vec3(a, 2.0');
    await page.getByLabel('Name', { exact: true }).focus();
    const mistake = /The formula of “Formula” cannot be used/;
    await expect(page.getByTestId('finding-notes').getByText(mistake)).toBeVisible();
    await expect(page.getByTestId('problem').getByText(mistake)).toBeVisible();
    await saved(page);
    await page.reload();
    await card(page, 'Formula').click();
    await expect(text).toHaveText('vec3(a, 2.0');

    // Completion by keys; the mistake lies under its character.
    await text.fill('');
    await page.keyboard.type('smoo');
    await page.getByRole('option', { name: /smoothstep/ }).waitFor();
    // The list takes no key in its first moment, so that nobody accepts what they have not seen.
    await page.waitForTimeout(150);
    await page.keyboard.press('Enter');
    await expect(text).toHaveText('smoothstep(');
    await page.keyboard.type('0.0, 1.0, a)$');
    await expect(text.locator('.cm-lintRange-error')).toHaveText('$');
    await page.keyboard.press('Backspace');
    await expect(text).toHaveAttribute('aria-invalid', 'false');
    await expect(page.getByTestId('finding-notes')).toHaveCount(0);
  },
);

test('a mask let go on a card goes to its mask; the bench shows the output looked at', async ({
  page,
}) => {
  await newMaterial(page, 'Landing');
  await addNode(page, 'position', 120, 120);
  await untilIdle(page);
  const bench = page.getByTestId('bench');
  await expect(bench.getByRole('img', { name: 'Position of' })).toBeVisible();
  const least = (): Promise<string> => bench.locator('dd').first().innerText();
  const ofAll = await least();
  await bench.getByRole('button', { name: 'X', exact: true }).click();
  await untilIdle(page);
  await expect(bench.getByRole('img', { name: 'X of' })).toBeVisible();
  expect(await least()).not.toBe(ofAll);

  await addNode(page, 'blend', 420, 120, 'Blend');
  await page.keyboard.press('Escape');
  await tidy(page);
  await drag(
    page,
    port(card(page, 'Position'), 'output', 'X'),
    card(page, 'Blend').locator('canvas').first(),
  );
  await expect(strands(page)).toHaveCount(1);
  await strands(page).click();
  await expect(page.getByTestId('strand-bench')).toContainText('Where');
});
