import { addDial } from '@/core/edit/dials';
import { groupSelection } from '@/core/edit/group';
import type { NetworkDocument } from '@/core/graph/document';
import { expect } from './fixtures';
import type { Page } from '@playwright/test';
import { documentOf, node, strand } from '../../support/networks';
import { openStored } from './materials';
import { untilIdle } from './stage';
import { ownOrigin } from './studios';

const named = (network: NetworkDocument): NetworkDocument => ({
  ...network,
  name: 'Harbour paint',
});

/** Noise through a ramp into a surface, and two cards that nothing uses. */
export const BEGUN = named(
  documentOf(
    [
      { ...node('noise', 'patterns.fractal-noise'), at: [60, 60] },
      { ...node('ramp', 'gradients.ramp'), at: [250, 60] },
      { ...node('paint', 'surface.surface'), at: [440, 60] },
      { ...node('flip', 'math.math', {}, { operation: 'invert' }), at: [60, 290] },
      { ...node('edges', 'model.curvature'), at: [250, 290] },
    ],
    ['paint:surface > @out:surface', 'ramp:colour > paint:baseColour', 'noise:value > ramp:value'],
  ),
);

/** Paint that is chipped off metal where the model has edges. */
export const CHIPPED = named(
  documentOf(
    [
      { ...node('noise', 'patterns.fractal-noise'), at: [60, 60] },
      { ...node('ramp', 'gradients.ramp'), at: [250, 60] },
      { ...node('paint', 'surface.surface'), at: [440, 60] },
      { ...node('edges', 'model.curvature'), at: [60, 290] },
      { ...node('step', 'ranges.smoothstep'), at: [250, 290] },
      { ...node('metal', 'surface.surface', { metalness: 1 }), at: [440, 290] },
      { ...node('layer', 'surface.layer'), at: [630, 160] },
    ],
    [
      'noise:value > ramp:value',
      'ramp:colour > paint:baseColour',
      'edges:convex > step:value',
      strand('step:mask > layer:where'),
      strand('paint:surface > layer:under'),
      strand('metal:surface > layer:over'),
      'layer:surface > @out:surface',
    ],
  ),
);

/**
 * Opens chipped paint whose first half is packaged, with a dial for its size and one for its wear,
 * as an author would have left it; the revision before is what the proof compares with.
 */
export async function openPackaged(page: Page, name: string): Promise<string> {
  const id = await openStored(page, CHIPPED, 'demo-buoy');
  const packed = groupSelection(CHIPPED, {
    board: null,
    ids: ['noise', 'ramp', 'edges', 'step'],
    name,
    path: [],
    source: { materialId: id, revision: 1 },
  });
  const sized = addDial(packed.document, packed.groupId, 'noise', 'scale', 'times', 'Blotch size');
  const worn = sized && addDial(sized.document, packed.groupId, 'step', 'edge', 'lift', 'Wear');
  if (!worn) throw new Error('the group has no such values');
  const saved = await page.request.put(`/api/materials/${id}`, {
    headers: { origin: ownOrigin() },
    data: { base: 1, document: worn.document, modelId: 'demo-buoy' },
  });
  expect(saved.status()).toBe(200);
  await page.reload();
  await untilIdle(page);
  return id;
}
