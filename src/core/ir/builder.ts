import { assert, present } from '../base/assert';
import { MEANING } from './fold';
import { OPERATIONS } from './types';
import type {
  Block,
  Bool,
  F32,
  Func,
  I32,
  LaneType,
  Lanes3,
  Operation,
  Program,
  ProgramOutput,
  Value,
} from './types';

interface EmitExtras {
  immediate?: number;
  rowSize?: number;
  laneUniform?: boolean;
  type?: LaneType;
}

const keyOf = (
  operation: Operation,
  type: LaneType,
  args: readonly Value[],
  extras: EmitExtras,
): string =>
  [
    `${operation}.${type}`,
    args.map((arg) => arg.id).join(','),
    Object.is(extras.immediate, -0) ? '-0' : String(extras.immediate ?? 0),
    String(extras.rowSize ?? 0),
  ].join(':');

const COMMUTATIVE = new Set<Operation>([
  'add',
  'mul',
  'iadd',
  'imul',
  'iand',
  'ior',
  'ixor',
  'and',
  'or',
  'eq',
  'ieq',
]);

/**
 * Builds intermediate representation. While it builds, it folds constants (in f32, so that no bit
 * changes), shares equal subexpressions and puts each value into the outermost block in which its
 * operands exist, which hoists loop-invariant and uniform work out of loops and out of the
 * per-point body.
 */
export class Builder {
  private nextId = 0;
  private current: Block;
  private readonly prologue: Block;
  private readonly body: Block;
  private readonly inputs: string[] = [];
  private readonly functions: Func[] = [];
  private readonly functionsByName = new Map<string, Func>();
  private uniforms = 0;
  private images = 0;

  constructor() {
    this.prologue = this.makeBlock(null);
    this.body = this.makeBlock(this.prologue);
    this.current = this.body;
  }

  private makeBlock(parent: Block | null): Block {
    return {
      depth: parent ? parent.depth + 1 : 0,
      parent,
      values: [],
      parameters: [],
      results: [],
      known: new Map(),
    };
  }

  private make<T extends LaneType>(
    operation: Operation,
    type: T,
    args: readonly Value[],
    block: Block,
    extras: EmitExtras & { body?: Block; callee?: Func } = {},
  ): Value<T> {
    return {
      id: this.nextId++,
      type,
      operation,
      args,
      block,
      immediate: extras.immediate ?? 0,
      rowSize: extras.rowSize ?? 0,
      laneUniform: extras.laneUniform ?? args.every((arg) => arg.laneUniform),
      ...(extras.body ? { body: extras.body } : {}),
      ...(extras.callee ? { callee: extras.callee } : {}),
    };
  }

  private rootOf(block: Block): Block {
    let at = block;
    while (at.parent) at = at.parent;
    return at;
  }

  /** The outermost block of the current function in which all operands exist. */
  private placeFor(args: readonly Value[]): Block {
    let deepest = this.rootOf(this.current);
    for (const arg of args) if (arg.block.depth > deepest.depth) deepest = arg.block;
    return deepest;
  }

  /** Emits a plain operation, folded, shared and hoisted. */
  emit<T extends LaneType>(
    operation: Operation,
    type: T,
    given: readonly Value[],
    extras: EmitExtras = {},
  ): Value<T> {
    const args =
      COMMUTATIVE.has(operation) &&
      given.length === 2 &&
      present(given[0], 'operand').id > present(given[1], 'operand').id
        ? [present(given[1], 'operand'), present(given[0], 'operand')]
        : given;
    const meaning = MEANING[operation];
    if (meaning && args.length > 0 && args.every((arg) => arg.operation === 'constant')) {
      const raw = meaning(args[0]?.immediate ?? 0, args[1]?.immediate ?? 0, extras.immediate ?? 0);
      return this.constant(type, type === 'f32' ? Math.fround(raw) : raw);
    }
    const block = this.placeFor(args);
    const key = keyOf(operation, type, args, extras);
    const known = block.known.get(key);
    if (known) return known as Value<T>;
    const value = this.make(operation, type, args, block, extras);
    block.values.push(value);
    block.known.set(key, value);
    return value;
  }

  private constant<T extends LaneType>(type: T, value: number): Value<T> {
    return this.emit('constant', type, [], { immediate: value, laneUniform: true });
  }

