import { addNode } from '@/core/edit/nodes';
import { READY_GROUPS } from '@/core/edit/ready-groups';
import { sortChanges } from '@/core/compare/change-shares';
import { listChanges } from '@/core/compare/document-changes';
import { comparePictures, differencePicture } from '@/core/compare/picture-difference';
import { MaterialPainter } from '@/core/evaluate/material-painter';
import { emptyDocument } from '@/core/graph/document';
import type { GroupDefinition, NetworkDocument } from '@/core/graph/document';
import {
  changeLine,
  changesSince,
  isChangedInside,
  proposeNotes,
} from '@/core/releases/change-notes';
import { groupFacts, groupWords } from '@/core/releases/group-facts';
import { lookAhead, placedFrom, takeEverywhere } from '@/core/releases/outlook';
import { bringIn } from '@/core/releases/release-groups';
import type { PlacedRelease, ReleasedGroups } from '@/core/releases/release-groups';
import { pinRelease, releasesUsed, takeRelease } from '@/core/releases/take-release';
import { takeSuccessor } from '@/core/releases/take-successor';
import { node, strand } from '../support/networks';
import { demoModel } from '../support/ready-card';
import { withDial } from './group-edits';
import type { Edit } from './group-edits';

const wear: GroupDefinition = {
  ...READY_GROUPS.find(({ name }) => name === 'Edge wear')?.definition,
  id: 'g1',
} as GroupDefinition;
const groupsOf = (group: GroupDefinition): ReleasedGroups => ({
  root: group.id,
  definitions: { [group.id]: group },
});
const release = (version: string, edit: Edit = (group) => group): PlacedRelease => ({
  entryId: 'wear',
  version,
  groups: groupsOf(edit(wear)),
});
/** A material with a card of the first release whose first dial is not home, into a surface. */
function placed(): { document: NetworkDocument; groupId: string; card: string } {
  const brought = bringIn(emptyDocument('Tin'), release('1.0.0'));
  const added = addNode(brought.document, null, 'group', [0, 0], brought.groupId);
  const { network } = added.document;
  const [dial] = wear.dials;
  const document: NetworkDocument = {
    ...added.document,
    network: {
      ...network,
      nodes: [
        ...network.nodes.map((each) => ({ ...each, values: { [dial?.id ?? '']: 0.5 } })),
        node('paint', 'surface.surface'),
      ],
      strands: [
        strand(`${added.id}:${wear.outputs[0]?.id ?? ''} > paint:roughness`),
        strand('paint:surface > @out:surface'),
      ],
    },
  };
  return { document, groupId: brought.groupId, card: added.id };
}
const firstNode =
  (edit: (value: number) => number): Edit =>
  (group) => ({
    ...group,
    network: {
      ...group.network,
      nodes: group.network.nodes.map((each) =>
        each.id === 'edges' ? { ...each, values: { ...each.values, gain: edit(3) } } : each,
      ),
    },
  });

describe('taking a release', () => {
  it('keeps own dial values by id, and goes back to what it was, to the letter', () => {
    const { document, groupId, card } = placed();
    const next = release(
      '1.1.0',
      firstNode((value) => value * 2),
    );
    const taken = takeRelease(document, groupId, next);
    expect(taken.lost).toEqual([]);
    expect(taken.document.network).toEqual(document.network);
    expect(taken.document.groups[groupId as never]).toMatchObject({
      id: groupId,
      release: { entryId: 'wear', version: '1.1.0' },
    });
    const back = takeRelease(taken.document, groupId, release('1.0.0'), document);
    expect(back.document).toEqual(document);
    expect(card).not.toBe('');
  });

  it('lists what it cannot keep, and gives it back when the release is put back', () => {
    const { document, groupId, card } = placed();
    const [dial] = wear.dials;
    const lean = release('2.0.0', (group) => ({
      ...group,
      dials: group.dials.slice(1),
      outputs: [{ id: 'other', name: 'Other', kind: 'scalar' }],
    }));
    const taken = takeRelease(document, groupId, lean);
    expect(taken.lost.map(({ what, title }) => `${what} ${title}`).sort()).toEqual([
      `strand ${wear.outputs[0]?.name ?? ''}`,
      `value ${dial?.name ?? ''}`,
    ]);
    const cardNow = taken.document.network.nodes.find(({ id }) => id === card);
    expect(cardNow?.values).toEqual({});
    expect(
      takeRelease(taken.document, groupId, release('1.0.0'), document).document.network,
    ).toEqual({
      ...document.network,
      strands: expect.arrayContaining([...document.network.strands]) as unknown,
    });
  });

  it('says why a value does not fit: out of range, or of another kind', () => {
    const { document, groupId } = placed();
    const narrow = release(
      '2.0.0',
      withDial(0, (dial) => ({ ...dial, hard: [0.8, 2] as const })),
    );
    expect(takeRelease(document, groupId, narrow).lost[0]?.reason).toContain('from 0.8 to 2');
    const other = release(
      '2.0.0',
      withDial(0, (dial) => ({ ...dial, kind: 'colour' as const, home: [1, 1, 1] as const })),
    );
    expect(takeRelease(document, groupId, other).lost[0]?.reason).toContain('colour');
  });

  it('brings a release in once, and takes it wherever the entry is placed', () => {
    const { document, groupId } = placed();
    expect(bringIn(document, release('1.0.0')).groupId).toBe(groupId);
    const two = bringIn(
      document,
      release(
        '1.1.0',
        firstNode((value) => value + 1),
      ),
    );
    expect(placedFrom(two.document, 'wear')).toHaveLength(2);
    const all = takeEverywhere(two.document, release('1.2.0'));
    expect(releasesUsed(all.document).map(({ version }) => version)).toEqual(['1.2.0']);
    const pinned = pinRelease(document, groupId, '  the hero shot is approved ');
    expect(releasesUsed(pinned)[0]?.pinned).toBe('the hero shot is approved');
    expect(pinRelease(pinned, groupId, '')).toEqual(document);
  });
});

