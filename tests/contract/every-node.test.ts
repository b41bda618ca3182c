import { compileNetwork } from '@/core/compile/compile';
import { checkDocument } from '@/core/compile/check/check';
import { NODES } from '@/core/nodes/registry.generated';
import type { NodeDefinition } from '@/core/nodes/define';
import { measureAgreement } from '../support/agreement';
import { documentOf, node, randomLanes } from '../support/networks';

const TOLERANCE = 1e-4;
/**
 * Share of values that may fall on the other side of a discontinuity (floor, comparison, hash
 * cell).
 */
const FLIPS = 0.01;

function variants(definition: NodeDefinition): Record<string, string>[] {
  const entries = Object.entries(definition.options);
  const single = entries.flatMap(([name, entry]) => [
    ...entry.choices.map((choice) => ({ [name]: choice.value })),
    ...(entry.open ? [{ [name]: 'salt' }] : []),
  ]);
  return single.length > 0 ? single : [{}];
}

describe('every node', () => {
  it('has a unique id that tells its family', () => {
    expect(new Set(NODES.map((definition) => definition.id)).size).toBe(NODES.length);
    for (const definition of NODES)
      expect(definition.id.startsWith(`${definition.family}.`)).toBe(true);
  });

  it.each(NODES.map((definition) => [definition.id, definition] as const))(
    '%s explains itself and keeps its defaults in range',
    (_id, definition) => {
      expect(definition.help.length).toBeGreaterThan(15);
      expect(definition.formula.length).toBeGreaterThan(0);
      expect(definition.synonyms.length).toBeGreaterThan(0);
      for (const port of Object.values(definition.inputs)) {
        expect(port.help.length).toBeGreaterThan(5);
        expect(port.soft[0]).toBeLessThan(port.soft[1]);
        if (typeof port.default !== 'number') continue;
        expect(port.default).toBeGreaterThanOrEqual(port.hard[0]);
        expect(port.default).toBeLessThanOrEqual(port.hard[1]);
      }
    },
  );

  it.each(NODES.map((definition) => [definition.id, definition] as const))(
    '%s agrees in WebAssembly, f32 and f64 for every option',
    (_id, definition) => {
      const lanes = randomLanes(96, 7);
      for (const options of variants(definition)) {
        const document = documentOf([node('n', definition.id, {}, options)]);
        expect(checkDocument(document).diagnostics).toEqual([]);
        const compiled = compileNetwork(document, {
          surface: true,
          taps: 'all',
          evensOut: ['images', 'steps'],
        });
        const agreement = measureAgreement(
          compiled,
          document,
          lanes,
          96,
          definition.tolerance?.value ?? TOLERANCE,
        );
        expect({ options, bits: agreement.bitDifferences }).toEqual({ options, bits: 0 });
        expect(agreement.beyond / Math.max(1, agreement.compared)).toBeLessThanOrEqual(FLIPS);
      }
    },
  );
});
