import { assert } from '../base/assert';
import { Arithmetic } from './arithmetic';
import { OPERATIONS } from './types';
import type { Func, I32, LaneType, Operation, Program, ProgramOutput, Value } from './types';

/** Builds a program of intermediate representation: operations, loops and functions. */
export class Builder extends Arithmetic {
  private readonly functions: Func[] = [];
  private readonly functionsByName = new Map<string, Func>();

  /**
   * A counted loop: `count` (the same in every lane) rounds over carried values. Returns the
   * carried values after the last round; with no round, the initial ones.
   */
  loop(
    count: I32,
    initial: readonly Value[],
    round: (index: I32, carried: readonly Value[]) => readonly Value[],
  ): Value[] {
    assert(count.laneUniform, 'a loop bound is the same in every lane');
    const body = this.makeBlock(this.current);
    const index = this.make('parameter', 'i32', [], body, { immediate: 0, laneUniform: true });
    const carried = initial.map((value, k) =>
      this.make('parameter', value.type, [], body, { immediate: k + 1, laneUniform: false }),
    );
    body.parameters.push(index, ...carried);
    const outer = this.current;
    this.current = body;
    body.results = round(index, carried);
    this.current = outer;
    assert(
      body.results.length === initial.length,
      'a loop gives back as many values as it carries',
    );
    const loop = this.make('loop', 'f32', [count, ...initial], outer, { laneUniform: false, body });
    outer.values.push(loop);
    return initial.map((value, k) => {
      const result = this.make('loopResult', value.type, [loop], outer, {
        immediate: k,
        laneUniform: false,
      });
      outer.values.push(result);
      return result;
    });
  }

  /** Defines a function once per name; `build` makes its body from the parameters. */
  define(
    name: string,
    parameters: readonly LaneType[],
    build: (parameters: readonly Value[]) => readonly Value[],
  ): Func {
    const known = this.functionsByName.get(name);
    if (known) return known;
    const body = this.makeBlock(null);
    const func: Func = { name, body, partials: new Map() };
    body.parameters.push(
      ...parameters.map((type, k) =>
        this.make('parameter', type, [], body, { immediate: k, laneUniform: false }),
      ),
    );
    const outer = this.current;
    this.current = body;
    body.results = build(body.parameters);
    this.current = outer;
    this.functions.push(func);
    this.functionsByName.set(name, func);
    return func;
  }

  call(callee: Func, args: readonly Value[]): Value[] {
    assert(
      args.length === callee.body.parameters.length,
      `${callee.name} takes ${String(callee.body.parameters.length)} values`,
    );
    const key = `call:${callee.name}:${args.map((arg) => arg.id).join(',')}`;
    const block = this.placeFor(args);
    let call = block.known.get(key);
    if (!call) {
      call = this.make('call', 'f32', args, block, { callee });
      block.values.push(call);
      block.known.set(key, call);
    }
    const made = call;
    return callee.body.results.map((result, k) =>
      this.emit('callResult', result.type, [made], { immediate: k }),
    );
  }

  /** Copies a plain value's operation with other operands; used by differentiation. */
  again(value: Value, args: readonly Value[]): Value {
    return this.emit(value.operation, value.type, args, {
      immediate: value.immediate,
      rowSize: value.rowSize,
      laneUniform: value.laneUniform,
    });
  }

  finish(outputs: readonly ProgramOutput[]): Program {
    return {
      prologue: this.prologue,
      body: this.body,
      functions: this.functions,
      inputs: this.inputs,
      uniformCount: this.uniforms,
      imageCount: this.images,
      outputs,
    };
  }
}

/** The number of operands an operation takes, or -1 for structural ones. */
export function operandCount(operation: Operation): number {
  const entry = OPERATIONS[operation];
  return entry.args.length > 0 ? entry.args.length : operation === 'select' ? 3 : -1;
}
