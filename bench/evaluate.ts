import { WasmRunner } from '@/core/backends/wasm/runner';
import { compileNetwork, uniformsFor } from '@/core/compile/compile';
import type { NetworkDocument } from '@/core/graph/document';
import { benchNetwork } from './network';

export const BENCH_POINTS = 65536;
const SCALE = { size: 2, minimum: [-1, -1, -1] as const, extent: [2, 2, 2] as const };

export function benchLanes(count: number): (name: string) => Float32Array {
  const made = new Map<string, Float32Array>();
  return (name) => {
    let lane = made.get(name);
    if (!lane) {
      const salt = Array.from(name, (letter) => letter.charCodeAt(0)).reduce((sum, code) => sum + code, 0);
      lane = Float32Array.from({ length: count }, (_, k) => ((k * (salt * 7 + 13)) % 100003) / 100003);
      made.set(name, lane);
    }
    return lane;
  };
}

export const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? NaN;

function prepare(document: NetworkDocument): { runner: WasmRunner; run: () => number } {
  const compiled = compileNetwork(document, { surface: true, taps: [] });
  const runner = new WasmRunner(compiled.program);
  runner.setUniforms(uniformsFor(compiled, document, SCALE));
  const lanes = benchLanes(BENCH_POINTS);
  const outputs = compiled.program.outputs.map(() => new Float32Array(BENCH_POINTS));
  return { runner, run: () => { const began = performance.now(); runner.run(lanes, BENCH_POINTS, outputs); return performance.now() - began; } };
}

/** Milliseconds per round over BENCH_POINTS points, after warming up. */
export function measureEvaluation(rounds: number): number[] {
  const { run } = prepare(benchNetwork());
  for (let k = 0; k < 4; k++) run();
  return Array.from({ length: rounds }, run);
}

/** Milliseconds from a document to a module that is ready, and of one evaluation of it over 256² points; medians. */
export function measureCompile(document: NetworkDocument, rounds: number): { compile: number; evaluate: number; bytes: number } {
  const compiles: number[] = [];
  let bytes = 0;
  for (let k = 0; k < rounds; k++) {
    const began = performance.now();
    bytes = new WasmRunner(compileNetwork(document, { surface: true, taps: [] }).program).moduleBytes;
    compiles.push(performance.now() - began);
  }
  const { run } = prepare(document);
  run();
  return { compile: median(compiles), evaluate: median(Array.from({ length: rounds }, run)), bytes };
}
