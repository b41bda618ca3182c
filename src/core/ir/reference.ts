import { present } from '../base/assert';
import type { ImageAtlas } from '../base/image';
import { MEANING } from './fold';
import type { Block, Func, Program, Value } from './types';

/** Single precision as the back ends compute it, or double to judge them by. */
export type ReferenceMode = 'f32' | 'f64';

/** A slow, plain interpreter of programs: the judge of every back end. One point at a time. */
export class ReferenceInterpreter {
  private readonly round: (x: number) => number;

  constructor(
    private readonly program: Program,
    mode: ReferenceMode,
  ) {
    this.round = mode === 'f32' ? Math.fround : (x) => x;
  }

  /**
   * @param uniforms typed values and dials, `program.uniformCount` long
   * @param inputs per-point values in the order of `program.inputs`
   * @param images as many as the program reads
   * @returns the outputs in the order of `program.outputs`
   */
  evaluate(
    uniforms: ArrayLike<number>,
    inputs: ArrayLike<number>,
    images: readonly ImageAtlas[] = [],
  ): number[] {
    const frame = new Map<Value, number>();
    const scope = { uniforms, inputs, images };
    this.runBlock(this.program.prologue, frame, scope);
    this.runBlock(this.program.body, frame, scope);
    return this.program.outputs.map((output) => present(frame.get(output.value), 'output'));
  }

  private runBlock(block: Block, frame: Map<Value, number>, scope: Scope): void {
    for (const value of block.values) {
      if (value.operation === 'loop') this.runLoop(value, frame, scope);
      else if (value.operation === 'call') this.runCall(value, frame, scope);
      else if (value.operation !== 'loopResult' && value.operation !== 'callResult')
        frame.set(value, this.compute(value, frame, scope));
    }
  }

  private compute(value: Value, frame: Map<Value, number>, scope: Scope): number {
    const at = (k: number): number => frame.get(value.args[k] as Value) ?? 0;
    switch (value.operation) {
      case 'constant':
        return value.immediate;
      case 'uniform':
        return scope.uniforms[value.immediate] ?? 0;
      case 'table':
        return scope.uniforms[value.immediate + at(0) * value.rowSize] ?? 0;
      case 'input':
        return this.round(scope.inputs[value.immediate] ?? 0);
      case 'texel':
        return texelOf(scope.images[value.immediate >> 2], value.immediate & 3, at(0), at(1));
      case 'select':
        return at(0) ? at(1) : at(2);
      default: {
        const raw = present(MEANING[value.operation], value.operation)(
          at(0),
          at(1),
          value.immediate,
        );
        return value.type === 'f32' ? this.round(raw) : raw;
      }
    }
  }

  private runLoop(loop: Value, frame: Map<Value, number>, scope: Scope): void {
    const body = present(loop.body, 'loop body');
    const [count, ...initial] = loop.args.map((arg) => present(frame.get(arg), 'loop operand'));
    let carried = initial;
    for (let index = 0; index < (count ?? 0); index++) {
      frame.set(present(body.parameters[0], 'index'), index);
      carried.forEach((value, k) => frame.set(present(body.parameters[k + 1], 'carried'), value));
      this.runBlock(body, frame, scope);
      carried = body.results.map((result) => present(frame.get(result), 'loop result'));
    }
    this.bindResults(loop, carried, frame);
  }

  private runCall(call: Value, frame: Map<Value, number>, scope: Scope): void {
    const body = (call.callee as Func).body;
    const inner = new Map<Value, number>();
    body.parameters.forEach((parameter, k) =>
      inner.set(parameter, present(frame.get(call.args[k] as Value), 'argument')),
    );
    this.runBlock(body, inner, scope);
    this.bindResults(
      call,
      body.results.map((result) => present(inner.get(result), 'call result')),
      frame,
    );
  }

  private bindResults(owner: Value, results: readonly number[], frame: Map<Value, number>): void {
    for (const value of owner.block.values) {
      if (
        (value.operation === 'loopResult' || value.operation === 'callResult') &&
        value.args[0] === owner
      ) {
        frame.set(value, present(results[value.immediate], 'result'));
      }
    }
  }
}

/** @throws when the place lies outside the sheet: programs keep within it */
function texelOf(
  image: ImageAtlas | undefined,
  channel: number,
  column: number,
  row: number,
): number {
  if (!image || column < 0 || column >= image.stride || row < 0 || row >= image.rows)
    throw new Error(`Invariant broken: texel ${String(column)}, ${String(row)} is not there`);
  return image.data[(row * image.stride + column) * 4 + channel] as number;
}

interface Scope {
  readonly images: readonly ImageAtlas[];
  readonly uniforms: ArrayLike<number>;
  readonly inputs: ArrayLike<number>;
}
