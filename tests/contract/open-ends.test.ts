import { inspectDocument, listOpenEnds } from '@/core/advice/open-ends';
import { locateFinding } from '@/core/graph/finding-place';
import { addPort } from '@/core/edit/group-ports';
import { addReadyGroup } from '@/core/edit/ready-groups';
import { emptyDocument } from '@/core/graph/document';
import { READY_NAMES } from '../support/ready-card';
import { documentOf, node } from '../support/networks';

describe('open ends', () => {
  it('a material that ends nowhere says so, an empty one does not', () => {
    const codes = (strands: string[]): string[] =>
      listOpenEnds(documentOf([node('n', 'surface.surface')], strands)).map(({ code }) => code);
    expect(codes([])).toEqual(['network.no-surface']);
    expect(codes(['n:surface > @out:surface'])).toEqual([]);
    expect(listOpenEnds(emptyDocument('New'))).toEqual([]);
  });
  it.each(READY_NAMES)('a port of %s that leads nowhere is a note at its group', (name) => {
    const { document } = addReadyGroup(emptyDocument(name), null, name, [0, 0]);
    const [id = ''] = Object.keys(document.groups);
    const inside = listOpenEnds(document).filter(({ pointer }) => pointer.startsWith('/groups'));
    expect(inside).toEqual([]);
    for (const [side, code] of [
      ['inputs', 'group.unread-input'],
      ['outputs', 'group.open-output'],
    ] as const) {
      const added = addPort(document, id, side, { name: 'Spare', kind: 'scalar' });
      if (!added) throw new Error('no port');
      const found = listOpenEnds(added.document).filter((each) => each.code === code);
      expect(found.map(({ message }) => message)).toEqual([
        expect.stringContaining('“Spare”') as string,
      ]);
      expect(found.map((each) => locateFinding(added.document, each))).toEqual([
        { board: id, group: id },
      ]);
      // A note keeps nobody from going on.
      expect(inspectDocument(added.document).every(({ severity }) => severity === 'note')).toBe(
        true,
      );
    }
  });
});
