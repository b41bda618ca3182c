import { checkDocument } from '../compile/check/check';
import { structureKey } from '../compile/structure';
import {
  addBend,
  addNote,
  addRegion,
  markId,
  moveMarks,
  removeAllBends,
  removeMarks,
} from './marks';
import { copyNodes, pasteClip } from './clip';
import { emptyDocument } from '../graph/document';
import { addNode } from './nodes';
import { connect, setPlain } from './strands';

const ENDS = [
  [0, 0],
  [300, 0],
] as const;
function twoNodes() {
  const first = addNode(emptyDocument('m'), null, 'patterns.noise', [0, 0]);
  const second = addNode(first.document, null, 'ranges.clamp', [300, 0]);
  const document = connect(
    second.document,
    null,
    { node: first.id, output: 'value' },
    { node: second.id, input: 'value' },
  );
  return { document, ids: [first.id, second.id], strand: document.network.strands[0]?.id ?? '' };
}
const bendsOf = (document: ReturnType<typeof twoNodes>['document'], k = 0) =>
  document.network.strands[k]?.bends;

describe('bends of a strand', () => {
  it(
    'stand in the order of the way, are moved and removed, and change nothing that is ' +
      'computed',
    () => {
      const { document, strand } = twoNodes();
      const bent = addBend(
        addBend(addBend(document, null, strand, [200, 40], ENDS), null, strand, [100, 40], ENDS),
        null,
        strand,
        [150, 80],
        ENDS,
      );
      expect(bendsOf(bent)).toEqual([
        [100, 40],
        [150, 80],
        [200, 40],
      ]);
      expect(structureKey(bent)).toBe(structureKey(document));
      const read = checkDocument(JSON.parse(JSON.stringify(bent)));
      expect(read.document).toEqual(bent);
      expect(read.diagnostics).toEqual(checkDocument(document).diagnostics);
      const moved = moveMarks(bent, null, new Map([[markId.bend(strand, 1), [160, 90] as const]]));
      expect(bendsOf(moved)).toEqual([
        [100, 40],
        [160, 90],
        [200, 40],
      ]);
      expect(
        bendsOf(removeMarks(moved, null, [markId.bend(strand, 0), markId.bend(strand, 2)])),
      ).toEqual([[160, 90]]);
      expect(removeAllBends(moved, null, strand)).toEqual(document);
      expect(addBend(document, null, 'nothing', [0, 0], ENDS)).toBe(document);
    },
  );
  it('go along with copies, shifted like their nodes, and so does what the strand carries', () => {
    const { document, ids, strand } = twoNodes();
    const bent = setPlain(addBend(document, null, strand, [100, 40], ENDS), null, strand, true);
    const pasted = pasteClip(bent, null, copyNodes(bent, null, ids), [10, 20], false).document;
    expect(pasted.network.strands[1]).toMatchObject({ bends: [[110, 60]], plain: true });
  });
  it('end at the limit', () => {
    const { document, strand } = twoNodes();
    const full = Array.from({ length: 40 }, (_, k) => k).reduce(
      (current, k) => addBend(current, null, strand, [k * 5, 40], ENDS),
      document,
    );
    expect(bendsOf(full)).toHaveLength(32);
  });
});

describe('notes and regions', () => {
  it('are moved and removed by their marks', () => {
    const made = addRegion(
      addNote(emptyDocument('m'), null, [1, 2], 'why'),
      null,
      [3, 4],
      [100, 80],
      'Rust',
    );
    const [note, region] = [made.network.notes[0], made.network.regions[0]];
    const moved = moveMarks(
      made,
      null,
      new Map([
        [markId.note(String(note?.id)), [5, 6] as const],
        [markId.region(String(region?.id)), [7, 8] as const],
      ]),
    );
    expect([moved.network.notes[0]?.at, moved.network.regions[0]?.at]).toEqual([
      [5, 6],
      [7, 8],
    ]);
    expect(removeMarks(moved, null, [markId.note(String(note?.id))]).network).toMatchObject({
      notes: [],
      regions: [{ title: 'Rust' }],
    });
    expect(removeMarks(moved, null, ['n1'])).toBe(moved);
  });
});
