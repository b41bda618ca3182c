import { compileNetwork, mapDemands, uniformsFor } from '@/core/compile/compile';
import { structureKey } from '@/core/compile/structure';
import { checkDocument } from '@/core/compile/check/check';
import { lightPlace, listLights } from '@/core/compile/lights';
import { dropLights, keepLights, listLightSetups, takeLights } from '@/core/edit/light-setups';
import { addLight, changeSurroundings } from '@/core/edit/lights';
import { frozenNotes } from '@/core/evaluate/bake';
import { EvaluationSession } from '@/core/evaluate/session';
import type { InputValue, NetworkDocument } from '@/core/graph/document';
import { uniformPoints } from '@/core/mesh/sample-points';
import { ShapeSketch } from '@/core/mesh/shape-sketch';
import { resolveMapSettings } from '@/core/mesh/analysis';
import { TEST_SCALE, documentOf, node } from '../support/networks';
import { meshOfSketch, unitTile } from '../support/meshes';
import { outputAt, valueAt } from '../support/evaluate';
import type { Lanes } from '../support/evaluate';

const close = (actual: readonly number[], expected: readonly number[], tolerance = 1e-5): void => {
  expect(actual).toHaveLength(expected.length);
  actual.forEach((value, k) => {
    expect(Math.abs(value - (expected[k] ?? NaN))).toBeLessThanOrEqual(tolerance);
  });
};
const standing = (x: number, y: number, z: number, more: Lanes = {}): Lanes => ({
  'position.x': [x],
  'position.y': [y],
  'position.z': [z],
  'normal.y': [1],
  ...more,
});

describe('part', () => {
  const at = (id: number, output: string, values: Record<string, InputValue> = {}): number[] =>
    valueAt(
      'model.part',
      output,
      values,
      {},
      { 'part.id': [id], 'part.centre.x': [1], 'part.centre.y': [2], 'part.centre.z': [3] },
    );
  it('gives number and centre as they are', () => {
    expect([...at(7, 'id'), ...at(7, 'centre')]).toEqual([7, 1, 2, 3]);
  });
  it('throws dice evenly: another part or seed, another throw, the same for the same', () => {
    const throws = Array.from({ length: 2000 }, (_, id) => at(id, 'random')[0] ?? NaN);
    expect(new Set(throws).size).toBeGreaterThan(1990);
    const counts = Array.from(
      { length: 10 },
      (_, k) => throws.filter((value) => value >= k / 10 && value < (k + 1) / 10).length,
    );
    expect(Math.max(...counts.map((count) => Math.abs(count - 200)))).toBeLessThan(60);
    expect(at(3, 'random')).toEqual(at(3, 'random'));
    expect(at(3, 'random')).not.toEqual(at(3, 'random', { seed: 1 }));
    expect(new Set([...at(3, 'colour'), ...at(3, 'random')]).size).toBe(4);
  });
  it('reads the parts of a model', () => {
    const sketch = new ShapeSketch()
      .nextPart('left')
      .sphere([-2, 0, 0], 0.5, 8)
      .nextPart('right')
      .sphere([2, 0, 0], 0.5, 8)
      .finish();
    const mesh = meshOfSketch(sketch);
    const points = uniformPoints(mesh, 200);
    const lanes = new EvaluationSession({ surface: false, taps: ['n:id', 'n:centre'] }).evaluate(
      documentOf([node('n', 'model.part')]),
      mesh,
      points,
      () => undefined,
    );
    for (let k = 0; k < 200; k++) {
      const side = (points.positions[k * 3] ?? 0) < 0 ? 0 : 1;
      close([lanes[0]?.[k] ?? NaN, lanes[1]?.[k] ?? NaN], [side, side * 4 - 2], 0.02);
    }
  });
});

