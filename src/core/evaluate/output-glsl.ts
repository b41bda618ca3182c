import type { ResultKey } from '../base/ids';
import { emitGlsl } from '../backends/glsl/emit';
import { composeFunction } from '../backends/glsl/function-text';
import { compileNetwork, uniformsFor } from '../compile/compile';
import type { ModelScale } from '../compile/model-scale';
import { CHANNELS } from '../explain/explain-points';
import type { NetworkDocument } from '../graph/document';

/**
 * An output of a document as a function of GLSL ES 3.00, with the present values as constants.
 * @returns null where there is no such output
 * @throws CompileError when the document has errors
 */
export function outputGlsl(
  document: NetworkDocument,
  key: ResultKey,
  model: ModelScale,
): string | null {
  const compiled = compileNetwork(document, { surface: false, taps: [key] });
  const [slot] = compiled.slots;
  if (!slot) return null;
  const names = CHANNELS[slot.kind].map((name) => `out_${name.replace('.', '_')}`);
  return composeFunction(
    emitGlsl(compiled.program),
    uniformsFor(compiled, document, model),
    names.length > 0 ? names : ['out_value'],
  );
}
