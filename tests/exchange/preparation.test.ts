import { readModel } from '@/core/exchange/read-model';
import { listCures, withCure, withUnitAndAxis, withoutCure } from '@/core/exchange/prepare';
import { CURES } from '@/core/mesh/finding';
import { mapForm, preparationForm } from '@/contract/model-forms';
import { resolveMapSettings } from '@/core/mesh/analysis';

const WEDGE = 'v 0 0 0\nv 100 0 0\nv 0 0 50\nv 0 200 0\nf 1 3 2\nf 1 2 4\nf 1 4 3\nf 2 3 4\n';

describe('what is corrected in a model', () => {
  it('is added and taken back, one cure at a time', () => {
    for (const cure of CURES) {
      const once = withCure({ unit: 0.01 }, cure);
      expect(listCures(once)).toEqual([cure]);
      expect(withoutCure(once, cure)).toEqual({ unit: 0.01 });
    }
    expect(withCure(withCure({}, 'weld'), 'weld').weld).toBeGreaterThan(
      withCure({}, 'weld').weld ?? 1,
    );
    expect(withCure({ smooth: 170 }, 'smooth')).toEqual({ smooth: 180 });
    expect(withCure({ flipWinding: true }, 'flip')).toEqual({});
  });
  it('says units and axes only where they differ from metres and Y', () => {
    expect(withUnitAndAxis({ weld: 0.1 }, { unit: 0.01 })).toEqual({ weld: 0.1, unit: 0.01 });
    expect(withUnitAndAxis({ unit: 0.01, zUp: true }, { unit: 1 })).toEqual({ zUp: true });
    expect(withUnitAndAxis({ zUp: true }, { zUp: false })).toEqual({});
  });
  it(
    'turns a file with Z up and centimetres into metres with Y up, keeping what is outside ' +
      'outside',
    async () => {
      const read = async (preparation = {}) =>
        (await readModel(new TextEncoder().encode(WEDGE), 'wedge', { preparation })).mesh;
      const plain = await read(),
        placed = await read({ unit: 0.01, zUp: true });
      expect(plain.extent.map(Math.round)).toEqual([100, 200, 50]);
      expect(placed.extent.map((value) => Number(value.toFixed(6)))).toEqual([1, 0.5, 2]);
      const volume = ({ positions, indices }: typeof plain): number => {
        let sum = 0;
        for (let t = 0; t < indices.length; t += 3) {
          const [a, b, c] = [0, 1, 2].map((k) =>
            [0, 1, 2].map((axis) => positions[(indices[t + k] ?? 0) * 3 + axis] ?? 0),
          ) as [number[], number[], number[]];
          sum +=
            (a[0] ?? 0) * ((b[1] ?? 0) * (c[2] ?? 0) - (b[2] ?? 0) * (c[1] ?? 0)) +
            (a[1] ?? 0) * ((b[2] ?? 0) * (c[0] ?? 0) - (b[0] ?? 0) * (c[2] ?? 0)) +
            (a[2] ?? 0) * ((b[0] ?? 0) * (c[1] ?? 0) - (b[1] ?? 0) * (c[0] ?? 0));
        }
        return sum;
      };
      expect(volume(placed) / volume(plain)).toBeCloseTo(1e-6, 8);
    },
  );
  it('is checked at the server: numbers within their limits, nothing unknown', () => {
    const isFine = (value: unknown): boolean =>
      preparationForm.validate(value, { convert: false }).error === undefined;
    expect(
      [{}, { smooth: 30, weld: 0.01, unwrap: true, flipWinding: true, unit: 0.001, zUp: true }].map(
        isFine,
      ),
    ).toEqual([true, true]);
    expect(
      [
        { smooth: 181 },
        { weld: -1 },
        { unit: 0 },
        { unit: '1' },
        { unwrap: false },
        { other: 1 },
        3,
      ].map(isFine),
    ).toEqual([false, false, false, false, false, false, false]);
  });
  it('and so are maps: what nodes ask for passes in its order, nothing else', () => {
    const asked = [
      resolveMapSettings('curvature', { radius: 0.03 }, { measure: 'relative' }, 2),
      resolveMapSettings('occlusion', { reach: 0.2, cone: 90, falloff: 0 }, { side: 'both' }, 2),
      resolveMapSettings(
        'occlusion',
        { reach: 0.2, cone: 90, falloff: 0 },
        { side: 'open', floor: 'ground' },
        2,
      ),
      resolveMapSettings('proximity', {}, { to: 'part', part: 'lid' }, 2),
      resolveMapSettings('proximity', {}, {}, 2),
      resolveMapSettings('crease', { width: 0.1, angle: 30 }, {}, 2),
    ];
    const isAMap = (settings: unknown): boolean =>
      mapForm.validate(JSON.stringify(settings), { convert: false }).error === undefined;
    for (const settings of asked) expect(isAMap(settings)).toBe(true);
    for (const wrong of [
      { kind: 'curvature' },
      { kind: 'occlusion', reach: 1 },
      { kind: 'other' },
      null,
      { kind: 'curvature', radius: 0 },
    ])
      expect(isAMap(wrong)).toBe(false);
  });
});
