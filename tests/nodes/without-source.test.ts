/** A source that is off counts as not there: what it was made for goes on without it. */
import { groupSelection } from '@/core/edit/group';
import { seededRandom } from '@/core/base/random';
import type { NetworkDocument, NodeInstance } from '@/core/graph/document';
import { outputAt } from '../support/evaluate';
import { documentOf, node, randomDocument, randomLanes } from '../support/networks';

const GREY = [0.25, 0.5, 0.75];
const off = (id: string, type: string): NodeInstance => ({ ...node(id, type), off: true });
const paint = node('c', 'constants.colour', { colour: [0.25, 0.5, 0.75] });
/** What an output gives at one point, six digits of each lane. */
const at = (document: NetworkDocument, key: string): number[] =>
  outputAt(document, key, {}, 1).map(([value = NaN]) => Number(value.toPrecision(6)));

describe('an occlusion that is off', () => {
  it.each(['normal', 'multiply', 'screen', 'overlay', 'difference', 'colour'])(
    'leaves a blend in mode %s its other side, whichever that is',
    (mode) => {
      for (const [mine, other] of [
        ['over', 'under'],
        ['under', 'over'],
      ]) {
        const document = documentOf(
          [off('o', 'model.occlusion'), paint, node('n', 'colour.blend', {}, { mode })],
          [`o:openness > n:${mine ?? ''}`, `c:colour > n:${other ?? ''}`],
        );
        expect(at(document, 'n:colour')).toEqual(GREY);
      }
    },
  );
  it('as a mask lets nothing through', () => {
    const document = documentOf(
      [off('o', 'model.occlusion'), paint, node('n', 'colour.blend')],
      ['o:openness > n:where', 'c:colour > n:under'],
    );
    expect(at(document, 'n:colour')).toEqual(GREY);
  });
  it('takes along what only worked on it, up to a node that has another side', () => {
    const document = documentOf(
      [
        off('o', 'model.occlusion'),
        node('r', 'gradients.ramp'),
        node('l', 'ranges.levels'),
        paint,
        node('n', 'colour.blend', {}, { mode: 'multiply' }),
      ],
      ['o:openness > r:value', 'r:colour > l:value', 'l:value > n:over', 'c:colour > n:under'],
    );
    expect(at(document, 'n:colour')).toEqual(GREY);
  });
  it('is not counted in a list, and a list of nothing else is an empty one', () => {
    const masks = (type: string, strands: string[]): number[] =>
      at(
        documentOf(
          [
            off('o', 'model.occlusion'),
            node('m', 'constants.number', { value: 0.4 }),
            node('n', type),
          ],
          strands,
        ),
        'n:mask',
      );
    for (const type of ['masks.union', 'masks.intersect', 'masks.exclude']) {
      const alone = masks(type, ['m:value > n:masks']);
      expect(masks(type, ['o:openness > n:masks', 'm:value > n:masks'])).toEqual(alone);
      expect(masks(type, ['o:openness > n:masks'])).toEqual(masks(type, []));
    }
  });
  it.each(['add', 'multiply', 'subtract', 'minimum', 'power'])(
    'leaves %s its other operand',
    (operation) => {
      for (const [mine, other] of [
        ['a', 'b'],
        ['b', 'a'],
      ]) {
        const document = documentOf(
          [
            off('o', 'model.occlusion'),
            node('m', 'constants.number', { value: 0.4 }),
            node('n', 'math.math', {}, { operation }),
          ],
          [`o:openness > n:${mine ?? ''}`, `m:value > n:${other ?? ''}`],
        );
        expect(at(document, 'n:value')).toEqual([0.4]);
      }
    },
  );
  it('leaves a setting its own value', () => {
    const values = { roughness: 0.35 };
    const surface = (nodes: NodeInstance[], strands: string[]): number[][] =>
      outputAt(
        documentOf(
          [...nodes, node('s', 'surface.surface', values)],
          [...strands, 's:surface > @out:surface'],
        ),
        '',
        {},
        1,
        { surface: true, taps: [] },
      );
    const plain = surface([], []);
    expect(surface([off('o', 'model.occlusion')], ['o:openness > s:roughness'])).toEqual(plain);
    expect(surface([off('o', 'constants.number')], ['o:value > s:roughness'])).toEqual(plain);
  });
  it('is no black for an overall amount either', () => {
    for (const [mine, other] of [
      ['over', 'under'],
      ['under', 'over'],
    ]) {
      const blend = { ...node('n', 'colour.blend'), amount: 0.5 };
      const document = documentOf(
        [
          off('o', 'model.occlusion'),
          paint,
          { ...node('r', 'gradients.ramp'), amount: 0.5 },
          blend,
        ],
        ['o:openness > r:value', `r:colour > n:${mine ?? ''}`, `c:colour > n:${other ?? ''}`],
      );
      expect(at(document, 'n:colour')).toEqual(GREY);
    }
  });
  it('is never one of its settings: a temperature is no grey, an index no reflectance', () => {
    for (const [type, output] of [
      ['colour.temperature', 'colour'],
      ['optics.fresnel', 'reflectance'],
      ['gradients.gradient', 'value'],
    ]) {
      const document = documentOf(
        [off('o', type ?? ''), paint, node('n', 'colour.blend', {}, { mode: 'multiply' })],
        [`o:${output ?? ''} > n:over`, 'c:colour > n:under'],
      );
      expect([type, ...at(document, 'n:colour')]).toEqual([type, ...GREY]);
    }
  });
  it('leaves a layer the surface under it', () => {
    const end = ['l:surface > @out:surface'];
    const red = node('u', 'surface.surface', { baseColour: [0.6, 0.1, 0.1] });
    const read = (nodes: NodeInstance[], strands: string[]): number[][] =>
      outputAt(documentOf(nodes, strands), '', {}, 1, { surface: true, taps: [] });
    const alone = read([red], ['u:surface > @out:surface']);
    expect(
      read(
        [red, off('v', 'surface.surface'), node('l', 'surface.layer', { where: 1 })],
        ['u:surface > l:under', 'v:surface > l:over', ...end],
      ),
    ).toEqual(alone);
  });
});

describe('random networks with sources off', () => {
  it('look the same with a part of them packaged, to the bit', () => {
    const POINTS = 5;
    const lanes = randomLanes(POINTS, 3);
    const names = ['position.x', 'position.y', 'position.z', 'normal.x', 'normal.y', 'normal.z'];
    const given = Object.fromEntries(names.map((name) => [name, lanes(name)]));
    const read = (document: NetworkDocument): number[][] =>
      outputAt(document, '', given, POINTS, { surface: true, taps: [] });
    let switched = 0;
    for (let seed = 1; seed <= 60; seed++) {
      const random = seededRandom(seed * 11);
      const drawn = randomDocument(seed, 4 + (seed % 9));
      const nodes = drawn.network.nodes.map((each): NodeInstance => {
        const isOff = random() < 0.3;
        if (isOff) switched++;
        return isOff ? { ...each, off: true } : each;
      });
      const document = { ...drawn, network: { ...drawn.network, nodes } };
      const ids = nodes.slice(nodes.length >> 1).map(({ id }) => id);
      const packed = groupSelection(document, { board: null, ids, name: 'Part', path: [] });
      expect([seed, read(packed.document)]).toEqual([seed, read(document)]);
    }
    expect(switched).toBeGreaterThan(60);
  });
});
