/** Shares of branches: they part the surface among its sources, and follow what gets through. */
import { compileNetwork } from '@/core/compile/compile';
import {
  documentForShares,
  keysForShares,
  measureShares,
  strandShareKey,
  valuesByKey,
} from '@/core/explain/branch-shares';
import type { BranchShares } from '@/core/explain/branch-shares';
import { EvaluationSession } from '@/core/evaluate/session';
import { groupSelection } from '@/core/edit/group';
import type { NetworkDocument } from '@/core/graph/document';
import { uniformPoints } from '@/core/mesh/sample-points';
import { STARTERS } from '@/core/starters/starters';
import { documentOf, node } from '../support/networks';
import { demoModel } from '../support/ready-card';

const POINTS = 5;
const model = demoModel('study');
async function sharesOf(document: NetworkDocument): Promise<BranchShares> {
  const { analysis, maps } = await model;
  const whole = documentForShares(document);
  const session = new EvaluationSession({ surface: false, taps: keysForShares(document) });
  const points = uniformPoints(analysis.mesh, POINTS);
  const lanes = session.evaluate(whole, analysis.mesh, points, maps);
  return measureShares(document, valuesByKey(session.prepare(whole), lanes), POINTS);
}
const mixed = (amount: number): NetworkDocument =>
  documentOf(
    [
      node('a', 'patterns.noise', { scale: 3 }),
      node('b', 'patterns.noise', { scale: 7 }),
      node('mix', 'math.mix', { a: -1, b: -1, amount }),
      node('paint', 'surface.surface'),
    ],
    [
      'a:value > mix:a',
      'b:value > mix:b',
      'mix:value > paint:roughness',
      'paint:surface > @out:surface',
    ],
  );

it('parts a mix by what each side brings', async () => {
  const { outputs, strands } = await sharesOf(mixed(0.25));
  for (let point = 0; point < POINTS; point++) {
    const [a, b] = [outputs.get('a:value')?.[point] ?? 0, outputs.get('b:value')?.[point] ?? 0];
    expect(a + b).toBeCloseTo(1, 6);
    expect(a).toBeGreaterThan(b);
  }
  expect(outputs.get('mix:value')).toEqual([1, 1, 1, 1, 1]);
  expect(strands.get(strandShareKey([], 's-paint-surface-out-surface'))?.[0]).toBe(1);
});

it('carries a number into the lanes of a colour, as the network does', async () => {
  const mix = (b: string): NetworkDocument =>
    documentOf(
      [
        node('n', 'patterns.noise', { scale: 3 }),
        node('ramp', 'gradients.ramp'),
        node('grey', 'patterns.noise', { scale: 7 }),
        node('colour', 'colour.pack'),
        node('mix', 'math.mix', { amount: 0.4 }),
        node('flat', 'surface.surface'),
      ],
      [
        'n:value > ramp:value',
        'ramp:colour > mix:a',
        ...['red', 'green', 'blue'].map((lane) => `grey:value > colour:${lane}`),
        `${b} > mix:b`,
        'mix:value > flat:baseColour',
        'flat:surface > @out:surface',
      ],
    );
  // The same grey, once as a number and once as a colour of three equal lanes.
  const [number, colour] = [
    await sharesOf(mix('grey:value')),
    await sharesOf(mix('colour:colour')),
  ];
  for (const key of ['ramp:colour', 'mix:value'])
    expect(number.outputs.get(key)).toEqual(colour.outputs.get(key));
});

it('gives nothing to a side that does not get through', async () => {
  const { outputs } = await sharesOf(mixed(0));
  expect(outputs.get('a:value')).toEqual([1, 1, 1, 1, 1]);
  expect(outputs.get('b:value')).toEqual([0, 0, 0, 0, 0]);
});

it('is the same inside a group as on the board', async () => {
  const flat = mixed(0.25);
  const { document, nodeId } = groupSelection(flat, {
    board: null,
    ids: ['a', 'b', 'mix'],
    name: 'Mixed',
    path: [],
  });
  const [outside, inside] = [await sharesOf(flat), await sharesOf(document)];
  for (const id of ['a', 'b']) {
    const shares = inside.outputs.get(`${nodeId}/${id}:value`) ?? [];
    expect(shares).toHaveLength(POINTS);
    shares.forEach((share, point) => {
      expect(share).toBeCloseTo(outside.outputs.get(`${id}:value`)?.[point] ?? NaN, 6);
    });
  }
});

it.each(STARTERS.map((starter) => [starter.id, starter] as const))(
  'changes no value of %s, and no node has more than the whole of its strands',
  async (_id, starter) => {
    const document = starter.document();
    const { analysis, maps } = await model;
    const points = uniformPoints(analysis.mesh, POINTS);
    const surface = (each: NetworkDocument): readonly Float32Array[] =>
      new EvaluationSession({ surface: true, taps: [] }).evaluate(
        each,
        analysis.mesh,
        points,
        maps,
      );
    expect(surface(documentForShares(document))).toEqual(surface(document));
    const { outputs, strands } = await sharesOf(document);
    const { slots } = compileNetwork(document, { surface: true, taps: [] });
    expect(slots).toHaveLength(1);
    for (const share of outputs.values())
      for (const each of share) {
        expect(each).toBeGreaterThanOrEqual(0);
        expect(each).toBeLessThanOrEqual(1 + 1e-6);
      }
    expect(strands.size).toBeGreaterThan(3);
  },
);
