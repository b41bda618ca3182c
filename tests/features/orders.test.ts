/** Two nodes of a chain in the other order, and what is told of a node's uses. */
import { findDefinition } from '@/core/compile/catalogue';
import { findUses, similarNodes } from '@/core/compile/node-uses';
import { exchangeOrder } from '@/core/edit/order';
import type { NetworkDocument } from '@/core/graph/document';
import { STARTERS } from '@/core/starters/starters';
import { outputAt } from '../support/evaluate';
import { documentOf, node } from '../support/networks';

const chain = (): NetworkDocument =>
  documentOf(
    [
      node('p', 'model.position'),
      node('a', 'math.math', { b: 0.3 }, { operation: 'add' }),
      node('b', 'math.math', { b: 4 }, { operation: 'multiply' }),
      node('end', 'math.math', { b: 1 }, { operation: 'add' }),
    ],
    ['p:x > a:a', 'a:value > b:a', 'b:value > end:a'],
  );
const valueOf = (document: NetworkDocument): number =>
  outputAt(document, 'end:value', { 'position.x': [2] }, 1)[0]?.[0] ?? NaN;

it('puts a node behind the one it feeds, and back again', () => {
  const document = chain();
  expect(valueOf(document)).toBeCloseTo((2 + 0.3) * 4 + 1, 5);
  const other = exchangeOrder(document, null, 'a');
  expect(other?.ends).toEqual({ node: 'a', output: 'value' });
  expect(other && valueOf(other.document)).toBeCloseTo(2 * 4 + 0.3 + 1, 5);
  const back = other && exchangeOrder(other.document, null, 'b');
  expect(back && valueOf(back.document)).toBeCloseTo(valueOf(document), 6);
});

it('leaves alone what is no plain piece of a chain', () => {
  expect(exchangeOrder(chain(), null, 'p')).toBeNull();
  expect(exchangeOrder(chain(), null, 'end')).toBeNull();
  const forked = documentOf(chain().network.nodes, [
    'p:x > a:a',
    'a:value > b:a',
    'a:value > end:b',
    'b:value > end:a',
  ]);
  expect(exchangeOrder(forked, null, 'a')).toBeNull();
});

it('tells where a node is used in the starters, beside what, and what is like it', () => {
  const documents = STARTERS.map((starter) => starter.document());
  const uses = findUses('surface.layer', documents);
  const layered = documents.filter(({ network }) =>
    network.nodes.some(({ type }) => type === 'surface.layer'),
  );
  expect(uses.networks.length).toBeGreaterThanOrEqual(layered.length);
  expect(uses.fedBy.map(({ title }) => title)).toContain('Surface');
  const smoothstep = findDefinition('ranges.smoothstep');
  if (!smoothstep) throw new Error('no smoothstep');
  expect(similarNodes(smoothstep, documents).map(({ id }) => id)).toContain('ranges.threshold');
});

it.each([
  ['optics.reflectance', ['optics.metal', 'optics.fresnel'], ['colour.to-grey', 'math.math']],
  ['colour.full-value', [], ['math.vector-math', 'surface.light-response']],
  ['patterns.noise', ['patterns.fractal-noise'], ['math.math']],
] as const)('says what %s is like by what it is for', (type, some, none) => {
  const definition = findDefinition(type);
  if (!definition) throw new Error(`no ${type}`);
  const documents = STARTERS.map((starter) => starter.document());
  const alike = similarNodes(definition, documents).map(({ id }) => id);
  expect(alike.length).toBeGreaterThan(0);
  if (some.length > 0) expect(alike.some((id) => some.some((each) => each === id))).toBe(true);
  for (const id of none) expect(alike).not.toContain(id);
});
