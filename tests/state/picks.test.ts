import { describePorts } from '@/core/compile/catalogue';
import { parseDocument } from '@/core/graph/schema';
import type { InputValue, NetworkDocument, NodeInstance } from '@/core/graph/document';
import { openDocument, undo } from '@/state/editing';
import { stores } from '@/state/stores';
import { getStretch, rangeOfLook } from '@/state/looks';
import { pickingFor, pickingPart } from '@/state/picks';
import type { Picked } from '@/core/evaluate/pick';

import { TEST_SCALE, documentOf, node } from '../support/networks';

const picked: Picked = {
  place: [1, 2, 3],
  normal: [0, 0.6, 0.8],
  part: 'lid',
  kind: 'colour',
  value: [0.123456, 0.5, 0.25],
};
const open = (...nodes: NodeInstance[]): NetworkDocument => {
  const document = documentOf(nodes, []);
  openDocument({ document, materialId: 'm', modelId: 'x', revision: 1 });
  return document;
};
/** What an input holds after a click, and what the click answered. */
function click(
  document: NetworkDocument,
  id: string,
  input: string,
  at: Picked,
): readonly [InputValue | undefined, string | null] {
  const instance = document.network.nodes.find((each) => each.id === id);
  const view =
    instance && describePorts(document, instance)?.inputs.find((each) => each.id === input);
  const picking = instance && view ? pickingFor(instance, view) : null;
  if (!picking) throw new Error(`nothing can be picked for ${input}`);
  const answer = picking.take(at);
  return [
    stores.document.getState().document.network.nodes.find((each) => each.id === id)?.values[input],
    answer,
  ];
}

describe('picking from the stage', () => {
  it('gives colours, numbers and directions, as one undoable step each', () => {
    const document = open(
      node('s', 'surface.surface'),
      node('f', 'model.facing-direction'),
      node('t', 'ranges.threshold'),
    );
    expect(click(document, 's', 'baseColour', picked)).toEqual([[0.1235, 0.5, 0.25], null]);
    expect(click(document, 's', 'baseColour', { ...picked, kind: 'scalar', value: [0.3] })).toEqual(
      [[0.3, 0.3, 0.3], null],
    );
    expect(click(document, 'f', 'direction', picked)).toEqual([[0, 0.6, 0.8], null]);
    expect(click(document, 's', 'roughness', { ...picked, kind: 'scalar', value: [7] })).toEqual([
      1,
      null,
    ]);
    expect(undo()).toBe('Picked roughness');
    expect(parseDocument(stores.document.getState().document).diagnostics).toEqual([]);
  });
  it('says why a colour is no number, and changes nothing', () => {
    const document = open(node('s', 'surface.surface'));
    expect(click(document, 's', 'roughness', picked)).toEqual([
      undefined,
      expect.stringContaining('no single number'),
    ]);
    expect(stores.document.getState().document).toBe(document);
  });
  it('gives places as the node counts them: in object sizes from the middle, or in metres', () => {
    stores.stage.setState({
      model: { scale: TEST_SCALE, parts: ['lid'], attributes: [], sets: [] },
    });
    const { minimum, extent, size } = TEST_SCALE;
    const relative = [0, 1, 2].map(
      (k) =>
        Math.round(((picked.place[k as 0] - minimum[k as 0] - extent[k as 0] / 2) / size) * 1e4) /
        1e4,
    );
    const document = open(
      node('b', 'model.beacon'),
      node('u', 'model.beacon', {}, { measure: 'units' }),
      node('p', 'model.proximity'),
    );
    expect(click(document, 'b', 'place', picked)).toEqual([relative, null]);
    expect(click(document, 'u', 'place', picked)).toEqual([[1, 2, 3], null]);
    expect(
      pickingPart(document.network.nodes[2] as NodeInstance, 'part', 'Part').take(picked),
    ).toBeNull();
    expect(stores.document.getState().document.network.nodes[2]?.options['part']).toBe('lid');
  });
  it('has nothing for inputs that no click can give', () => {
    const document = open(node('n', 'patterns.noise'));
    const views = describePorts(document, document.network.nodes[0] as NodeInstance)?.inputs ?? [];
    expect(
      views
        .filter((view) => view.kind === 'vector')
        .map((view) => pickingFor(document.network.nodes[0] as NodeInstance, view)),
    ).toEqual(views.filter((view) => view.kind === 'vector').map(() => null));
  });
});

describe('exaggerating', () => {
  const statistics = {
    minimum: 0.4,
    maximum: 0.6,
    mean: 0.5,
    below: 0,
    above: 0,
    notANumber: 0,
    lanes: [],
    constant: false,
  };
  it('stretches what is pinned over its range, unless constant or no number', () => {
    expect(getStretch({ kind: 'scalar', statistics })).toEqual([0.4, 0.6]);
    expect(getStretch({ kind: 'scalar', statistics: { ...statistics, constant: true } })).toBe(
      'constant',
    );
    expect(getStretch({ kind: 'scalar', statistics: { ...statistics, minimum: NaN } })).toBe(
      'constant',
    );
    expect(getStretch({ kind: 'surface', statistics: null })).toBeNull();
    expect(getStretch(undefined)).toBeNull();
  });
  it('by sign both ends are as far from 0', () => {
    const signed = {
      kind: 'scalar' as const,
      statistics: { ...statistics, minimum: -0.2, maximum: 0.05 },
    };
    expect(rangeOfLook('signed', signed)).toEqual([-0.2, 0.2]);
    expect(rangeOfLook('signed', undefined)).toEqual([-1, 1]);
    expect(rangeOfLook('exaggerated', signed)).toEqual([-0.2, 0.05]);
  });
});