describe('attribute', () => {
  it('stands for the model’s values, and for the fallback where there is none', () => {
    const lanes: Lanes = {
      'attribute:salt.x': [0.25],
      'attribute:salt.y': [0.5],
      'attribute:salt.z': [0.75],
      'attribute:salt.w': [0.9],
    };
    const read = (name: string, output: string): number[] =>
      valueAt('model.attribute', output, { fallback: [0.1, 0.2, 0.3] }, { name }, lanes);
    expect(read('salt', 'value')).toEqual([0.25, 0.5, 0.75]);
    expect([...read('salt', 'exists'), ...read('salt', 'fourth')]).toEqual([1, 1]);
    for (const missing of ['', 'rust']) {
      close(read(missing, 'value'), [0.1, 0.2, 0.3]);
      expect(read(missing, 'exists')).toEqual([0]);
    }
  });
  it('is blended inside triangles, with the slopes that go with it', () => {
    const mesh = {
      ...unitTile(),
      attributes: [{ name: 'wear', width: 2, values: Float32Array.of(0, 5, 1, 5, 1, 5, 0, 5) }],
    };
    const document = documentOf(
      [
        node('a', 'model.attribute', {}, { name: 'wear' }),
        node('b', 'surface.bump', { strength: 1 }),
      ],
      ['a:first > b:height'],
    );
    const points = uniformPoints(mesh, 64);
    const [first, second, third, , ny] = new EvaluationSession({
      surface: false,
      taps: ['a:first', 'a:second', 'a:third', 'b:normal'],
    }).evaluate(document, mesh, points, () => undefined);
    for (let k = 0; k < 64; k++)
      close(
        [first?.[k] ?? NaN, second?.[k] ?? NaN, third?.[k] ?? NaN],
        [(points.positions[k * 3] ?? 0) + 0.5, 5, 0],
        1e-5,
      );
    expect(ny?.[0] ?? 1).toBeLessThan(0.99995);
  });
  it('has its name checked by nobody but the model, and recompiles when it changes', () => {
    const named = (name: string): NetworkDocument =>
      documentOf([node('a', 'model.attribute', {}, { name })]);
    expect(checkDocument(named('whatever the maker called it')).diagnostics).toEqual([]);
    expect(structureKey(named('a'))).not.toBe(structureKey(named('b')));
  });
});

describe('beacon', () => {
  const units = { measure: 'units' };
  const at = (
    p: readonly [number, number, number],
    output: string,
    values: Record<string, InputValue>,
    options: Record<string, string> = units,
  ): number[] => valueAt('model.beacon', output, values, options, standing(...p));
  it('has distance 1 on the boundary of each shape, 0 in the middle', () => {
    const values = { place: [1, 2, 3] as const, extent: [0.5, 1, 2] as const };
    const cases: [string, [number, number, number], number][] = [
      ['sphere', [1.5, 2, 3], 1],
      ['sphere', [1, 3, 3], 1],
      ['sphere', [1 + 0.5 * Math.SQRT1_2, 2 + Math.SQRT1_2, 3], 1],
      ['sphere', [1, 2, 3], 0],
      ['box', [1.5, 2.9, 4.9], 1],
      ['box', [1.25, 2, 3], 0.5],
      ['cylinder', [1.5, 2.9, 3], 1],
      ['cylinder', [1, 3, 3], 1],
      ['half-space', [9, 2, 9], 1],
      ['half-space', [9, 1.5, 9], 0.5],
      ['half-space', [0, -40, 0], 0],
    ];
    for (const [shape, p, expected] of cases)
      close(at(p, 'distance', values, { shape, ...units }), [expected], 1e-5);
  });
  it('is turned about X, then Y, then Z, like its coordinates', () => {
    const values = {
      place: [0, 0, 0] as const,
      extent: [1, 0.1, 0.1] as const,
      turn: [0, 0, 90] as const,
    };
    close(at([0, 1, 0], 'coordinates', values), [1, 0, 0], 1e-4);
    close(at([0, 1, 0], 'distance', values), [1], 1e-4);
  });
  it('fades from the inner share to the boundary, and is hard at 1', () => {
    const mask = (r: number, inner: number): number =>
      at([r, 0, 0], 'mask', { place: [0, 0, 0], extent: [1, 1, 1], inner })[0] ?? NaN;
    close(
      [mask(0.4, 0.5), mask(0.75, 0.5), mask(1, 0.5), mask(2, 0.5), mask(0.99, 1), mask(1.01, 1)],
      [1, 0.5, 0, 0, 1, 0],
    );
  });
  it(
    'counts from the middle of the bounds in object sizes, unless told otherwise; a wired ' +
      'place is in metres',
    () => {
      const middle = [0, 1, 2].map(
        (k) => (TEST_SCALE.minimum[k] ?? 0) + (TEST_SCALE.extent[k] ?? 0) / 2,
      );
      close(valueAt('model.beacon', 'centre', { place: [0.5, 0, 0] }), [
        (middle[0] ?? 0) + 0.5 * TEST_SCALE.size,
        middle[1] ?? 0,
        middle[2] ?? 0,
      ]);
      const wired = documentOf(
        [node('v', 'constants.vector', { vector: [3, 4, 5] }), node('n', 'model.beacon')],
        ['v:vector > n:place'],
      );
      close(
        outputAt(wired, 'n:centre', {}, 1).map((lane) => lane[0] ?? NaN),
        [3, 4, 5],
      );
    },
  );
  it('moves without recompiling', () => {
    const placed = (x: number): NetworkDocument =>
      documentOf([node('n', 'model.beacon', { place: [x, 0, 0] })]);
    expect(structureKey(placed(0))).toBe(structureKey(placed(1)));
  });
  it('survives an extent of 0', () => {
    expect(at([1, 0, 0], 'mask', { place: [0, 0, 0], extent: [0, 0, 0] })).toEqual([0]);
  });
});

