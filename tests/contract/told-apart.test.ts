import { getNodeTitle } from '@/core/compile/catalogue';
import { titleInList, titlesAlong } from '@/core/compile/told-apart';
import { listBeacons } from '@/core/edit/beacons';
import { groupSelection } from '@/core/edit/group';
import { documentOf, node, randomDocument, TEST_SCALE } from '../support/networks';

const listOf = (document: ReturnType<typeof documentOf>) =>
  document.network.nodes.map((each) => titleInList(document, document.network, each));

describe('cards of one name', () => {
  const board = documentOf(
    [
      node('a', 'gradients.ramp'),
      node('b', 'gradients.ramp'),
      node('c', 'gradients.ramp'),
      node('d', 'gradients.ramp'),
      { ...node('e', 'gradients.ramp'), name: 'Rust' },
      node('noise', 'patterns.noise'),
      node('mix', 'math.mix'),
      node('paint', 'surface.surface'),
    ],
    ['a:colour > paint:baseColour', 'b:colour > mix:a', 'noise:value > c:value'],
  );

  it('say in a list what they lead to, or what leads to them', () => {
    expect(listOf(board)).toEqual([
      'Ramp (into Base colour of Surface)',
      'Ramp (into A of Mix)',
      'Ramp (after Noise)',
      'Ramp',
      'Rust',
      'Noise',
      'Mix',
      'Surface',
    ]);
  });
  it('are never the same twice on a board, and a card alone keeps its plain name', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const document = randomDocument(seed, 24);
      const titles = listOf(document);
      expect(new Set(titles).size).toBe(titles.length);
      const plain = document.network.nodes.map((each) => getNodeTitle(document, each));
      plain.forEach((title, k) => {
        if (plain.filter((each) => each === title).length === 1) expect(titles[k]).toBe(title);
      });
    }
  });
  it('are told along a path through groups, and among the beacons of the stage', () => {
    const lights = documentOf([node('p', 'model.beacon'), node('q', 'model.beacon')]);
    const packed = groupSelection(lights, { board: null, ids: ['p'], name: 'In', path: [] });
    expect(titlesAlong(packed.document, [packed.nodeId, 'p'])).toEqual(['In', 'Beacon']);
    const titles = listBeacons(lights, null, TEST_SCALE).map(({ title }) => title);
    expect(new Set(titles).size).toBe(2);
  });
});
