import { WasmRunner } from '@/core/backends/wasm/runner';
import { compileNetwork, uniformsFor } from '@/core/compile/compile';
import type { CompiledNetwork } from '@/core/compile/compile';
import type { NetworkDocument } from '@/core/graph/document';
import { ReferenceInterpreter } from '@/core/ir/reference';
import type { ImageAtlas } from '@/core/base/image';
import { TEST_SCALE, bindTestImages, randomLanes } from './networks';

export interface Evaluation {
  readonly images: readonly ImageAtlas[];
  readonly uniforms: Float32Array;
  readonly wasm: readonly Float32Array[];
}

export function evaluateWasm(
  compiled: CompiledNetwork,
  document: NetworkDocument,
  lanes: (name: string) => Float32Array | undefined,
  count: number,
): Evaluation {
  const runner = new WasmRunner(compiled.program);
  const uniforms = uniformsFor(compiled, document, TEST_SCALE);
  const images = bindTestImages(compiled, uniforms);
  runner.setImages(images);
  runner.setUniforms(uniforms);
  const wasm = compiled.program.outputs.map(() => new Float32Array(count));
  runner.run(lanes, count, wasm);
  return { images, uniforms, wasm };
}

export interface Agreement {
  readonly bitDifferences: number;
  readonly beyond: number;
  readonly worst: number;
  readonly compared: number;
}

/**
 * Compares WebAssembly with the f32 reference bit by bit, and counts values beyond
 * `tolerance`·max(1, |r|) of the f64 reference.
 */
export function measureAgreement(
  compiled: CompiledNetwork,
  document: NetworkDocument,
  lanes: (name: string) => Float32Array | undefined,
  count: number,
  tolerance: number,
): Agreement {
  const { images, uniforms, wasm } = evaluateWasm(compiled, document, lanes, count);
  const single = new ReferenceInterpreter(compiled.program, 'f32');
  const double = new ReferenceInterpreter(compiled.program, 'f64');
  const inputs = compiled.program.inputs.map((name) => lanes(name));
  let bitDifferences = 0,
    beyond = 0,
    worst = 0,
    compared = 0;
  for (let point = 0; point < count; point++) {
    const given = inputs.map((lane) => lane?.[point] ?? 0);
    const f32 = single.evaluate(uniforms, given, images);
    const f64 = double.evaluate(uniforms, given, images);
    wasm.forEach((lane, k) => {
      const value = lane[point] as number;
      compared++;
      if (!Object.is(value, f32[k]) && !(Number.isNaN(value) && Number.isNaN(f32[k])))
        bitDifferences++;
      const reference = f64[k] as number;
      const error = Math.abs(value - reference) / Math.max(1, Math.abs(reference));
      if (error > tolerance) beyond++;
      if (Number.isFinite(error)) worst = Math.max(worst, error);
    });
  }
  return { bitDifferences, beyond, worst, compared };
}

/** How many points `bitsOf` evaluates. */
const BIT_POINTS = 64;

/** Everything a network gives at random points, or some of its results, bit by bit. */
export function bitsOf(document: NetworkDocument, taps: readonly string[] = []): readonly number[] {
  const compiled = compileNetwork(document, { surface: taps.length === 0, taps });
  const { wasm } = evaluateWasm(compiled, document, randomLanes(BIT_POINTS, 5), BIT_POINTS);
  return wasm.flatMap((lane) => [...new Uint32Array(Float32Array.from(lane).buffer)]);
}
