/** A group of one's own: built from inside, with settings of every kind on its front. */
import { openPackaged } from './support/harbour-paint';
import {
  addNode,
  card,
  difference,
  drag,
  expect,
  newMaterial,
  port,
  signIn,
  stagePicture,
  strands,
  test,
  untilIdle,
} from './studio';

test('an empty group is built from inside by dragging to its edges, and named', async ({
  page,
}) => {
  await newMaterial(page, 'From inside');
  await addNode(page, 'empty group', 300, 120, 'Empty group');
  await card(page, 'New group').dblclick();
  await expect(page.getByTestId('front')).toBeVisible();
  await addNode(page, 'cells', 260, 160, 'Cell noise');
  const inside = card(page, 'Cell noise');
  await untilIdle(page);
  await drag(page, port(inside, 'input', 'Coordinates'), page.getByLabel('Selvedge, new input'));
  await expect(strands(page)).toHaveCount(1);
  await untilIdle(page);
  await drag(page, port(inside, 'output', 'Nearest'), page.getByLabel('Selvedge, new output'));
  await expect(strands(page)).toHaveCount(2);

  // What it counts as while nothing is wired is said, not guessed.
  await page.getByTestId('selvedge-in').getByRole('button', { name: 'Coordinates' }).click();
  await expect(page.getByRole('combobox', { name: 'What it is unwired' })).toHaveText(
    'the position',
  );
  await page.getByLabel('Port name').fill('Where');
  await page.getByLabel('Port name').press('Enter');
  await page.keyboard.press('Escape');
  await page.getByTestId('selvedge-out').getByRole('button', { name: 'add an output' }).click();
  await page.getByLabel('Name of the new port').fill('Stain');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByTestId('selvedge-out').getByText('Stain')).toBeVisible();

  await page.getByTestId('outside').click();
  const outside = card(page, 'New group');
  await expect(port(outside, 'input', 'Where')).toHaveCount(1);
  await expect(port(outside, 'output', 'Stain')).toHaveCount(1);
  await expect(page.getByTestId('problem')).toHaveCount(0);
});

test(
  'a mode is a dial, set inside and outside, put home, and kept when dissolved',
  { tag: '@stage' },
  async ({ page }) => {
    await signIn(page, 'maren');
    // Wide enough for the stage to be as large inside as outside: its pictures are compared.
    await page.setViewportSize({ width: 1440, height: 800 });
    await openPackaged(page, 'Moded paint');
    await card(page, 'Moded paint').dblclick();
    await untilIdle(page);
    const before = await stagePicture(page);
    await card(page, 'Fractal noise').click();
    await page.getByRole('button', { name: 'Make Fold a dial' }).click();
    await page.getByRole('button', { name: 'Make the dial' }).click();
    const front = page.getByTestId('front');
    await front.getByRole('combobox', { name: 'Fold' }).click();
    await page.getByRole('option', { name: 'Ridged' }).click();
    await untilIdle(page);
    const ridged = await stagePicture(page);
    expect(ridged.equals(before)).toBe(false);
    await front.getByRole('button', { name: 'home', exact: true }).click();
    await untilIdle(page);
    expect((await stagePicture(page)).equals(before)).toBe(true);

    // Outside, on the bench of the card, it is the same dial.
    await page.getByTestId('outside').click();
    await card(page, 'Moded paint').click();
    await page.getByRole('combobox', { name: 'Fold' }).click();
    await page.getByRole('option', { name: 'Ridged' }).click();
    await untilIdle(page);
    expect((await stagePicture(page)).equals(ridged)).toBe(true);
    await page.getByRole('button', { name: 'Node …' }).click();
    await page.getByRole('menuitem', { name: /Dissolve the group/ }).click();
    await expect(card(page, 'Fractal noise')).toBeVisible();
    await untilIdle(page);
    expect((await stagePicture(page)).equals(ridged)).toBe(true);
  },
);

test('the inspector’s notes name what misleads, lead to it, and mend it', async ({ page }) => {
  await signIn(page, 'maren');
  await openPackaged(page, 'Noted paint');
  await card(page, 'Noted paint').dblclick();
  const notes = page.getByTestId('notes');
  await notes.locator('summary').click();
  await expect(notes.locator('[data-code="no-description"]')).toBeVisible();
  await page.getByLabel('Group description').fill('Old paint with chipped edges.');
  await page.getByLabel('Group description').press('Tab');
  await expect(notes.locator('[data-code="no-description"]')).toHaveCount(0);
  await addNode(page, 'checks', 120, 260, 'Checks');
  await expect(notes.locator('[data-code="leftover"]')).toContainText('Checks');
  await notes.locator('[data-code="leftover"]').getByRole('button', { name: 'Show it' }).click();
  await expect(page.locator('.card-chosen[data-title="Checks"]')).toBeVisible();
  await notes.locator('[data-code="leftover"]').getByRole('button', { name: 'Remove it' }).click();
  await expect(card(page, 'Checks')).toHaveCount(0);
  // What has to be tried comes as it is found: the inner values of most influence last.
  await expect(notes.locator('[data-code="influence"]').first()).toBeVisible({ timeout: 60_000 });
});

