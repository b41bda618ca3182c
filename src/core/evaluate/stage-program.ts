import { emitGlsl } from '../backends/glsl/emit';
import type { EmittedGlsl } from '../backends/glsl/emit';
import { composeStageShader } from '../backends/glsl/stage-shader';
import type { StageShader } from '../backends/glsl/stage-shader';
import { compileNetwork } from '../compile/compile';
import type { CompiledNetwork } from '../compile/compile';
import type { ImageSlot } from '../compile/images';
import type { Binding } from '../compile/uniforms';
import type { NetworkDocument, ValueKind } from '../graph/document';
import { surfaceWrites } from '../surface/stage-layout';

/** On the stage hard steps are antialiased over a pixel. */
export const ANTIALIASED_ON_STAGE = ['images', 'steps'] as const;

/** What the graphics processor runs for one network, and what it is fed. */
export interface StageProgram {
  readonly shader: StageShader;
  readonly bindings: readonly Binding[];
  readonly uniformCount: number;
  readonly kind: ValueKind;
  readonly kinds: ReadonlyMap<string, ValueKind>;
  readonly imageSlots: readonly ImageSlot[];
}

/** A network's program for a shader that declares only the inputs some output depends on. */
export function liveGlsl({ program, liveInputs }: CompiledNetwork): EmittedGlsl {
  const glsl = emitGlsl(program);
  return { ...glsl, inputs: glsl.inputs.filter((name) => liveInputs.has(name)) };
}

/** @param targets how many the graphics processor can write. Throws CompileError. */
export function makeStageProgram(
  document: NetworkDocument,
  pin: string | null,
  targets: number,
): StageProgram {
  const compiled = compileNetwork(document, {
    surface: pin === null,
    taps: pin === null ? [] : [pin],
    antialias: ANTIALIASED_ON_STAGE,
  });
  const kind = pin === null ? 'surface' : (compiled.slots[0]?.kind ?? 'scalar');
  const isSurface = kind === 'surface';
  // A program that leaves a target out draws nothing at all.
  const rest = Array.from(
    { length: targets - 1 },
    (_, k) => `target${String(k + 1)} = vec4(0.0);`,
  ).join(' ');
  const writes = isSurface
    ? surfaceWrites(targets)
    : `target0 = ${kind === 'scalar' ? 'vec4(vec3($0), 1.0)' : 'vec4($0, $1, $2, 1.0)'}; ${rest}`;
  return {
    shader: composeStageShader(liveGlsl(compiled), 'screen', targets, writes),
    bindings: compiled.bindings,
    uniformCount: Math.max(1, compiled.program.uniformCount),
    kind,
    kinds: compiled.kinds,
    imageSlots: compiled.imageSlots,
  };
}