describe('what changed between two states', () => {
  it('tells values, modes, wiring, dials and words apart, each restorable alone', () => {
    const { document, groupId } = placed();
    const edited = takeRelease(
      document,
      groupId,
      release('1.1.0', (group) => {
        const made = firstNode((value) => value * 2)(group);
        return {
          ...withDial(0, (dial) => ({ ...dial, help: 'Better said.' }))(made),
          network: {
            ...made.network,
            nodes: made.network.nodes.map((each, k) =>
              k === 1 ? { ...each, limited: !(each.limited ?? false) } : each,
            ),
            strands: made.network.strands.slice(1),
          },
        };
      }),
    ).document;
    const changes = listChanges(document, edited);
    expect(changes.map(({ kind }) => kind).sort()).toEqual(['mode', 'value', 'wiring', 'words']);
    for (const change of changes) {
      const left = listChanges(document, change.undo(edited));
      expect(left).toHaveLength(changes.length - 1);
      expect(left.map(changeLine)).not.toContain(changeLine(change));
    }
    expect(changes.find(({ kind }) => kind === 'value')).toMatchObject({
      what: 'Gain',
      before: '3',
      after: '6',
    });
    const undone = changes.reduce((current, change) => change.undo(current), edited);
    expect(listChanges(document, undone)).toEqual([]);
  });

  it('counts a node put between two others as one change', () => {
    const { document } = placed();
    const added = {
      ...document,
      network: {
        ...document.network,
        nodes: [...document.network.nodes, node('mid', 'ranges.smoothstep')],
        strands: [
          ...document.network.strands.filter(({ to }) => to.node !== 'paint'),
          { ...strand('x:y > mid:value'), from: document.network.strands[0]?.from },
          strand('mid:mask > paint:roughness'),
        ] as NetworkDocument['network']['strands'],
      },
    };
    const changes = listChanges(document, added);
    expect(changes).toHaveLength(1);
    expect(changes[0]).toMatchObject({
      kind: 'wiring',
      before: 'not there',
      after: '“Smoothstep”',
    });
    expect(listChanges(document, changes[0]?.undo(added) ?? added)).toEqual([]);
  });

  it('proposes notes from what changed since a release, modes first', () => {
    const { document, groupId } = placed();
    expect(isChangedInside(document, groupId, release('1.0.0'))).toBe(false);
    const changed = firstNode((value) => value * 3)(
      document.groups[groupId as never] as GroupDefinition,
    );
    const edited = { ...document, groups: { ...document.groups, [groupId]: changed } };
    expect(isChangedInside(edited, groupId, release('1.0.0'))).toBe(true);
    const notes = proposeNotes(changesSince(edited, groupId, release('1.0.0')));
    expect(notes).toContain('Gain, 3 → 9');
  });
});