  /** A single-precision constant (rounded). */
  f(value: number): F32 {
    return this.constant('f32', Math.fround(value));
  }
  /** A 32-bit integer constant (wrapped). */
  i(value: number): I32 {
    return this.constant('i32', value | 0);
  }
  bool(value: boolean): Bool {
    return this.constant('bool', value ? 1 : 0);
  }

  /** A value of the point at hand, by name. */
  input(name: string): F32 {
    let index = this.inputs.indexOf(name);
    if (index < 0) index = this.inputs.push(name) - 1;
    const key = `input:${String(index)}`;
    const known = this.body.known.get(key);
    if (known) return known as F32;
    const value = this.make('input', 'f32', [], this.body, {
      immediate: index,
      laneUniform: false,
    });
    this.body.values.push(value);
    this.body.known.set(key, value);
    return value;
  }

  inputName(value: Value): string {
    return present(this.inputs[value.immediate], 'input name');
  }

  /** Reserves uniforms and returns the index of the first; `align` rows to that many floats. */
  reserveUniforms(count: number, align = 1): number {
    this.uniforms = Math.ceil(this.uniforms / align) * align;
    const base = this.uniforms;
    this.uniforms += count;
    return base;
  }

  uniform(index: number): F32 {
    return this.emit('uniform', 'f32', [], { immediate: index, laneUniform: true });
  }

  /** Reads uniforms[base + column + row × rowSize]; the row must be the same in every lane. */
  table(base: number, rowSize: number, row: I32, column: number): F32 {
    assert(
      row.laneUniform && rowSize % 4 === 0 && base % 4 === 0,
      'table rows are uniform and aligned to four',
    );
    return this.emit('table', 'f32', [row], {
      immediate: base + column,
      rowSize,
      laneUniform: true,
    });
  }

  /** Reserves a place for an image and returns its number. */
  reserveImage(): number {
    return this.images++;
  }
  /**
   * A channel (0–3) of the texel of an image's sheet at a column and row, which must lie in it.
   */
  texel(image: number, channel: number, column: I32, row: I32): F32 {
    return this.emit('texel', 'f32', [column, row], { immediate: image * 4 + channel });
  }