describe('between', () => {
  it('measures typed places, and wired ones in metres', () => {
    const typed = (measure: string): number[] =>
      ['distance', 'direction', 'middle'].flatMap((output) =>
        valueAt('model.between', output, { a: [0, 0, 0], b: [3, 4, 0] }, { measure }),
      );
    close(typed('units'), [5, 0.6, 0.8, 0, 1.5, 2, 0]);
    close(typed('relative').slice(0, 4), [5, 0.6, 0.8, 0]);
    const wired = documentOf(
      [
        node('p', 'model.position'),
        node('n', 'model.between', { b: [0, 0, 0] }, { measure: 'units' }),
      ],
      ['p:position > n:a'],
    );
    close(
      outputAt(wired, 'n:distance', standing(0, 3, 4), 1).map((lane) => lane[0] ?? NaN),
      [5],
    );
  });
  it('points up where the places coincide', () => {
    expect(valueAt('model.between', 'direction', { a: [1, 1, 1], b: [1, 1, 1] })).toEqual([
      0, 1, 0,
    ]);
  });
});

describe('proximity', () => {
  const at = (x: number, values: Record<string, InputValue> = {}): number[] =>
    ['value', 't', 'distance'].flatMap((output) =>
      valueAt(
        'model.proximity',
        output,
        { place: [0, 0, 0], ...values },
        { to: 'place', measure: 'units' },
        standing(x, 0, 0),
      ),
    );
  it('passes from one result to the other between near and far', () => {
    close(at(0.5, { near: 0, far: 2, atNear: 10, atFar: 20 }), [12.5, 0.25, 0.5]);
    close(
      [...at(0.1, { near: 1, far: 2 }).slice(0, 2), ...at(9, { near: 1, far: 2 }).slice(0, 2)],
      [1, 0, 0, 1],
    );
  });
  it('is a step where both ends are equal', () => {
    close([at(0.99, { near: 1, far: 1 })[1] ?? NaN, at(1, { near: 1, far: 1 })[1] ?? NaN], [0, 1]);
  });
  it('asks for the map of the parts chosen', () => {
    const demand = (options: Record<string, string>): unknown => {
      const document = documentOf([node('n', 'model.proximity', {}, options)]);
      const compiled = compileNetwork(document, { surface: false, taps: 'all' });
      const [found] = mapDemands(compiled, uniformsFor(compiled, document, TEST_SCALE));
      return found && resolveMapSettings(found.kind, found.settings, found.choices, 2);
    };
    expect(demand({})).toEqual({ kind: 'proximity', part: null });
    expect(demand({ to: 'part', part: 'bolt 2' })).toEqual({ kind: 'proximity', part: 'bolt 2' });
    expect(demand({ to: 'place' })).toBeUndefined();
  });
});

