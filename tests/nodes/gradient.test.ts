/** A new gradient goes from 0 to 1 over whatever model it is on. */
import { upgradeNodes } from '@/core/compile/upgrade';
import { EvaluationSession } from '@/core/evaluate/session';
import type { InputValue, NetworkDocument } from '@/core/graph/document';
import { uniformPoints } from '@/core/mesh/sample-points';
import { bitsOf } from '../support/agreement';
import { documentOf, node } from '../support/networks';
import { demoModel } from '../support/ready-card';

const POINTS = 4000;

async function rangeOn(
  model: string,
  shape: string,
  values: Readonly<Record<string, InputValue>> = {},
): Promise<readonly [number, number]> {
  const { analysis, maps } = await demoModel(model);
  const document = documentOf([node('g', 'gradients.gradient', values, { shape })]);
  const session = new EvaluationSession({ surface: false, taps: ['g:value'] });
  session.prepare(document);
  const points = uniformPoints(analysis.mesh, POINTS);
  const [lane = new Float32Array()] = session.evaluate(document, analysis.mesh, points, maps);
  return [Math.min(...lane), Math.max(...lane)];
}

describe.each(['bell', 'study'])('a new gradient on the model “%s”', (model) => {
  it.each([[[0, 1, 0]], [[1, 0, 0]], [[0, 0, -3]]] as const)(
    'goes from one end to the other along %p',
    async (axis) => {
      const [least, most] = await rangeOn(model, 'linear', { axis });
      expect(least).toBeGreaterThanOrEqual(-1e-5);
      expect(most).toBeLessThanOrEqual(1 + 1e-5);
      expect(least).toBeLessThan(0.06);
      expect(most).toBeGreaterThan(0.94);
    },
  );
  it('stays within 0 and 1 along a slanted axis and in every shape', async () => {
    for (const shape of ['linear', 'mirrored', 'spherical', 'box', 'angular']) {
      const [least, most] = await rangeOn(model, shape, { axis: [1, 2, -0.5] });
      expect([shape, least >= -1e-5, most <= 1 + 1e-5]).toEqual([shape, true, true]);
      expect(most - least).toBeGreaterThan(0.4);
    }
  });
  it('reaches 1 at the faces of the box around the object', async () => {
    expect((await rangeOn(model, 'box'))[1]).toBeGreaterThan(0.94);
  });
});

it('that was there before counts as it did, to the bit', () => {
  const former = (options: Record<string, string>): NetworkDocument => {
    const document = documentOf(
      [
        { ...node('g', 'gradients.gradient', { length: 0.7 }, options), version: 1 },
        node('s', 'surface.surface'),
      ],
      ['g:value > s:roughness', 's:surface > @out:surface'],
    );
    return upgradeNodes(document);
  };
  const now = (per: string): NetworkDocument =>
    documentOf(
      [node('g', 'gradients.gradient', { length: 0.7 }, { per }), node('s', 'surface.surface')],
      ['g:value > s:roughness', 's:surface > @out:surface'],
    );
  expect(former({}).network.nodes[0]).toMatchObject({ version: 2, options: { per: 'object' } });
  expect(bitsOf(former({}))).toEqual(bitsOf(now('object')));
  expect(bitsOf(former({ per: 'unit' }))).toEqual(bitsOf(now('unit')));
});
