import { compileNetwork } from '@/core/compile/compile';
import { checkDocument } from '@/core/compile/check/check';
import { NODES } from '@/core/nodes/registry.generated';
import { measureAgreement } from '../support/agreement';
import { outputKey } from '@/core/graph/result-key';
import { documentOf, node, optionVariants, randomLanes } from '../support/networks';

const TOLERANCE = 1e-4;
/** Whole sentences, not a word that only repeats a name. */
const SENTENCES = /^\S+ .*\S+[.!?]$/s;

describe('every node', () => {
  it('has a unique id that tells its family', () => {
    expect(new Set(NODES.map((definition) => definition.id)).size).toBe(NODES.length);
    for (const definition of NODES)
      expect(definition.id.startsWith(`${definition.family}.`)).toBe(true);
  });

  it.each(NODES.map((definition) => [definition.id, definition] as const))(
    '%s explains itself and keeps its defaults in range',
    (_id, definition) => {
      const { help, formula, synonyms, title, inputs, outputs } = definition;
      expect(help).toMatch(SENTENCES);
      // It says how what comes out follows from what goes in, which the help says in words.
      expect(formula.trim()).not.toBe('');
      expect(formula).not.toBe(help);
      // What people type who do not know its name.
      expect(new Set(synonyms).size).toBe(synonyms.length);
      expect(synonyms.filter((word) => word.toLowerCase() !== title.toLowerCase())).not.toEqual([]);
      for (const port of [...Object.values(inputs), ...Object.values(outputs)])
        expect(port.help).toMatch(SENTENCES);
      for (const port of Object.values(inputs)) {
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
      for (const options of optionVariants(definition)) {
        const document = documentOf([node('n', definition.id, {}, options)]);
        expect(checkDocument(document).diagnostics).toEqual([]);
        const compiled = compileNetwork(document, {
          surface: false,
          taps: Object.keys(definition.outputs).map((output) => outputKey(['n'], output)),
          antialias: ['images', 'steps'],
        });
        const agreement = measureAgreement(
          compiled,
          document,
          lanes,
          96,
          definition.tolerance?.value ?? TOLERANCE,
        );
        expect({ options, bits: agreement.bitDifferences }).toEqual({ options, bits: 0 });
        // Of the node's own lanes, with no allowance: at these points none falls beside a step.
        expect({ options, beyond: agreement.beyond }).toEqual({ options, beyond: 0 });
        expect(agreement.compared).toBeGreaterThan(0);
      }
    },
  );
});
