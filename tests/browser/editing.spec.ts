/** Work on the board by hand: nodes, strands, ramps, pins. */
import { BEGUN, CHIPPED } from './support/harbour-paint';
import {
  addNode,
  card,
  drag,
  expect,
  newMaterial,
  openStart,
  openStored,
  port,
  saved,
  setColour,
  signIn,
  stagePicture,
  strands,
  test,
  tidy,
  untilIdle,
} from './studio';

test('the start page lists materials; the editor of one shows stage, board and bench', async ({
  page,
}) => {
  await openStart(page, 'maren');
  // What other tests made stands before it.
  await page.getByLabel('Search materials').fill('Painted tin');
  await expect(page.getByRole('link', { name: /Painted tin/ }).first()).toBeVisible();
  await expect(page.locator('img[alt="Painted tin on Channel buoy"]')).toHaveJSProperty(
    'complete',
    true,
  );
  await page.getByRole('link', { name: /^Painted tin on Channel buoy/ }).click();
  await expect(card(page, 'Chipped paint')).toBeVisible();
  await untilIdle(page);
  // As near as it takes to read figures.
  await card(page, 'Edges').click();
  await page.keyboard.press('Shift+Home');
  await expect(card(page, 'Edges').getByTestId('range')).toHaveText(/0\.00.*1\.00/);
  await page.keyboard.press('Home');
  await card(page, 'Old red').click();
  await expect(page.getByTestId('ramp-histogram')).toBeVisible();
});

test(
  'a pinned value shows flat, and the same action returns',
  { tag: '@stage' },
  async ({ page }) => {
    await signIn(page, 'maren');
    await page.goto('/materials/demo-painted-tin');
    await untilIdle(page);
    const surface = await stagePicture(page);
    await card(page, 'Chips').getByRole('button', { name: 'Pin Chips on the stage' }).click();
    await expect(page.getByTestId('pinned')).toBeVisible();
    await untilIdle(page);
    expect((await stagePicture(page)).equals(surface)).toBe(false);
    await card(page, 'Chips').getByRole('button', { name: 'Take Chips off the stage' }).click();
    await untilIdle(page);
    expect((await stagePicture(page)).equals(surface)).toBe(true);
  },
);

test('nodes are found by what they do, and wired by dragging, in a new material', async ({
  page,
}) => {
  await newMaterial(page, 'Harbour paint');
  await addNode(page, 'surface', 480, 60);
  await addNode(page, 'fractal', 60, 60);
  await addNode(page, 'ramp', 250, 60);
  await addNode(page, 'flip', 60, 290);
  await expect(card(page, 'Math').getByText('Invert')).toBeVisible();
  await addNode(page, 'edge', 250, 290);
  await expect(card(page, 'Curvature')).toBeVisible();
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

test('a node goes into a strand; removing it heals the strand; undo and redo', async ({ page }) => {
  await signIn(page, 'tove');
  await openStored(page, BEGUN, 'demo-buoy');
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

test('nodes are duplicated with and without incoming strands, copied and pasted', async ({
  page,
}) => {
  await signIn(page, 'tove');
  await openStored(page, BEGUN, 'demo-buoy');
  await expect(strands(page)).toHaveCount(3);
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

test(
  'a ramp is edited over the histogram; dragging recompiles nothing',
  { tag: '@stage' },
  async ({ page }) => {
    await signIn(page, 'tove');
    await openStored(page, BEGUN, 'demo-buoy');
    await card(page, 'Ramp').click();
    await untilIdle(page);
    const before = await stagePicture(page);
    const compilations = await page.evaluate(
      () => window.brightLoomEvaluation?.counts.compilations,
    );
    await page.getByRole('button', { name: 'Add a stop' }).click();
    await setColour(page, 'Stop colour', '#b03020');
    await page.getByRole('button', { name: 'Ramp …' }).click();
    await page.getByRole('menuitem', { name: 'Reverse' }).click();
    const stop = page.getByTestId('stop-s3');
    const box = await stop.boundingBox();
    if (!box) throw new Error('no stop');
    await page.mouse.move(box.x + 5, box.y + 10);
    await page.mouse.down();
    await page.mouse.move(box.x + 60, box.y + 10, { steps: 6 });
    await page.mouse.up();
    await page.getByLabel('Way to the next stop').click();
    await page.getByRole('option', { name: 'Smooth' }).click();
    await untilIdle(page);
    expect((await stagePicture(page)).equals(before)).toBe(false);
    expect(await page.evaluate(() => window.brightLoomEvaluation?.counts.compilations)).toBe(
      compilations,
    );
  },
);

test('what is wired by hand is saved and there after a reload', async ({ page }) => {
  await signIn(page, 'tove');
  await openStored(page, BEGUN, 'demo-buoy');
  await untilIdle(page);
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
  await untilIdle(page);
  await saved(page);
  const count = await strands(page).count();
  await page.reload();
  await expect(card(page, 'Layer')).toBeVisible();
  await expect(strands(page)).toHaveCount(count);
});

test('packaging changes nothing that is seen', { tag: '@stage' }, async ({ page }) => {
  await signIn(page, 'tove');
  await openStored(page, CHIPPED, 'demo-buoy');
  await untilIdle(page);
  const before = await stagePicture(page);
  await card(page, 'Curvature').click();
  await card(page, 'Smoothstep').click({ modifiers: ['Shift'] });
  await card(page, 'Fractal noise').click({ modifiers: ['Shift'] });
  await card(page, 'Ramp').click({ modifiers: ['Shift'] });
  await page.getByRole('button', { name: 'Package' }).click();
  await expect(card(page, 'New group')).toBeVisible();
  await untilIdle(page);
  expect((await stagePicture(page)).equals(before)).toBe(true);
});
