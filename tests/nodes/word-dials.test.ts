/**
 * Dials on inputs that count as the position, the normal or the like: none changes the look at
 * home, and a moved one is never dropped where its card is dissolved.
 */
import { addDial } from '@/core/edit/dials';
import { offerDial } from '@/core/edit/dial-offers';
import { ungroup } from '@/core/edit/ungroup';
import { groupSelection } from '@/core/edit/group';
import { outputKey } from '@/core/graph/result-key';
import type { NetworkDocument } from '@/core/graph/document';
import { NODES } from '@/core/nodes/registry.generated';
import { bitsOf } from '../support/agreement';
import { documentOf, node } from '../support/networks';

/** Every input of the catalogue whose value is a word, with an output of its node. */
const WORDS = NODES.flatMap((definition) =>
  Object.entries(definition.inputs).flatMap(([input, port]) => {
    const [output] = Object.keys(definition.outputs);
    return typeof port.default === 'string' && port.kind === 'vector' && output
      ? [[definition.id, input, output] as const]
      : [];
  }),
);

function packed(type: string, output: string): { document: NetworkDocument; group: string } {
  const source = documentOf(
    [node('n', type), node('m', 'math.measure')],
    type.startsWith('surface.') ? [] : [`n:${output} > m:a`],
  );
  const made = groupSelection(source, { board: null, ids: ['n'], name: 'Word', path: [] });
  return { document: made.document, group: made.groupId };
}

it('there are such inputs', () => {
  expect(WORDS.length).toBeGreaterThan(8);
});

it.each(WORDS)(
  '%s, %s: every law that is offered keeps the look at home',
  (type, input, output) => {
    const { document, group } = packed(type, output);
    const offer = offerDial(document, group, 'n', input);
    expect(offer?.laws[0]).toBe('lift');
    const card = document.network.nodes.find((each) => each.group === group)?.id ?? '';
    const taps = [outputKey([card, 'n'], output)];
    const before = bitsOf(document, taps);
    for (const law of offer?.laws ?? []) {
      const made = addDial(document, group, 'n', input, law, 'Moved');
      if (!made) throw new Error(`no dial by ${law}`);
      expect(bitsOf(made.document, taps)).toEqual(before);
      const dial = made.document.groups[group]?.dials.at(-1)?.id ?? '';
      const nodes = made.document.network.nodes.map((each) =>
        each.id === card ? { ...each, values: { ...each.values, [dial]: 1.37 } } : each,
      );
      const moved = { ...made.document, network: { ...made.document.network, nodes } };
      expect(() => ungroup(moved, null, card)).toThrow('acts on what no typed value stands for');
    }
  },
);
