import { checkReferences } from '@/core/compile/check/check';
import { addReadyGroup } from '@/core/edit/ready-groups';
import { setDials } from '@/core/edit/variants';
import { ungroup } from '@/core/edit/ungroup';
import { measureDial } from '@/core/notes/dial-measures';
import { measurePairs, measureUnplugging } from '@/core/notes/group-measures';
import { listNotes } from '@/core/notes/group-notes';
import { GroupTrial } from '@/core/notes/group-trial';
import type { ProofModel } from '@/core/evaluate/proof';
import { describeValues } from '@/core/evaluate/statistics';
import { outputKey } from '@/core/graph/result-key';
import { bitsOf } from '../support/agreement';
import { READY_NAMES, demoModel, readyCard } from '../support/ready-card';

/** The chains that practitioners repeat. */
const NAMED = [
  'Mask tightener',
  'Edge wear',
  'Crevice dirt',
  'Top dust',
  'Slope pair',
  'Region mask',
  'Tone cut, two tones',
  'Tone cut, three tones',
  'Tide line',
  'Palette steps',
  'Colour from height',
];

describe('ready groups', () => {
  let models: readonly ProofModel[];
  beforeAll(async () => {
    models = [await demoModel('bell'), await demoModel('study')];
  });

  it('are all that are asked for', () => {
    expect(READY_NAMES).toEqual(NAMED);
  });

  it.each(READY_NAMES)('%s is free of findings and placed once', (name) => {
    const { document, group } = readyCard(name);
    expect(checkReferences(document)).toEqual([]);
    expect(group.limits).not.toBe('');
    const again = addReadyGroup(document, null, name, [0, 0]);
    expect(Object.keys(again.document.groups)).toHaveLength(1);
  });

  it.each(READY_NAMES)('%s at home is, bit by bit, the network it is made of', (name) => {
    const { document, card, group } = readyCard(name);
    const homes = Object.fromEntries(group.dials.map(({ id, home }) => [id, home]));
    const set = setDials(document, null, card, homes);
    for (const { id } of group.outputs) {
      const packed = bitsOf(set, [outputKey([card], id)]);
      const opened = ungroup(document, null, card);
      const from = group.network.strands.find(({ to }) => to.node === '@out' && to.input === id);
      const inner = opened.network.nodes.find(
        (node) =>
          node.type === group.network.nodes.find((each) => each.id === from?.from.node)?.type &&
          node.name === group.network.nodes.find((each) => each.id === from?.from.node)?.name,
      );
      expect(bitsOf(opened, [outputKey([inner?.id ?? ''], from?.from.output ?? '')])).toEqual(
        packed,
      );
    }
  });

  it.each(READY_NAMES)('%s gives the inspector nothing to say, on two models', (name) => {
    const { document, card, group } = readyCard(name);
    const trial = new GroupTrial({ document, path: [card], models });
    const notes = [
      ...listNotes(document, group.id),
      ...group.dials.flatMap(({ id }) => measureDial(trial, id)),
      ...measurePairs(trial),
      ...measureUnplugging(trial),
    ];
    expect(notes.map(({ message }) => message)).toEqual([]);
    const [first] = trial.at({}).values;
    const { mean, minimum, maximum } = describeValues([first?.[0] ?? new Float32Array()]);
    expect(minimum).toBeGreaterThanOrEqual(0);
    expect(maximum).toBeLessThanOrEqual(1);
    expect(mean).toBeGreaterThan(0.02);
    expect(mean).toBeLessThan(0.9);
  });
});
