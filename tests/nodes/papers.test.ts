import { addDial, changeDial } from '@/core/edit/dials';
import { equationText, groupEquation } from '@/core/edit/equation';
import { groupSelection } from '@/core/edit/group';
import { writePapers } from '@/core/edit/group-papers';
import { findCardPath } from '@/core/edit/group-uses';
import { dialStates, planSheet } from '@/core/edit/sheet-plan';
import { withGroup } from '@/core/edit/board';
import { GroupPainter, pictureShare } from '@/core/notes/group-painter';
import { beginSheet, joinPictures, placeOnSheet, sheetTasks } from '@/core/evaluate/proof-sheet';
import { withPainted } from '@/core/evaluate/proof-sheet';
import type { Picture } from '@/core/evaluate/picture';
import type { GroupDefinition, NetworkDocument } from '@/core/graph/document';
import { MeshAnalysis } from '@/core/mesh/analysis';
import { ShapeSketch } from '@/core/mesh/shape-sketch';
import { meshOfSketch } from '../support/meshes';
import { documentOf, node } from '../support/networks';

const GROUP = 'g1';
/** Salt: noise, cut by a formula; scale, seed and strength are dials. */
function salt(): NetworkDocument {
  const document = documentOf(
    [
      node('grain', 'patterns.noise', { scale: 6 }),
      node('sum', 'math.math', { b: 0.25 }, { operation: 'multiply' }),
      node('cut', 'math.formula', { formula: { formula: 'max(a - b, 0.0)' }, b: 0.1 }),
      node('end', 'surface.surface'),
    ],
    [
      'grain:value > sum:a',
      'sum:value > cut:a',
      'cut:value > end:roughness',
      'end:surface > @out:surface',
    ],
  );
  const { document: packed } = groupSelection(document, {
    board: null,
    ids: ['grain', 'sum', 'cut'],
    name: 'Salt',
    path: [],
  });
  const exposed = (
    [
      ['grain', 'scale', 'times', 'Fineness'],
      ['sum', 'b', 'lift', 'Strength'],
      ['grain', 'seed', 'as is', 'Seed'],
    ] as const
  ).reduce(
    (made, [inner, input, law, name]) =>
      addDial(made, GROUP, inner, input, law, name)?.document ?? made,
    packed,
  );
  return withGroup(exposed, GROUP, (group) => ({
    ...group,
    description: 'Grains of salt.',
    limits: 'Not for wet places.',
    variants: [{ id: 'v1', name: 'Fine', values: { [group.dials[0]?.id ?? '']: 2 } }],
  }));
}
const groupOf = (document: NetworkDocument): GroupDefinition => {
  const group = document.groups[GROUP];
  if (!group) throw new Error('the group is gone');
  return group;
};

describe('the papers of a group', () => {
  it('write its equation with names, laws and the order of computing', () => {
    const document = salt();
    expect(groupEquation(document, groupOf(document))).toEqual([
      'noise = Noise(scale: 6 × “Fineness”, seed: “Seed”)',
      'math = noise.value × (0.25 + (“Strength” − 1) × 0.25)',
      'formula = max(math - 0.1, 0.0)',
      `${groupOf(document).outputs[0]?.name ?? ''} = formula`,
    ]);
    expect(equationText(document, groupOf(document))).toContain('Noise: ½ + ½·n(at·scale');
  });

  it('write the equations of groups inside', () => {
    const { document, groupId } = groupSelection(salt(), {
      board: null,
      ids: [salt().network.nodes.find(({ group }) => group === GROUP)?.id ?? ''],
      name: 'Around',
      path: [],
    });
    const text = equationText(document, document.groups[groupId] as GroupDefinition);
    expect(text).toContain('salt = Salt()');
    expect(text).toContain('Salt:\nnoise = Noise(');
  });

  it('state dials, ports, variants and limits as a page of text', () => {
    const document = salt();
    const page = writePapers(document, groupOf(document));
    for (const part of [
      '# Salt',
      'Grains of salt.',
      '**Fineness**',
      'slider 0 to 2',
      '## Variants\n\n- **Fine**: Fineness 2',
      '## Known limits\n\nNot for wet places.',
      '## Gives',
    ])
      expect(page).toContain(part);
  });
});

describe('the proof sheet', () => {
  const analysis = new MeshAnalysis(
    meshOfSketch(new ShapeSketch().nextPart('ball').sphere([0, 0, 0], 1, 24).finish(3)),
  );
  const model = { name: 'Ball', analysis, maps: () => undefined };

  it('plans each dial at low, home and high, sixteen seeds, and every variant', () => {
    const rows = planSheet(groupOf(salt()));
    expect(rows.map(({ title, kind, cells }) => [title, kind, cells.length])).toEqual([
      ['Fineness', 'dial', 3],
      ['Strength', 'dial', 3],
      ['Seed', 'seeds', 16],
      ['Variants', 'variants', 1],
    ]);
    const [fineness] = groupOf(salt()).dials;
    const words = changeDial(salt(), GROUP, fineness?.id ?? '', {
      ends: { low: 'coarse', high: 'fine' },
    });
    const [named] = groupOf(words).dials;
    expect(named && dialStates(named).map(({ title }) => title)).toEqual([
      '0: coarse',
      'home 1',
      '2: fine',
    ]);
  });

  it('paints what a dial changes, and tells its share; home is the same', () => {
    const document = salt();
    const path = findCardPath(document, GROUP) ?? [];
    const painter = new GroupPainter();
    let sheet = beginSheet(groupOf(document), ['Ball'], 24);
    const pictures: Picture[] = [];
    for (const task of sheetTasks(sheet)) {
      const made = painter.paintAll({ document, path, model, size: 24 }, task.settings);
      made.forEach(({ picture }, k) => (pictures[task.first + k] = picture));
      sheet = withPainted(sheet, task, made);
    }
    expect(sheet.shares.every((share) => share !== null)).toBe(true);
    const [fineness, strength] = sheet.lines;
    const shareOf = (line: typeof fineness, cell: number) =>
      sheet.shares[(line?.first ?? 0) + cell];
    expect(shareOf(fineness, 1)).toBe(0);
    expect(shareOf(fineness, 0)).toBeGreaterThan(0.5);
    expect(shareOf(strength, 2)).toBeGreaterThan(0.5);
    // What is told is what an outsider would count from the two pictures.
    const [low, home] = pictures;
    expect(low && home && pictureShare(home, low)).toBe(shareOf(fineness, 0));
    const joined = joinPictures(pictures, 24);
    const { x, y } = placeOnSheet(13, 24);
    const pixel = (picture: Picture, px: number, py: number) =>
      picture.pixels.slice((py * picture.width + px) * 4, (py * picture.width + px) * 4 + 4);
    expect(pixel(joined, x + 12, y + 12)).toEqual(pixel(pictures[13] as Picture, 12, 12));
  });
});
