import type { ByteWriter } from './bytes';
import { CORE } from './opcodes';

/** Writes the instructions of one function, and counts the locals it declares. */
export class Instructions {
  private readonly localTypes: number[] = [];

  /** @param parameterCount the locals that are parameters already */
  constructor(
    protected readonly code: ByteWriter,
    private readonly parameterCount: number,
  ) {}

  newLocal(type: number): number {
    this.localTypes.push(type);
    return this.parameterCount + this.localTypes.length - 1;
  }

  /** Local declarations, run-length encoded. */
  writeLocals(into: ByteWriter): void {
    const runs: [number, number][] = [];
    for (const type of this.localTypes) {
      const last = runs[runs.length - 1];
      if (last?.[1] === type) last[0]++;
      else runs.push([1, type]);
    }
    into.u32(runs.length);
    for (const [count, type] of runs) into.u32(count).byte(type);
  }

  op(code: number, ...operands: number[]): void {
    this.code.byte(code);
    for (const operand of operands) this.code.u32(operand);
  }
  simd(code: number): void {
    this.code.byte(0xfd).u32(code);
  }
  memory(code: number, align: number, offset: number): void {
    this.simd(code);
    this.code.u32(align).u32(offset);
  }
  i32(value: number): void {
    this.code.byte(CORE.i32Const).s32(value);
  }
}
