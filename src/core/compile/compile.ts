import { openSettings } from './settings';
import { isOutputKey } from '../graph/result-key';
import { AXES, slopeLane } from '../base/lane-name';
import { present } from '../base/assert';
import { AppError, hasErrors } from '../base/diagnostic';
import type { Diagnostic } from '../base/diagnostic';
import type { NetworkDocument, ValueKind } from '../graph/document';
import { Builder } from '../ir/builder';
import { MEANING } from '../ir/fold';
import { analyseLiveness } from '../ir/liveness';
import type { F32, Program, ProgramOutput, Value } from '../ir/types';
import type { MeshMapKind } from '../nodes/map-kinds.generated';
import { surfaceLanes } from '../nodes/surface-lanes';
import { checkReferences } from './check/check';
import { Lowering, listKinds } from './lowering';
import type { MapSlot } from './map-slots';
import type { Antialiased } from './model-reads';
import type { ImageSlot } from './images';
import { findUsedOutputs } from './used-outputs';
import { writeUniforms } from './uniforms';
import type { ModelScale } from './model-scale';
import type { Binding } from './uniforms';

/** The document has errors; nothing was compiled. */
export class CompileError extends AppError {
  constructor(findings: readonly Diagnostic[]) {
    super(
      findings[0]?.code ?? 'compile.failed',
      findings[0]?.message ?? 'The network cannot be compiled.',
      'Correct it, or undo the last change.',
      { status: 422, kept: 'The picture shows the last state that could be computed.', findings },
    );
    this.name = 'CompileError';
  }
}

/**
 * What a program is to write: the finished surface, or outputs (`path:output`) and arriving values
 * (`path<input`).
 */
export interface CompileRequest {
  readonly surface: boolean;
  /** Result keys; 'all' takes every output that is not a surface. */
  readonly taps: 'all' | readonly string[];
  /** Keys besides, for what arrives at inputs. */
  readonly watched?: readonly string[];
  /** What is antialiased over each sample's width (input `footprint`, metres). */
  readonly antialias?: Antialiased;
}

/** Where a result stands among a program's outputs: `lanes` of them from `first` on. */
export interface OutputSlot {
  readonly key: string;
  readonly kind: ValueKind;
  readonly first: number;
  readonly lanes: number;
}

/** A compiled document: the program, and what has to be supplied to run it. */
export interface CompiledNetwork {
  readonly program: Program;
  readonly slots: readonly OutputSlot[];
  readonly bindings: readonly Binding[];
  readonly mapSlots: readonly MapSlot[];
  readonly imageSlots: readonly ImageSlot[];
  readonly kinds: ReadonlyMap<string, ValueKind>;
  /** The per-point inputs that some output depends on. */
  readonly liveInputs: ReadonlySet<string>;
}

/** A mesh map to be had, with the numbers that decide it. */
export interface MapDemand {
  readonly field: string;
  /** The node that reads it. */
  readonly path: readonly string[];
  readonly kind: MeshMapKind;
  readonly settings: Readonly<Record<string, number>>;
  readonly choices: Readonly<Record<string, string>>;
  /** The input whose normals it is measured by. */
  readonly detail?: { readonly path: readonly string[]; readonly input: string };
}

/**
 * Compiles a document to a program.
 * @throws CompileError with all findings when the document has errors
 */
