import { present } from '../../base/assert';
import { analyseLiveness } from '../../ir/liveness';
import type { Liveness } from '../../ir/liveness';
import type { Func, Program } from '../../ir/types';
import { ByteWriter } from './bytes';
import { FunctionEmitter } from './function-emitter';
import { valuesUsedIn } from './last-uses';
import type { MemoryLayout } from './function-emitter';
import { CORE, SIMD, TYPE } from './opcodes';

/** Points a module takes at once; a host feeds larger sets block by block. */
export const BLOCK_POINTS = 512;
/** The most a memory may grow to, in pages of 64 KiB. */
const MOST_PAGES = 65536;

/** A WebAssembly module, the caller's to keep, and where its memory holds what. */
export interface EmittedModule {
  readonly bytes: Uint8Array<ArrayBuffer>;
  readonly layout: MemoryLayout;
  /** Per input: whether anything depends on it. Others need not be supplied. */
  readonly isRead: readonly boolean[];
  /** Per output: whether it varies. Others are written once, to the first point of the block. */
  readonly isVarying: readonly boolean[];
}

/** Outputs computed before the loop over points. */
const variesOver = (program: Program): readonly boolean[] =>
  program.outputs.map(({ value }) => !(value.laneUniform && value.block === program.prologue));

/** Where a program's lanes stand in the thread's memory, from `base` on. */
export function layOut(program: Program, base = 0): MemoryLayout {
  let at = base;
  const take = (bytes: number): number => {
    const start = at;
    at += Math.ceil(bytes / 16) * 16;
    return start;
  };
  const uniforms = take(Math.max(1, program.uniformCount) * 4);
  const inputs = program.inputs.map(() => take(BLOCK_POINTS * 4));
  const outputs = program.outputs.map(() => take(BLOCK_POINTS * 4));
  const images = take(Math.max(1, program.imageCount) * 16);
  return { uniforms, inputs, outputs, images, bytes: at - base };
}

/**
 * Compiles a program to a WebAssembly module: imports the thread's memory as `thread.memory`,
 * exports `run(bytes)`, which evaluates `bytes`/4 points (a multiple of four, at most BLOCK_POINTS)
 * from the input lanes to the output lanes of the layout.
 */
export function emitWasm(program: Program, base = 0): EmittedModule {
  const liveness = analyseLiveness(program);
  const layout = layOut(program, base);
  const index = new Map<Func, number>(liveness.functions.map((func, k) => [func, k]));
  const bodies = liveness.functions.map((func) => emitFunction(func, liveness, index, layout));
  bodies.push(emitRun(program, liveness, index, layout));

  const binary = new ByteWriter().byte(0, 0x61, 0x73, 0x6d, 1, 0, 0, 0);
  const types = new ByteWriter().u32(bodies.length);
  for (const func of liveness.functions) {
    const [takes, gives] = [func.body.parameters.length, func.body.results.length];
    types
      .byte(TYPE.func)
      .u32(takes)
      .byte(...Array<number>(takes).fill(TYPE.v128));
    types.u32(gives).byte(...Array<number>(gives).fill(TYPE.v128));
  }
  types.byte(TYPE.func).u32(1).byte(TYPE.i32).u32(0);
  section(binary, 1, types);
  section(
    binary,
    2,
    new ByteWriter().u32(1).name('thread').name('memory').byte(2, 1).u32(1).u32(MOST_PAGES),
  );
  const declared = new ByteWriter().u32(bodies.length);
  bodies.forEach((_, k) => declared.u32(k));
  section(binary, 3, declared);
  section(
    binary,
    7,
    new ByteWriter()
      .u32(1)
      .name('run')
      .byte(0)
      .u32(bodies.length - 1),
  );
  const code = new ByteWriter().u32(bodies.length);
  for (const body of bodies) code.sized(body);
  section(binary, 10, code);
  const read = new Set(
    program.body.values
      .filter((value) => value.operation === 'input' && liveness.isLive(value))
      .map((value) => value.immediate),
  );
  return {
    bytes: binary.take(),
    layout,
    isRead: program.inputs.map((_, k) => read.has(k)),
    isVarying: variesOver(program),
  };
}

function section(binary: ByteWriter, id: number, content: ByteWriter): void {
  binary.byte(id).sized(content);
}

function wrap(emitter: FunctionEmitter, code: ByteWriter): ByteWriter {
  const body = new ByteWriter();
  emitter.writeLocals(body);
  return body.bytes(code.take()).byte(CORE.end);
}

function emitFunction(
  func: Func,
  liveness: Liveness,
  index: ReadonlyMap<Func, number>,
  layout: MemoryLayout,
): ByteWriter {
  const code = new ByteWriter();
  const emitter = new FunctionEmitter(code, liveness, index, layout, func.body.parameters.length);
  func.body.parameters.forEach((parameter, k) => {
    emitter.bindParameter(parameter, k);
  });
  emitter.emitBlock(func.body, func.body.results);
  for (const result of func.body.results) emitter.emitUse(result);
  return wrap(emitter, code);
}

function emitRun(
  program: Program,
  liveness: Liveness,
  index: ReadonlyMap<Func, number>,
  layout: MemoryLayout,
): ByteWriter {
  const code = new ByteWriter();
  const OFFSET = 1;
  const emitter = new FunctionEmitter(code, liveness, index, layout, 1, OFFSET);
  emitter.newLocal(TYPE.i32);
  const varies = variesOver(program);
  const store = (k: number): void => {
    emitter.op(CORE.localGet, OFFSET);
    emitter.emitUse(present(program.outputs[k], 'output').value);
    emitter.memory(SIMD.store, 4, present(layout.outputs[k], 'output offset'));
  };
  const outputs = program.outputs.map(({ value }) => value);
  // What the body reads of the prologue, it reads again and again.
  emitter.emitBlock(program.prologue, [...valuesUsedIn(program.body, liveness), ...outputs]);
  varies.forEach((isVarying, k) => {
    if (!isVarying) store(k);
  });
  code.byte(CORE.block, CORE.empty, CORE.loop, CORE.empty);
  emitter.op(CORE.localGet, OFFSET);
  emitter.op(CORE.localGet, 0);
  emitter.op(CORE.i32GeUnsigned);
  emitter.op(CORE.brIf, 1);
  emitter.emitBlock(program.body, outputs);
  varies.forEach((isVarying, k) => {
    if (isVarying) store(k);
  });
  emitter.op(CORE.localGet, OFFSET);
  emitter.i32(16);
  emitter.op(CORE.i32Add);
  emitter.op(CORE.localSet, OFFSET);
  emitter.op(CORE.br, 0);
  code.byte(CORE.end, CORE.end);
  return wrap(emitter, code);
}
