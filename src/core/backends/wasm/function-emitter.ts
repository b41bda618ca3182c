import { assert, present } from '../../base/assert';
import { floatToBits } from '../../ir/fold';
import type { Liveness } from '../../ir/liveness';
import type { Block, Func, Value } from '../../ir/types';
import type { ByteWriter } from './bytes';
import { BlockResults } from './block-results';
import { Instructions } from './instructions';
import { LastUses } from './last-uses';
import { CORE, DIRECT, SIMD, TYPE } from './opcodes';

/** Byte offsets in the module's memory of the uniforms, the input lanes and the output lanes. */
export interface MemoryLayout {
  readonly uniforms: number;
  readonly inputs: readonly number[];
  readonly outputs: readonly number[];
  /** A row of 16 bytes for each image: where its sheet stands, and its stride in texels. */
  readonly images: number;
  readonly bytes: number;
}

/**
 * Emits the code of one function: every value four lanes wide in a v128 (truth values as masks).
 * Values used once in their own block are written in place; the others live in locals.
 */
export class FunctionEmitter extends Instructions {
  private readonly locals = new Map<Value, number>();
  /** Locals whose values are used no more: engines take 50,000 in a function, and large networks
   *  have more values. */
  private readonly free: number[] = [];
  private readonly scalarIndex = new Map<Value, number>();
  private readonly results = new BlockResults();

  constructor(
    code: ByteWriter,
    private readonly liveness: Liveness,
    private readonly functionIndex: ReadonlyMap<Func, number>,
    private readonly layout: MemoryLayout,
    parameterCount: number,
    /**
     * The local that holds the running byte offset of the point block; per-point inputs need it.
     */
    private readonly offsetLocal = -1,
  ) {
    super(code, parameterCount);
  }

  bindParameter(parameter: Value, local: number): void {
    this.locals.set(parameter, local);
  }

  /** @param kept what is used after the block, so that its locals stay */
  emitBlock(block: Block, kept: readonly Value[] = []): void {
    const lastUses = new LastUses(block, this.liveness, kept);
    block.values.forEach((value, place) => {
      this.emitValue(value);
      for (const done of lastUses.at(place)) {
        const local = this.locals.get(done);
        if (local !== undefined) this.free.push(local);
      }
    });
  }

  private emitValue(value: Value): void {
    if (!this.liveness.isLive(value) || this.liveness.isInline(value)) return;
    if (value.operation === 'loop') this.emitLoop(value);
    else if (value.operation === 'call') this.emitCall(value);
    else if (
      this.isRematerialised(value) ||
      value.operation === 'loopResult' ||
      value.operation === 'callResult'
    )
      return;
    else {
      this.emitOperation(value);
      this.op(CORE.localSet, this.localOf(value));
    }
  }

  /** Constants and uniforms are cheaper to make again than to keep in a local. */
  private isRematerialised(value: Value): boolean {
    return value.operation === 'constant' || value.operation === 'uniform';
  }

  private localOf(value: Value): number {
    let local = this.locals.get(value);
    if (local === undefined) {
      local = this.free.pop() ?? this.newLocal(TYPE.v128);
      this.locals.set(value, local);
    }
    return local;
  }

  /** Leaves the value, four lanes wide, on the stack. */
  emitUse(value: Value): void {
    const index = this.scalarIndex.get(value);
    if (index !== undefined) {
      this.op(CORE.localGet, index);
      this.simd(SIMD.splatI32);
    } else if (this.isRematerialised(value) || this.liveness.isInline(value))
      this.emitOperation(value);
    else this.op(CORE.localGet, this.localOf(value));
  }

  /** Leaves a lane-uniform integer as one i32 on the stack. */
  private emitScalar(value: Value): void {
    const index = this.scalarIndex.get(value);
    const [a, b] = value.args;
    if (index !== undefined) this.op(CORE.localGet, index);
    else if (value.operation === 'constant') this.i32(value.immediate);
    else if ((value.operation === 'iadd' || value.operation === 'isub') && a && b) {
      this.emitScalar(a);
      this.emitScalar(b);
      this.op(value.operation === 'iadd' ? CORE.i32Add : CORE.i32Sub);
    } else if (value.operation === 'countIfAny' && a && this.liveness.isInline(value))
      this.emitCountIfAny(value, a);
    else {
      this.emitUse(value);
      this.simd(SIMD.extractI32);
      this.code.byte(0);
    }
  }

  private emitCountIfAny(value: Value, condition: Value): void {
    this.i32(value.immediate);
    this.i32(0);
    this.emitUse(condition);
    this.simd(SIMD.anyTrue);
    this.op(CORE.select);
  }

  private emitConstant(value: Value): void {
    const bits =
      value.type === 'f32'
        ? floatToBits(value.immediate)
        : value.type === 'bool'
          ? -value.immediate
          : value.immediate;
    this.simd(SIMD.constant);
    for (let lane = 0; lane < 4; lane++) this.code.i32Raw(bits);
  }

