import { BLOCK_POINTS } from '@/core/backends/wasm/emit';
import { WasmRunner } from '@/core/backends/wasm/runner';
import { compileNetwork, uniformsFor } from '@/core/compile/compile';
import { TEST_SCALE, documentOf, node } from '../support/networks';

/** One output that varies, one that is typed, one that folds to a constant. */
const document = documentOf(
  [
    node('p', 'model.position'),
    node('m', 'math.math', { b: 3 }, { operation: 'multiply' }),
    node('c', 'constants.number', { value: 0.25 }),
    node('u', 'masks.union'),
  ],
  ['p:x > m:a'],
);
const compiled = compileNetwork(document, {
  surface: false,
  taps: ['m:value', 'c:value', 'u:mask'],
});

function run(
  count: number,
  start = 0,
  lanes?: (name: string) => Float32Array | undefined,
): Float32Array[] {
  const runner = new WasmRunner(compiled.program);
  runner.setUniforms(uniformsFor(compiled, document, TEST_SCALE));
  const outputs = compiled.program.outputs.map(() => new Float32Array(start + count + 3).fill(-7));
  const x = Float32Array.from({ length: start + count }, (_, k) => k);
  runner.run(lanes ?? ((name) => (name === 'position.x' ? x : undefined)), count, outputs, start);
  return outputs;
}

describe('a runner', () => {
  it.each([0, 1, 3, 4, BLOCK_POINTS - 1, BLOCK_POINTS, BLOCK_POINTS + 1, BLOCK_POINTS * 3 + 2])(
    'fills %d points, and not one more',
    (count) => {
      for (const start of [0, 5]) {
        const [varying, typed, folded] = run(count, start) as [
          Float32Array,
          Float32Array,
          Float32Array,
        ];
        const within = (k: number): boolean => k >= start && k < start + count;
        varying.forEach((value, k) => {
          expect(value).toBe(within(k) ? 3 * k : -7);
        });
        typed.forEach((value, k) => {
          expect(value).toBe(within(k) ? 0.25 : -7);
        });
        folded.forEach((value, k) => {
          expect(value).toBe(within(k) ? 0 : -7);
        });
      }
    },
  );
  it(
    'asks only for the lanes that something depends on, and reads 0 for those it does not ' + 'get',
    () => {
      const asked: string[] = [];
      const [varying] = run(9, 0, (name) => {
        asked.push(name);
        return undefined;
      }) as [Float32Array];
      expect(asked).toEqual(['position.x']);
      expect([...varying.slice(0, 9)]).toEqual(new Array(9).fill(0));
    },
  );
  it('follows its uniforms without being compiled again', () => {
    const runner = new WasmRunner(compiled.program);
    const outputs = compiled.program.outputs.map(() => new Float32Array(2));
    const typed = (value: number): number => {
      const changed = {
        ...document,
        network: {
          ...document.network,
          nodes: document.network.nodes.map((each) =>
            each.id === 'c' ? { ...each, values: { value } } : each,
          ),
        },
      };
      runner.setUniforms(uniformsFor(compiled, changed, TEST_SCALE));
      runner.run(() => undefined, 2, outputs);
      return outputs[1]?.[1] as number;
    };
    expect([typed(0.5), typed(-2), typed(0.5)]).toEqual([0.5, -2, 0.5]);
  });
});