  add(a: F32, b: F32): F32 {
    return isZero(a, -0) ? b : isZero(b, -0) ? a : this.emit('add', 'f32', [a, b]);
  }
  sub(a: F32, b: F32): F32 {
    return isZero(b, 0) ? a : this.emit('sub', 'f32', [a, b]);
  }
  mul(a: F32, b: F32): F32 {
    return isConstant(b, 1) ? a : isConstant(a, 1) ? b : this.emit('mul', 'f32', [a, b]);
  }
  div(a: F32, b: F32): F32 {
    return isConstant(b, 1) ? a : this.emit('div', 'f32', [a, b]);
  }
  min(a: F32, b: F32): F32 {
    return this.emit('min', 'f32', [a, b]);
  }
  max(a: F32, b: F32): F32 {
    return this.emit('max', 'f32', [a, b]);
  }
  neg(a: F32): F32 {
    return this.emit('neg', 'f32', [a]);
  }
  abs(a: F32): F32 {
    return this.emit('abs', 'f32', [a]);
  }
  sqrt(a: F32): F32 {
    return this.emit('sqrt', 'f32', [a]);
  }
  floor(a: F32): F32 {
    return this.emit('floor', 'f32', [a]);
  }
  ceil(a: F32): F32 {
    return this.emit('ceil', 'f32', [a]);
  }
  trunc(a: F32): F32 {
    return this.emit('trunc', 'f32', [a]);
  }
  nearest(a: F32): F32 {
    return this.emit('nearest', 'f32', [a]);
  }
  flipSign(a: F32, lowBit: I32): F32 {
    return this.emit('flipSign', 'f32', [a, lowBit]);
  }
  lt(a: F32, b: F32): Bool {
    return this.emit('lt', 'bool', [a, b]);
  }
  le(a: F32, b: F32): Bool {
    return this.emit('le', 'bool', [a, b]);
  }
  gt(a: F32, b: F32): Bool {
    return this.lt(b, a);
  }
  ge(a: F32, b: F32): Bool {
    return this.le(b, a);
  }
  eq(a: F32, b: F32): Bool {
    return this.emit('eq', 'bool', [a, b]);
  }
  and(a: Bool, b: Bool): Bool {
    return this.emit('and', 'bool', [a, b]);
  }
  or(a: Bool, b: Bool): Bool {
    return this.emit('or', 'bool', [a, b]);
  }
  not(a: Bool): Bool {
    return this.emit('not', 'bool', [a]);
  }
  select<T extends LaneType>(condition: Bool, yes: Value<T>, no: Value<T>): Value<T> {
    if (yes === no) return yes;
    if (condition.operation === 'constant') return condition.immediate ? yes : no;
    return this.emit('select', yes.type, [condition, yes, no]);
  }
  iadd(a: I32, b: I32): I32 {
    return this.emit('iadd', 'i32', [a, b]);
  }
  isub(a: I32, b: I32): I32 {
    return this.emit('isub', 'i32', [a, b]);
  }
  imul(a: I32, b: I32): I32 {
    return this.emit('imul', 'i32', [a, b]);
  }
  iand(a: I32, b: I32): I32 {
    return this.emit('iand', 'i32', [a, b]);
  }
  ior(a: I32, b: I32): I32 {
    return this.emit('ior', 'i32', [a, b]);
  }
  ixor(a: I32, b: I32): I32 {
    return this.emit('ixor', 'i32', [a, b]);
  }
  ishl(a: I32, bits: number): I32 {
    return this.emit('ishl', 'i32', [a], { immediate: bits });
  }
  ishr(a: I32, bits: number): I32 {
    return this.emit('ishr', 'i32', [a], { immediate: bits });
  }
  ishrUnsigned(a: I32, bits: number): I32 {
    return this.emit('ishrUnsigned', 'i32', [a], { immediate: bits });
  }
  ieq(a: I32, b: I32): Bool {
    return this.emit('ieq', 'bool', [a, b]);
  }
  ilt(a: I32, b: I32): Bool {
    return this.emit('ilt', 'bool', [a, b]);
  }
  toInt(a: F32): I32 {
    return this.emit('toInt', 'i32', [a]);
  }
  toFloat(a: I32): F32 {
    return this.emit('toFloat', 'f32', [a]);
  }
  /**
   * `rounds` when the condition holds in any lane, else 0; a loop it bounds must not change lanes
   * where it does not hold.
   */
  countIfAny(condition: Bool, rounds: number): I32 {
    return this.emit('countIfAny', 'i32', [condition], { immediate: rounds, laneUniform: true });
  }
  bitsToFloat(a: I32): F32 {
    return this.emit('bitsToFloat', 'f32', [a]);
  }
  floatToBits(a: F32): I32 {
    return this.emit('floatToBits', 'i32', [a]);
  }

  /** The smaller, and the larger, of an integer and 0. */
  min0(a: I32): I32 {
    return this.select(this.ilt(a, this.i(0)), a, this.i(0));
  }
  max0(a: I32): I32 {
    return this.select(this.ilt(a, this.i(0)), this.i(0), a);
  }

  /** max(lo, min(hi, x)) with constants; not-a-number gives lo. */
  clamp(x: F32, lo: F32, hi: F32): F32 {
    return this.min(this.max(lo, x), hi);
  }
  saturate(x: F32): F32 {
    return this.clamp(x, this.f(0), this.f(1));
  }
  /** a + (b − a)·t */
  mix(a: F32, b: F32, t: F32): F32 {
    return a === b ? a : this.add(a, this.mul(this.sub(b, a), t));
  }
  dot(a: Lanes3, b: Lanes3): F32 {
    return this.add(this.add(this.mul(a[0], b[0]), this.mul(a[1], b[1])), this.mul(a[2], b[2]));
  }

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

function isConstant(value: F32, of: number): boolean {
  return value.operation === 'constant' && value.immediate === of;
}
function isZero(value: F32, of: number): boolean {
  return value.operation === 'constant' && Object.is(value.immediate, of);
}

/** The number of operands an operation takes, or -1 for structural ones. */
export function operandCount(operation: Operation): number {
  const entry = OPERATIONS[operation];
  return entry.args.length > 0 ? entry.args.length : operation === 'select' ? 3 : -1;
}