test(
  'variants are kept, applied, compared and blended; papers show every dial',
  { tag: '@stage' },
  async ({ page }) => {
    await signIn(page, 'maren');
    await openPackaged(page, 'Varied paint');
    await card(page, 'Varied paint').dblclick();
    await untilIdle(page);
    const home = await stagePicture(page);
    const variants = page.getByTestId('variants-panel');
    await variants.locator('summary').click();
    await page.getByLabel('Wear, number').fill('0.4');
    await page.getByLabel('Wear, number').press('Enter');
    await untilIdle(page);
    const worn = await stagePicture(page);
    await page.getByLabel('Name of the new variant').fill('Worn');
    await page.getByLabel('Name of the new variant').press('Enter');
    await page.getByRole('button', { name: 'all home' }).click();
    await untilIdle(page);
    expect((await stagePicture(page)).equals(home)).toBe(true);
    await variants.getByRole('button', { name: 'Apply Worn' }).click();
    await untilIdle(page);
    expect((await stagePicture(page)).equals(worn)).toBe(true);
    await variants.getByLabel('Second state of the front').click();
    await page.getByRole('option', { name: 'Worn' }).click();
    await expect(page.getByTestId('compared')).toContainText('Wear: 1 → 0.4');
    await expect(page.getByTestId('compared')).toContainText('of the picture');
    await variants.getByRole('slider', { name: 'How far from the first' }).press('ArrowRight');
    await expect(page.getByLabel('Wear, number')).toHaveValue(/^0\.9/);

    await page.getByRole('button', { name: 'Papers' }).click();
    const papers = page.getByTestId('papers');
    await expect(page.getByTestId('sheet-progress')).toHaveText(/^\d+ pictures/, {
      timeout: 60_000,
    });
    await expect(papers.getByRole('img', { name: /^Wear, home 1, on Study form/ })).toBeVisible();
    await expect(page.getByTestId('sheet-variants')).toContainText('Worn');
    await expect(papers.getByTestId('equation')).toContainText('× “Blotch size”');
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save the sheet as PNG' }).click();
    expect((await download).suggestedFilename()).toBe('Varied paint, proof sheet.png');
  },
);

test('a dial shows what it drives, is dragged to its place, and tells of a new home', async ({
  page,
}) => {
  await signIn(page, 'maren');
  await openPackaged(page, 'Pointed paint');
  await card(page, 'Pointed paint').dblclick();
  const names = page.getByTestId('front').locator('[data-testid^="dial-"] [aria-expanded]');
  await expect(names).toHaveText([/Blotch size/, /Wear/]);
  await names.nth(1).hover();
  await expect(page.getByTestId('influence')).toContainText(/“Wear” changes \d/, {
    timeout: 30_000,
  });
  await expect(page.locator('.card-driven[data-title="Smoothstep"]')).toBeVisible();
  await card(page, 'Smoothstep').hover();
  await expect(page.getByTestId('influence')).toHaveCount(0);

  await page.getByRole('button', { name: 'Drag Wear to its place' }).focus();
  await page.keyboard.press('Space');
  await page.waitForTimeout(300);
  await page.keyboard.press('ArrowUp');
  await page.waitForTimeout(300);
  await page.keyboard.press('Space');
  await expect(names).toHaveText([/Wear/, /Blotch size/]);

  await names.nth(0).click();
  await page.getByLabel('Home', { exact: true }).fill('1.25');
  await page.getByLabel('Home', { exact: true }).press('Enter');
  await expect(page.getByTestId('home-share')).toHaveText(/changes .* % of the picture/);
});

test(
  'a single stop becomes a dial in one go; a beacon inside is moved from outside',
  { tag: '@stage' },
  async ({ page }) => {
    await signIn(page, 'maren');
    await openPackaged(page, 'Parted paint');
    await card(page, 'Parted paint').dblclick();
    await untilIdle(page);
    const before = await stagePicture(page);
    await card(page, 'Ramp').click();
    await page.getByRole('button', { name: '⊶ a part of it …' }).click();
    await page.getByRole('menuitem', { name: 'Stop 1 colour' }).click();
    await page.getByRole('button', { name: 'Make the dial' }).click();
    await expect(page.getByTestId('front').getByText('Stop 1 colour')).toBeVisible();
    await untilIdle(page);
    expect(difference(await stagePicture(page), before).share).toBeLessThan(0.001);

    await page.getByTestId('outside').click();
    await addNode(page, 'region mask', 60, 330, 'Region mask');
    await card(page, 'Region mask').click();
    const tools = page.getByTestId('beacon-tools');
    await expect(tools.getByRole('button', { name: 'Region' })).toHaveAttribute(
      'aria-pressed',
      'true',
    );
    await expect(tools.getByRole('group')).toBeVisible();
  },
);