export function compileNetwork(given: NetworkDocument, request: CompileRequest): CompiledNetwork {
  const diagnostics = checkReferences(given);
  if (hasErrors(diagnostics))
    throw new CompileError(diagnostics.filter((finding) => finding.severity === 'error'));
  const document = openSettings(given);
  const b = new Builder();
  const lowering = new Lowering(b, document, request.antialias, findUsedOutputs(document, request));
  const surface = lowering.lowerMaterial();
  const failures = lowering.report.findings.filter(({ severity }) => severity === 'error');
  if (failures.length > 0) throw new CompileError(failures);
  const outputs: ProgramOutput[] = [];
  const slots: OutputSlot[] = [];
  const write = (key: string, kind: ValueKind, lanes: readonly F32[]): void => {
    slots.push({ key, kind, first: outputs.length, lanes: lanes.length });
    lanes.forEach((value, k) => outputs.push({ name: `${key}.${String(k)}`, value }));
  };
  if (request.surface) write('surface', 'surface', surfaceLanes(surface));
  const keys =
    request.taps === 'all' ? [...lowering.results.keys()].filter(isOutputKey) : request.taps;
  for (const key of new Set([...keys, ...(request.watched ?? [])])) {
    const result = lowering.results.get(key);
    if (result && result.kind !== 'surface') write(key, result.kind, result.lanes);
    else if (result?.kind === 'surface' && request.taps !== 'all')
      write(key, 'surface', surfaceLanes(result.surface));
  }
  const program = b.finish(outputs);
  const liveInputs = findLiveInputs(program);
  // A bump reads how a map changes, and perhaps not its value.
  const mapSlots = lowering.mapSlots.filter(({ field }) =>
    [field, ...AXES.map((axis) => slopeLane(field, axis))].some((lane) => liveInputs.has(lane)),
  );
  return {
    program,
    slots,
    bindings: lowering.bindings,
    mapSlots,
    imageSlots: lowering.imageSlots,
    kinds: listKinds(lowering.results),
    liveInputs,
  };
}

/**
 * All findings on a well-shaped document: those of `checkReferences`, then what only shows when it
 * is compiled, like types in formulas.
 */
export function checkCompiled(document: NetworkDocument): readonly Diagnostic[] {
  const findings = checkReferences(document);
  if (hasErrors(findings)) return findings;
  const lowering = new Lowering(new Builder(), openSettings(document));
  lowering.lowerMaterial();
  return [...findings, ...lowering.report.findings];
}

function findLiveInputs(program: Program): Set<string> {
  const liveness = analyseLiveness(program);
  return new Set(
    program.body.values
      .filter((value) => value.operation === 'input' && liveness.isLive(value))
      .map((value) => present(program.inputs[value.immediate], 'input')),
  );
}

/**
 * The uniforms for the document's present values. The document must have the structure that was
 * compiled.
 */
export function uniformsFor(
  compiled: CompiledNetwork,
  document: NetworkDocument,
  model: ModelScale,
): Float32Array<ArrayBuffer> {
  return writeUniforms(
    document,
    compiled.bindings,
    Math.max(1, compiled.program.uniformCount),
    model,
  );
}

/**
 * The mesh maps the program reads, with their settings computed. A setting that varies over the
 * surface reads as its first value.
 */
export function mapDemands(
  compiled: CompiledNetwork,
  uniforms: Float32Array,
): readonly MapDemand[] {
  return compiled.mapSlots.map((slot) => ({
    field: slot.field,
    path: slot.path,
    kind: slot.kind,
    choices: slot.choices,
    ...(slot.detail ? { detail: slot.detail } : {}),
    settings: Object.fromEntries(
      Object.entries(slot.settings).map(([name, lane]) => [name, evaluateUniform(lane, uniforms)]),
    ),
  }));
}

/** Works out a value that is the same for all points, in f32 like the back ends. */
function evaluateUniform(value: Value, uniforms: Float32Array): number {
  const at = (k: number): number => evaluateUniform(present(value.args[k], 'operand'), uniforms);
  switch (value.operation) {
    case 'constant':
      return value.immediate;
    case 'uniform':
      return uniforms[value.immediate] ?? 0;
    case 'select':
      return at(0) ? at(1) : at(2);
    default: {
      const meaning = MEANING[value.operation];
      if (!meaning) return 0;
      const raw = meaning(
        value.args.length > 0 ? at(0) : 0,
        value.args.length > 1 ? at(1) : 0,
        value.immediate,
      );
      return value.type === 'f32' ? Math.fround(raw) : raw;
    }
  }
}