  private emitOperation(value: Value): void {
    const direct = DIRECT[value.operation];
    if (direct !== undefined) {
      for (const arg of value.args) this.emitUse(arg);
      return this.simd(direct);
    }
    const arg = (k: number): Value => present(value.args[k], 'operand');
    switch (value.operation) {
      case 'constant':
        return this.emitConstant(value);
      case 'uniform':
        this.i32(0);
        return this.memory(SIMD.load32Splat, 2, this.layout.uniforms + value.immediate * 4);
      case 'table':
        this.emitScalar(arg(0));
        this.i32(value.rowSize * 4);
        this.op(CORE.i32Mul);
        return this.memory(SIMD.load32Splat, 2, this.layout.uniforms + value.immediate * 4);
      case 'input':
        assert(this.offsetLocal >= 0, 'inputs are read in the main function');
        this.op(CORE.localGet, this.offsetLocal);
        return this.memory(
          SIMD.load,
          4,
          present(this.layout.inputs[value.immediate], 'input offset'),
        );
      case 'select':
        this.emitUse(arg(1));
        this.emitUse(arg(2));
        this.emitUse(arg(0));
        return this.simd(SIMD.bitselect);
      case 'flipSign':
        this.emitUse(arg(0));
        this.emitUse(arg(1));
        this.i32(31);
        this.simd(SIMD.shl);
        return this.simd(SIMD.xor);
      case 'ishl':
        return this.emitShift(arg(0), value.immediate, SIMD.shl);
      case 'ishr':
        return this.emitShift(arg(0), value.immediate, SIMD.shrSigned);
      case 'ishrUnsigned':
        return this.emitShift(arg(0), value.immediate, SIMD.shrUnsigned);
      case 'texel':
        return this.emitTexel(value, arg(0), arg(1));
      case 'bitsToFloat':
      case 'floatToBits':
        return this.emitUse(arg(0));
      case 'countIfAny':
        this.emitCountIfAny(value, arg(0));
        return this.simd(SIMD.splatI32);
      default:
        throw new Error(`Invariant broken: ${value.operation} has no code`);
    }
  }

  private emitShift(value: Value, bits: number, code: number): void {
    this.emitUse(value);
    this.i32(bits);
    this.simd(code);
  }

  /**
   * Gathers one channel for four lanes: their addresses are computed together, then read one by
   * one.
   */
  private emitTexel(value: Value, column: Value, row: Value): void {
    const image = this.layout.images + (value.immediate >> 2) * 16;
    const address = this.newLocal(TYPE.v128);
    this.emitUse(row);
    this.i32(0);
    this.memory(SIMD.load32Splat, 2, image + 4);
    this.simd(SIMD.mulI32);
    this.emitUse(column);
    this.simd(SIMD.addI32);
    this.i32(4);
    this.simd(SIMD.shl);
    this.i32(0);
    this.memory(SIMD.load32Splat, 2, image);
    this.simd(SIMD.addI32);
    this.op(CORE.localSet, address);
    const lane = (k: number): void => {
      this.op(CORE.localGet, address);
      this.simd(SIMD.extractI32);
      this.code.byte(k);
    };
    const channel = (value.immediate & 3) * 4;
    lane(0);
    this.memory(SIMD.load32Splat, 2, channel);
    const gathered = this.newLocal(TYPE.v128);
    for (let k = 1; k < 4; k++) {
      this.op(CORE.localSet, gathered);
      lane(k);
      this.op(CORE.localGet, gathered);
      this.memory(SIMD.load32Lane, 2, channel);
      this.code.byte(k);
    }
  }

  private emitLoop(loop: Value): void {
    const body = present(loop.body, 'loop body');
    const [count, ...initial] = loop.args;
    const bound = this.newLocal(TYPE.i32);
    const index = this.newLocal(TYPE.i32);
    const carried = initial.map(() => this.newLocal(TYPE.v128));
    for (const value of this.results.of(loop))
      this.locals.set(value, present(carried[value.immediate], 'carried'));
    this.emitScalar(present(count, 'count'));
    this.op(CORE.localSet, bound);
    initial.forEach((value, k) => {
      this.emitUse(value);
      this.op(CORE.localSet, present(carried[k], 'carried'));
    });
    this.i32(0);
    this.op(CORE.localSet, index);
    this.scalarIndex.set(present(body.parameters[0], 'index'), index);
    carried.forEach((local, k) =>
      this.locals.set(present(body.parameters[k + 1], 'carried'), local),
    );
    this.code.byte(CORE.block, CORE.empty, CORE.loop, CORE.empty);
    this.op(CORE.localGet, index);
    this.op(CORE.localGet, bound);
    this.op(CORE.i32Ge);
    this.op(CORE.brIf, 1);
    this.emitBlock(body, body.results);
    for (const result of body.results) this.emitUse(result);
    for (const local of [...carried].reverse()) this.op(CORE.localSet, local);
    this.op(CORE.localGet, index);
    this.i32(1);
    this.op(CORE.i32Add);
    this.op(CORE.localSet, index);
    this.op(CORE.br, 0);
    this.code.byte(CORE.end, CORE.end);
  }

  private emitCall(call: Value): void {
    const callee = present(call.callee, 'callee');
    for (const arg of call.args) this.emitUse(arg);
    this.op(CORE.call, present(this.functionIndex.get(callee), 'function index'));
    const results = callee.body.results.map(() => this.free.pop() ?? this.newLocal(TYPE.v128));
    for (const local of [...results].reverse()) this.op(CORE.localSet, local);
    for (const value of this.results.of(call))
      this.locals.set(value, present(results[value.immediate], 'result'));
  }
}
