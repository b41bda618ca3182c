import { compileNetwork } from '@/core/compile/compile';
import { checkDocument } from '@/core/compile/check';
import { NODES } from '@/core/nodes/registry.generated';
import type { NodeDefinition } from '@/core/nodes/define';
import { measureAgreement } from '../support/agreement';
import { documentOf, node, randomDocument, randomLanes } from '../support/networks';

const TOLERANCE = 1e-4;
/** Share of values that may fall on the other side of a discontinuity (floor, comparison, hash cell). */
const FLIPS = 0.01;

function variants(definition: NodeDefinition): Record<string, string>[] {
  const entries = Object.entries(definition.options);
  const single = entries.flatMap(([name, entry]) => entry.choices.map((choice) => ({ [name]: choice.value })));
  return single.length > 0 ? single : [{}];
}

describe('every node', () => {
  it('has a unique id that tells its family', () => {
    expect(new Set(NODES.map((definition) => definition.id)).size).toBe(NODES.length);
    for (const definition of NODES) expect(definition.id.startsWith(`${definition.family}.`)).toBe(true);
  });

  it.each(NODES.map((definition) => [definition.id, definition] as const))('%s explains itself and keeps its defaults in range', (_id, definition) => {
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
  });

  it.each(NODES.map((definition) => [definition.id, definition] as const))('%s agrees in WebAssembly, f32 and f64 for every option', (_id, definition) => {
    const lanes = randomLanes(96, 7);
    for (const options of variants(definition)) {
      const document = documentOf([node('n', definition.id, {}, options)]);
      expect(checkDocument(document).diagnostics).toEqual([]);
      const compiled = compileNetwork(document, { surface: true, taps: 'all' });
      const agreement = measureAgreement(compiled, document, lanes, 96, definition.tolerance?.value ?? TOLERANCE);
      expect({ options, bits: agreement.bitDifferences }).toEqual({ options, bits: 0 });
      expect(agreement.beyond / Math.max(1, agreement.compared)).toBeLessThanOrEqual(FLIPS);
    }
  });
});

describe('random networks', () => {
  it('agree to the bit in WebAssembly and the f32 reference, 120 networks of up to 14 nodes', () => {
    let bits = 0, compared = 0, beyond = 0;
    for (let seed = 1; seed <= 120; seed++) {
      const document = randomDocument(seed, 3 + (seed % 12));
      const lanes = randomLanes(16, seed);
      const compiled = compileNetwork(document, { surface: true, taps: 'all' });
      const agreement = measureAgreement(compiled, document, lanes, 16, 5e-3);
      if (agreement.bitDifferences > 0) throw new Error(`seed ${String(seed)}: ${String(agreement.bitDifferences)} values differ`);
      bits += agreement.bitDifferences;
      compared += agreement.compared;
      beyond += agreement.beyond;
    }
    expect(bits).toBe(0);
    expect(compared).toBeGreaterThan(20000);
    // Chains of powers, steps and fine patterns enlarge rounding; most values still lie close to double precision.
    expect(beyond / compared).toBeLessThan(0.05);
  });
});
