import { checkReferences } from '@/core/compile/check/check';
import { findFaultCure } from '@/core/edit/fault-cures';
import { locateFinding, wayTo } from '@/core/graph/finding-place';
import { parseDocument } from '@/core/graph/schema';
import { PLANTED, plantedDocument } from '../support/planted-faults';

const document = plantedDocument();
const placed = checkReferences(document).map((finding) => ({
  finding,
  place: locateFinding(document, finding),
}));

describe('findings of a document with planted faults', () => {
  it('has a shape that can be stored', () => {
    expect(parseDocument(document).diagnostics).toEqual([]);
    expect(PLANTED.length).toBeGreaterThanOrEqual(30);
  });

  it.each(PLANTED.filter(({ code }) => code !== 'image.unavailable'))(
    'find $code at $place',
    ({ code, place }) => {
      expect(placed.map((each) => ({ code: each.finding.code, place: each.place }))).toContainEqual(
        { code, place },
      );
    },
  );

  it('finds nothing that was not planted', () => {
    const known = PLANTED.map((each) => JSON.stringify(Object.entries(each.place).sort()));
    for (const { finding, place } of placed)
      expect(
        `${finding.code} ${String(known.includes(JSON.stringify(Object.entries(place).sort())))}`,
      ).toBe(`${finding.code} true`);
  });

  it('leads to every board with a fault by cards that stand on boards', () => {
    expect(wayTo(document, null)).toEqual([]);
    expect(wayTo(document, 'barnacles')).toEqual(['shells']);
    expect(wayTo(document, 'knot')).toEqual(['tied']);
    expect(wayTo(document, 'absent')).toBeNull();
  });

  it('is rid of a fault by its cure, and of nothing else', () => {
    let cures = 0;
    for (const { finding, place } of placed) {
      const cure = findFaultCure(finding, place);
      if (!cure) continue;
      cures++;
      const left = checkReferences(cure.apply(document));
      const key = `${finding.code} ${finding.message}`;
      const count = (list: typeof left): number =>
        list.filter((each) => `${each.code} ${each.message}` === key).length;
      expect(count(left)).toBe(count(placed.map((each) => each.finding)) - 1);
    }
    expect(cures).toBeGreaterThan(14);
  });
});
