/** What is seen of each surface through a whole stack of layers. */
import { LoadedModel } from '@/core/evaluate/loaded-model';
import { setAmount } from '@/core/edit/amounts';
import { framingCamera } from '@/core/evaluate/camera';
import { paintShares, surfaceShares } from '@/core/evaluate/layer-stack';
import { groupSelection } from '@/core/edit/group';
import { changeNode } from '@/core/edit/board';

import type { NetworkDocument } from '@/core/graph/document';
import { unitTile } from '../support/meshes';
import { documentOf, node } from '../support/networks';

const model = new LoadedModel(unitTile());
const stack = (first: number, second: number): NetworkDocument =>
  documentOf(
    [
      node('base', 'surface.surface'),
      node('paint', 'surface.surface'),
      node('dust', 'surface.surface'),
      node('l1', 'surface.layer', { where: first }),
      node('l2', 'surface.layer', { where: second, amount: 1 }),
    ],
    [
      'base:surface > l1:under',
      'paint:surface > l1:over',
      'l1:surface > l2:under',
      'dust:surface > l2:over',
      'l2:surface > @out:surface',
    ],
  );
const sharesOf = (document: NetworkDocument): Record<string, number> =>
  Object.fromEntries(
    surfaceShares(model, document, null, []).map(({ node: id, share }) => [id, share]),
  );

describe('the share of each surface', () => {
  it('is the product of what the layers above leave', () => {
    const shares = sharesOf(stack(0.6, 0.25));
    expect(shares['dust']).toBeCloseTo(0.25, 5);
    expect(shares['paint']).toBeCloseTo(0.6 * 0.75, 5);
    expect(shares['base']).toBeCloseTo(0.4 * 0.75, 5);
  });
  it('is less where a layer is pulled back, and beside it stands what was laid', () => {
    const pulled = setAmount(stack(0.6, 0.25), null, 'l2', 0.5);
    const shares = surfaceShares(model, pulled, null, []);
    const of = (id: string) => shares.find(({ node: each }) => each === id);
    expect(of('dust')?.share).toBeCloseTo(0.125, 5);
    expect(of('paint')?.share).toBeCloseTo(0.6 * 0.875, 5);
    expect(of('paint')?.covers).toBeCloseTo(0.6, 5);
    expect(of('base')?.covers).toBe(1);
  });
  it('two layers by one mask leave nothing of the one between', () => {
    const mask = documentOf(
      [...stack(1, 1).network.nodes, node('mask', 'model.position')],
      [
        'base:surface > l1:under',
        'paint:surface > l1:over',
        'l1:surface > l2:under',
        'dust:surface > l2:over',
        'l2:surface > @out:surface',
        'hard:mask > l1:where',
        'hard:mask > l2:where',
        'mask:x > hard:value',
      ],
    );
    const hard = {
      ...mask,
      network: {
        ...mask.network,
        nodes: [...mask.network.nodes, node('hard', 'ranges.threshold', { edge: 0 })],
      },
    };
    const shares = sharesOf(hard);
    expect(shares['paint']).toBeCloseTo(0, 5);
    expect((shares['dust'] ?? 0) + (shares['base'] ?? 0)).toBeCloseTo(1, 5);
  });
  it('a layer that is off hides nothing', () => {
    const off = changeNode(stack(0.6, 1), null, 'l2', (each) => ({ ...each, off: true }));
    expect(sharesOf(off)).toEqual({
      paint: expect.closeTo(0.6, 5) as number,
      base: expect.closeTo(0.4, 5) as number,
    });
  });
  it('is found within a group, too, and nowhere where nothing is wired to the end', () => {
    const grouped = groupSelection(stack(0.6, 0.25), {
      board: null,
      ids: ['base', 'paint', 'dust', 'l1', 'l2'],
      name: 'Stack',
      path: [],
      source: { materialId: 'm', revision: 1 },
    });
    const [outer] = grouped.document.network.nodes;
    const inside = surfaceShares(model, grouped.document, grouped.groupId, [outer?.id ?? '']);
    expect(inside.map(({ share }) => Number(share.toFixed(4))).toSorted()).toEqual([
      0.25, 0.3, 0.45,
    ]);
    expect(sharesOf(documentOf([node('base', 'surface.surface')]))).toEqual({});
  });
});

it('pictures show where each surface is still seen', () => {
  const camera = framingCamera(model.mesh.centre, model.mesh.size);
  const pictures = paintShares(model, stack(0.6, 0.25), null, [], camera, 24);
  const greyOf = (id: string): number => {
    const { pixels } = pictures.find(({ node: each }) => each === id)?.picture ?? {
      pixels: new Uint8ClampedArray(),
    };
    const seen = pixels.findIndex((value, k) => k % 4 === 3 && value === 255);
    return pixels[seen - 3] ?? -1;
  };
  expect(greyOf('dust')).toBe(Math.round(255 * 0.25));
  expect(greyOf('paint')).toBe(Math.round(255 * 0.45));
  expect(Math.abs(greyOf('base') - 255 * 0.3)).toBeLessThan(1);
});
