import { listOpenEnds } from '@/core/advice/open-ends';
import type { Page } from '@playwright/test';
import type { FindingPlace } from '@/core/graph/finding-place';
import { PLANTED, plantedDocument, pointerTo } from '../support/planted-faults';
import type { PlantedFault } from '../support/planted-faults';
import { expect, openStored, signIn, test } from './studio';

/** Whether the place of a finding is shown: at the character, stop, row, dial, strand or card. */
async function expectShown(page: Page, code: string, place: FindingPlace): Promise<void> {
  const bench = page.getByTestId('bench');
  const { node, strand, input, output, stop, character, dial, option } = place;
  if (dial !== undefined) {
    const row = page.getByTestId(`dial-${dial}`).locator(`[data-code="${code}"]`).last();
    return expect(row).toBeVisible();
  }
  if (node !== undefined && strand === undefined)
    await expect(page.getByTestId(`card-${node}`).first()).toBeInViewport({ ratio: 0.5 });
  if (strand !== undefined) {
    const end =
      input === undefined
        ? `source[data-handleid="${output ?? ''}"]`
        : `target[data-handleid="${input}"]`;
    const port = page.getByTestId(`card-${node ?? ''}`).locator(`.${end}`);
    await expect(port).toHaveClass(/faulty/);
    return expect(page.getByTestId('strand-bench')).toBeVisible();
  }
  if (place.group !== undefined && node === undefined)
    return expect(page.getByTestId('card-findings').first()).toBeVisible();
  await expect(bench.getByTestId('finding-notes').locator(`[data-code="${code}"]`)).toBeVisible();
  if (stop !== undefined)
    return expect(bench.getByTestId(`stop-${stop}`).last()).toHaveClass(/finding-shown/);
  if (character !== undefined) {
    const mark = bench.getByTestId('formula-mark');
    await expect(mark).toHaveAttribute('data-character', String(character));
    return expect(bench.getByLabel('Formula')).toBeFocused();
  }
  if (option === 'shape') return expect(bench.locator('.finding-shown').first()).toBeVisible();
  if (input !== undefined && place.point === undefined && code !== 'node.unknown-input')
    await expect(bench.locator(`[data-input="${input}"]`)).toHaveClass(/finding-shown/);
}

/** One fault for each kind of place; what place each has is tested without a browser. */
const KINDS_OF_PLACE: readonly PlantedFault[] = [
  ...new Map(
    PLANTED.map((fault) => [Object.keys(fault.place).sort().join(' '), fault] as const),
  ).values(),
];

test('each planted fault is in the list, and the list leads to every kind of place', async ({
  page,
}) => {
  await signIn(page, 'tove');
  await openStored(page, plantedDocument());
  const button = page.getByTestId('findings');
  await expect(button).toHaveText(/\d+ errors, \d+ warnings/, { timeout: 30_000 });
  await expect(page.getByTestId('problem')).toBeVisible();
  await button.click();
  const rows = page.getByTestId('findings-list').getByRole('listitem');
  // What leads nowhere is noted after all that is wrong.
  await expect(rows).toHaveCount(PLANTED.length + listOpenEnds(plantedDocument()).length);
  for (const fault of PLANTED)
    await expect(
      rows.locator(`button[data-code="${fault.code}"][data-pointer="${pointerTo(fault)}"]`),
    ).toHaveCount(1);
  expect(KINDS_OF_PLACE.length).toBeGreaterThan(8);
  for (const fault of KINDS_OF_PLACE) {
    if ((await rows.count()) === 0) await button.click();
    const pointer = pointerTo(fault);
    const row = rows.locator(`button[data-code="${fault.code}"][data-pointer="${pointer}"]`);
    await row.click();
    await page.keyboard.press('Escape');
    await expectShown(page, fault.code, fault.place);
  }
});