describe('taking a successor', () => {
  const [dial, second] = wear.dials;
  const [output] = wear.outputs;
  /** The same with all ids its own, and what is given instead. */
  const successor = (edit: Edit = (group) => group): PlacedRelease => ({
    entryId: 'better wear',
    version: '3.0.0',
    groups: groupsOf(
      edit({
        ...wear,
        id: 'h1',
        // An id that meant something else in the other entry.
        dials: wear.dials.map((each, k) => ({
          ...each,
          id: k === 1 ? (dial?.id ?? '') : `new-${String(k)}`,
        })),
        outputs: wear.outputs.map((each) => ({ ...each, id: 'out-now' })),
      }),
    ),
  });
  it('keeps values and strands by name and kind, whatever the ids', () => {
    const { document, groupId, card } = placed();
    const taken = takeSuccessor(document, 'wear', successor());
    expect(taken.lost).toEqual([]);
    const now = taken.document.network;
    expect(now.nodes.find(({ id }) => id === card)?.values).toEqual({ 'new-0': 0.5 });
    expect(now.strands[0]?.from).toEqual({ node: card, output: 'out-now' });
    expect(taken.document.groups[groupId as never]).toMatchObject({
      release: { entryId: 'better wear', version: '3.0.0' },
    });
    expect(second?.id).toBeDefined();
    const same = takeSuccessor(document, 'wear', { ...release('1.0.0'), entryId: 'copy' });
    expect(same.document.network).toEqual(document.network);
  });
  it('lists what has no port of that name and kind, and leaves other entries alone', () => {
    const { document } = placed();
    const other = successor((group) => ({
      ...group,
      dials: group.dials.map((each, k) => (k === 0 ? { ...each, name: 'Something else' } : each)),
      outputs: group.outputs.map((each) => ({ ...each, kind: 'colour' as const })),
    }));
    const taken = takeSuccessor(document, 'wear', other);
    expect(taken.lost.map(({ what, title }) => `${what} ${title}`).sort()).toEqual([
      `strand ${output?.name ?? ''}`,
      `value ${dial?.name ?? ''}`,
    ]);
    expect(taken.document.network.nodes.every(({ values }) => !('gone' in values))).toBe(true);
    expect(takeSuccessor(document, 'elsewhere', other).document).toBe(document);
  });
});

describe('what a release does to a material', () => {
  it('shows both, and how much each change accounts for, the greatest first', async () => {
    const model = await demoModel('study');
    const painter = new MaterialPainter(model, 48);
    const { document } = placed();
    const next = release('1.1.0', (group) => {
      const strong = firstNode((value) => value * 4)(group);
      return {
        ...strong,
        network: {
          ...strong.network,
          nodes: strong.network.nodes.map((each) =>
            each.id === 'torn' || each.type === 'masks.break-edge'
              ? { ...each, values: { ...each.values, octaves: 5 } }
              : each,
          ),
        },
      };
    });
    const seen = lookAhead(document, next, (state) => painter.paint(state));
    expect(seen.from).toEqual(['1.0.0']);
    expect(seen.difference.mean).toBeGreaterThan(0);
    expect(seen.changes[0]?.change.what).toBe('Gain');
    expect(seen.changes[0]?.share).toBeGreaterThan(0.5);
    const [before, after] = seen.pictures;
    expect(comparePictures(before, before)).toEqual({ mean: 0, largest: 0, share: 0 });
    expect(comparePictures(before, after)).toEqual(seen.difference);
    const grey = differencePicture(before, before, 8);
    expect(new Set(grey.pixels)).toEqual(new Set([0, 128, 255]));
    const same = lookAhead(document, release('1.0.1'), (state) => painter.paint(state));
    expect(same.difference.share).toBe(0);
    expect(sortChanges(seen.changes)).toEqual(seen.changes);
  }, 60000);
});

describe('what a group is found by', () => {
  it('reads what it gives and needs off its program', () => {
    const facts = groupFacts(groupsOf(wear));
    expect(facts.gives).toEqual(['scalar']);
    expect(facts.needs).toEqual([]);
    expect(facts.madeOf).toContain('Curvature');
    const flat = {
      ...wear,
      network: {
        ...wear.network,
        nodes: [node('t', 'model.texture-coordinates')],
        strands: [strand(`t:coordinates > @out:${wear.outputs[0]?.id ?? ''}`)],
      },
      dials: [],
    };
    expect(groupFacts(groupsOf(flat)).needs).toEqual(['texture coordinates']);
    const rim = {
      ...flat,
      network: { ...flat.network, nodes: [node('v', 'model.view-angle')], strands: [] },
    };
    expect(groupFacts(groupsOf(rim)).follows).toEqual(['camera']);
    expect(groupWords(groupsOf(wear)).madeOf).toContain('Curvature');
  });
});
