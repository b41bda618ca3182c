import { compileNetwork } from '@/core/compile/compile';
import { measureAgreement } from '../support/agreement';
import { randomDocument, randomLanes } from '../support/networks';

const NETWORKS = 500;
const POINTS = 8;
/**
 * Chains of powers, steps and fine patterns enlarge rounding: what is asked of each node alone
 * cannot be asked of chains.
 */
const CHAINED = 5e-3;

describe('random networks', () => {
  it(
    'agree to the bit in WebAssembly and the f32 reference, 500 networks of 3 to 14 nodes, ' +
      'every fourth antialiased',
    () => {
      let compared = 0,
        beyond = 0;
      const different: string[] = [];
      for (let seed = 1; seed <= NETWORKS; seed++) {
        const document = randomDocument(seed, 3 + (seed % 12));
        const compiled = compileNetwork(document, {
          surface: true,
          taps: 'all',
          antialias: seed % 4 === 0 ? ['images', 'steps'] : [],
        });
        const agreement = measureAgreement(
          compiled,
          document,
          randomLanes(POINTS, seed),
          POINTS,
          CHAINED,
        );
        if (agreement.bitDifferences > 0)
          different.push(`seed ${String(seed)}: ${String(agreement.bitDifferences)} values`);
        compared += agreement.compared;
        beyond += agreement.beyond;
      }
      expect(different).toEqual([]);
      expect(compared).toBeGreaterThan(50000);
      expect(beyond / compared).toBeLessThan(0.05);
    },
  );
});
