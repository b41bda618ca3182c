import { compileNetwork, mapDemands, uniformsFor } from '@/core/compile/compile';
import { adviseNode } from '@/core/advice/advise';
import { listPlaces } from '@/core/advice/places';
import { frozenNotes } from '@/core/evaluate/bake';
import type { InputValue } from '@/core/graph/document';
import { TEST_SCALE, documentOf, node } from '../support/networks';
import { valueAt } from '../support/evaluate';
import type { Lanes } from '../support/evaluate';

const close = (actual: readonly number[], expected: readonly number[], tolerance = 1e-5): void => {
  actual.forEach((value, k) => {
    expect(Math.abs(value - (expected[k] ?? NaN))).toBeLessThanOrEqual(tolerance);
  });
};
const looking = (normal: readonly number[], view: readonly number[]): Lanes =>
  Object.fromEntries(
    (['x', 'y', 'z'] as const).flatMap((axis, k) => [
      [`normal.${axis}`, [normal[k] ?? 0]],
      [`view.${axis}`, [view[k] ?? 0]],
    ]),
  );

describe('view angle', () => {
  const at = (
    angle: number,
    values: Record<string, InputValue> = {},
    options: Record<string, string> = {},
  ): number[] =>
    valueAt(
      'model.view-angle',
      'value',
      values,
      options,
      looking([0, 0, 1], [Math.sin(angle), 0, Math.cos(angle)]),
    );
  it('is the cosine, its sign does not matter, raised to the exponent', () => {
    close(
      [...at(0), ...at(1), ...at(Math.PI - 1), ...at(Math.PI / 2)],
      [1, Math.cos(1), Math.cos(1), 0],
    );
    close(
      [...at(1, { exponent: 3 }), ...at(1, {}, { range: 'rim' })],
      [Math.cos(1) ** 3, 1 - Math.cos(1)],
    );
  });
  it('says that it follows the camera, and that a bake freezes it', () => {
    const document = documentOf([
      node('v', 'model.view-angle'),
      { ...node('w', 'model.view-angle'), name: 'Rim' },
      node('p', 'model.position'),
    ]);
    expect(frozenNotes(document)).toEqual([
      '“View angle” follows the camera; it is frozen as seen straight on.',
      '“Rim” follows the camera; it is frozen as seen straight on.',
    ]);
    const [place] = listPlaces(document);
    expect(place && adviseNode(place, () => null)).toMatchObject([
      { code: 'value.follows', tone: 'fact' },
      { code: 'node.unused', tone: 'fact' },
    ]);
  });
});

describe('normal', () => {
  const read = (
    values: Record<string, InputValue> = {},
    options: Record<string, string> = {},
  ): number[] =>
    valueAt('model.normal', 'normal', values, options, looking([0.6, 0.8, 0], [0, 0, 1]));
  it('is turned about X, Y, Z, then offset, and unit', () => {
    expect(read()).toEqual([0.6, 0.8, 0].map(Math.fround));
    close(read({ turn: [0, 0, 90] }), [-0.8, 0.6, 0]);
    close(read({ turn: [90, 0, 0] }), [0.6, 0, 0.8]);
    close(
      read({ offset: [0, 0, 1] }),
      [0.6, 0.8, 1].map((x) => x / Math.SQRT2),
    );
    close(read({ turn: [0, 0, 90] }, { range: 'absolute' }), [0.8, 0.6, 0]);
  });
  it('reads detail where it is asked to', () => {
    close(read({ detail: [0, 0, 3] }, { smoothing: 'detail' }), [0, 0, 1]);
  });
});

describe('thickness', () => {
  it('asks for the rays inwards, each counting by its distance', () => {
    const document = documentOf([node('t', 'model.thickness', { reach: 0.4 })]);
    const compiled = compileNetwork(document, { surface: false, taps: 'all' });
    expect(mapDemands(compiled, uniformsFor(compiled, document, TEST_SCALE))).toMatchObject([
      {
        kind: 'occlusion',
        settings: { reach: Math.fround(0.4), cone: 90, falloff: 1 },
        choices: { side: 'solid', measure: 'relative' },
      },
    ]);
  });
});

describe('cell noise in octaves', () => {
  const at = (octaves: number, diminish = 0.5): number =>
    valueAt(
      'patterns.cell-noise',
      'nearest',
      { scale: 3, octaves, diminish, seed: 4 },
      { per: 'unit' },
      { 'position.x': [0.37], 'position.y': [-0.2], 'position.z': [0.81] },
    )[0] as number;
  it('is a weighed mean that passes smoothly from one number to the next', () => {
    const [one, two] = [at(1), at(2)];
    close([at(1.5)], [(one + (two * 1.5 - one) * 0.5) / 1.25]);
    close([at(2, 0)], [one]);
    close([at(1 + 1e-4)], [one], 1e-3);
    expect(two).not.toBeCloseTo(one, 3);
  });
});
