import { compileNetwork, uniformsFor } from '@/core/compile/compile';
import type { CompileRequest } from '@/core/compile/compile';
import { bindImages, imageDemands } from '@/core/compile/images';
import type { ImageSource } from '@/core/compile/images';
import { WasmRunner } from '@/core/backends/wasm/runner';
import type { InputValue, NetworkDocument } from '@/core/graph/document';
import { TEST_SCALE, bindTestImages, documentOf, node } from './networks';

export type Lanes = Readonly<Record<string, ArrayLike<number>>>;

/**
 * Values of one output of a document at points given by their lanes; lanes not given are zero. One
 * array per lane.
 */
export function outputAt(
  document: NetworkDocument,
  key: string,
  lanes: Lanes,
  count: number,
  request: Partial<CompileRequest> = {},
  images?: ImageSource,
): number[][] {
  const compiled = compileNetwork(document, { surface: false, taps: [key], ...request });
  const runner = new WasmRunner(compiled.program);
  const uniforms = uniformsFor(compiled, document, TEST_SCALE);
  runner.setImages(
    images
      ? bindImages(imageDemands(compiled.imageSlots, document), uniforms, images)
      : bindTestImages(compiled, uniforms),
  );
  runner.setUniforms(uniforms);
  const outputs = compiled.program.outputs.map(() => new Float32Array(count));
  const given = new Map(
    Object.entries(lanes).map(([name, values]) => [
      name,
      Float32Array.from({ length: count }, (_, k) => values[k] ?? 0),
    ]),
  );
  runner.run((name) => given.get(name), count, outputs);
  return outputs.map((lane) => [...lane]);
}

/**
 * One node's output with typed values, at a row of values wired into one input (by way of the x
 * coordinate).
 */
export function curveOf(
  type: string,
  input: string,
  output: string,
  at: readonly number[],
  values: Record<string, InputValue> = {},
  options: Record<string, string> = {},
): number[] {
  const document = documentOf(
    [node('p', 'model.position'), node('n', type, values, options)],
    [`p:x > n:${input}`],
  );
  return outputAt(document, `n:${output}`, { 'position.x': at }, at.length)[0] ?? [];
}

/** One node's output with typed values only. */
export function valueAt(
  type: string,
  output: string,
  values: Record<string, InputValue> = {},
  options: Record<string, string> = {},
  lanes: Lanes = {},
): number[] {
  return outputAt(documentOf([node('n', type, values, options)]), `n:${output}`, lanes, 1).map(
    (lane) => lane[0] as number,
  );
}
