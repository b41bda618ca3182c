import { describe, expect, it } from '@jest/globals';
import { listDefinitions, neutralValue } from '@/core/compile/catalogue';
import type { InputValue } from '@/core/graph/document';
import { curveOf, outputAt } from '../support/evaluate';
import { documentOf, node } from '../support/networks';

const AT = [-0.25, 0, 0.125, 0.5, 0.75, 1, 1.5];
const withNeutral = listDefinitions().filter(({ inputs }) =>
  Object.values(inputs).some(({ neutral }) => neutral !== undefined),
);

describe('the neutral values of a node', () => {
  it('are stated by those that correct', () => {
    expect(withNeutral.length).toBeGreaterThan(7);
  });

  it.each(withNeutral.map((definition) => [definition.id, definition] as const))(
    'leave what arrives at %s as it is',
    (id, { inputs, outputs }) => {
      const values: Record<string, InputValue> = {};
      for (const [input, { neutral }] of Object.entries(inputs))
        if (neutral !== undefined) values[input] = neutral;
      // Some keep to 0–1; what mixes does it with the first of its inputs.
      const [first = ''] = Object.keys(inputs);
      const [output = ''] = Object.keys(outputs);
      const kind = inputs[first]?.kind ?? 'scalar';
      const at = AT.filter((x) => x >= 0 && x <= 1);
      const document = documentOf(
        [node('p', 'model.position'), node('n', id, values)],
        [`p:${kind === 'scalar' || kind === 'flex' ? 'x' : 'position'} > n:${first}`],
      );
      const lanes = { 'position.x': at, 'position.y': at, 'position.z': at };
      const [given = []] = outputAt(document, `n:${output}`, lanes, at.length);
      given.forEach((value, k) => {
        expect(value).toBeCloseTo(at[k] ?? NaN, 5);
      });
    },
  );

  it('follow the mode where that decides', () => {
    const multiply = node('n', 'math.math', {}, { operation: 'multiply' });
    const add = node('n', 'math.math', {}, { operation: 'add' });
    expect([neutralValue(multiply, 'b'), neutralValue(add, 'b')]).toEqual([1, 0]);
    for (const { options, values } of [
      { options: { operation: 'multiply' }, values: { b: 1 } },
      { options: { operation: 'add' }, values: { b: 0 } },
    ])
      expect(curveOf('math.math', 'a', 'value', AT, values, options)).toEqual(
        AT.map((x) => Math.fround(x)),
      );
  });
});