describe('light response', () => {
  const lit = (
    lights: NetworkDocument['lights'],
    output: string,
    lanes: Lanes,
    light = 'all',
  ): number[] =>
    outputAt(
      {
        ...documentOf([node('n', 'model.light-response', {}, { light })]),
        ...(lights ? { lights } : {}),
      },
      `n:${output}`,
      lanes,
      1,
    ).map((lane) => lane[0] ?? NaN);
  const far = {
    id: 'a',
    name: 'A',
    kind: 'far',
    at: [0, 2, 0],
    colour: [1, 0.5, 0],
    intensity: 3,
  } as const;
  it('is n·l of a far light, wrapped, and its light', () => {
    close(
      [
        ...lit([far], 'facing', standing(9, 9, 9)),
        ...lit([far], 'wrapped', standing(0, 0, 0)),
        ...lit([far], 'light', standing(0, 0, 0)),
      ],
      [1, 1, 3, 1.5, 0],
    );
    const turned = { 'normal.x': [0.8], 'normal.y': [-0.6] };
    close(
      [
        ...lit([far], 'facing', turned),
        ...lit([far], 'wrapped', turned),
        ...lit([far], 'light', turned),
      ],
      [-0.6, 0.2, 0, 0, 0],
    );
  });
  it('falls with the square of the distance to a near light, counted in object sizes', () => {
    const near = { ...far, kind: 'near', at: [0, 1, 0], colour: [1, 1, 1], intensity: 1 } as const;
    const [, height] = lightPlace(near, TEST_SCALE);
    close(lit([near], 'light', standing(0, height - 1, 0)), [4, 4, 4], 1e-3);
    close(lit([near], 'facing', standing(0, height + 1, 0)), [-1]);
  });
  it('takes one light, or the mean of all weighted by luminance; none is black', () => {
    const white = { ...far, colour: [1, 1, 1], intensity: 1 } as const;
    const lights = [white, { ...white, id: 'b', at: [1, 0, 0], intensity: 3 }] as const;
    close(
      [
        ...lit(lights, 'facing', standing(0, 0, 0), 'first'),
        ...lit(lights, 'facing', standing(0, 0, 0), 'second'),
        ...lit(lights, 'facing', standing(0, 0, 0)),
      ],
      [1, 0, 0.25],
    );
    close(
      [
        ...lit([], 'facing', standing(0, 0, 0)),
        ...lit([], 'brightness', standing(0, 0, 0)),
        ...lit(lights, 'facing', standing(0, 0, 0), 'fourth'),
      ],
      [0, 0, 0],
    );
  });
  it('moves without recompiling, and says that a bake freezes it', () => {
    const document = documentOf([node('n', 'model.light-response')]);
    expect(structureKey({ ...document, lights: [far] })).toBe(structureKey(document));
    expect(frozenNotes(document)).toEqual([
      '“Light response” follows the lights; it is frozen as they stand.',
    ]);
  });
  it('has its lights checked', () => {
    expect(checkDocument({ ...documentOf([]), lights: [far] }).diagnostics).toEqual([]);
    expect(checkDocument({ ...documentOf([]), lights: [far, far] }).diagnostics).toHaveLength(1);
    expect(
      checkDocument({ ...documentOf([]), lights: [{ ...far, intensity: -1 }] }).diagnostics,
    ).toHaveLength(1);
  });
});

describe('texture coordinates', () => {
  it('read another set where the model has it', () => {
    const lanes: Lanes = {
      'uv.x': [0.1],
      'uv.y': [0.2],
      'attribute:salt.x': [0.7],
      'attribute:salt.y': [0.8],
    };
    close(
      ['', 'salt', 'uv 9'].flatMap((set) =>
        valueAt('model.texture-coordinates', 'coordinates', {}, { set }, lanes),
      ),
      [0.1, 0.2, 0, 0.7, 0.8, 0, 0.1, 0.2, 0],
    );
  });
});

describe('light set-ups', () => {
  it('are kept under names, taken again whole, and forgotten', () => {
    const lit = keepLights(changeSurroundings(documentOf([]), { turn: 40 }), 'Dusk');
    const changed = changeSurroundings(addLight(lit).document, { turn: -10, strength: 2 });
    const [setup] = listLightSetups(changed);
    const taken = takeLights(changed, setup?.id ?? '');
    expect(listLights(taken)).toEqual(listLights(lit));
    expect(taken.surroundings).toEqual({ turn: 40, strength: 1 });
    expect(listLightSetups(keepLights(taken, 'Dusk'))).toHaveLength(1);
    expect(dropLights(lit, setup?.id ?? '').lightSetups).toBeUndefined();
    expect(takeLights(lit, 'gone')).toBe(lit);
  });
});
