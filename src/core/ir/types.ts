/** The type of one lane. Vectors are split into scalars before they reach the representation. */
export type LaneType = 'f32' | 'i32' | 'bool';

/** What each operation takes and gives. Operations without an entry in `args` are structural. */
export const OPERATIONS = {
  constant: { args: [] },
  /** A value of the point at hand; `immediate` is the index into the program's inputs. */
  input: { args: [] },
  /** A typed value or dial; `immediate` is the index into the program's uniforms. */
  uniform: { args: [] },
  /** A row of a table among the uniforms: uniforms[immediate + row × rowSize]. */
  table: { args: ['i32'], result: 'f32' },
  /**
   * One channel of a texel of an image's sheet, by column and row; `immediate` is image × 4 +
   * channel. Out of the sheet is not allowed.
   */
  texel: { args: ['i32', 'i32'], result: 'f32' },
  parameter: { args: [] },
  loop: { args: [] },
  loopResult: { args: [] },
  call: { args: [] },
  callResult: { args: [] },
  add: { args: ['f32', 'f32'], result: 'f32' },
  sub: { args: ['f32', 'f32'], result: 'f32' },
  mul: { args: ['f32', 'f32'], result: 'f32' },
  div: { args: ['f32', 'f32'], result: 'f32' },
  /** b < a ? b : a */
  min: { args: ['f32', 'f32'], result: 'f32' },
  /** a < b ? b : a */
  max: { args: ['f32', 'f32'], result: 'f32' },
  neg: { args: ['f32'], result: 'f32' },
  abs: { args: ['f32'], result: 'f32' },
  sqrt: { args: ['f32'], result: 'f32' },
  floor: { args: ['f32'], result: 'f32' },
  ceil: { args: ['f32'], result: 'f32' },
  trunc: { args: ['f32'], result: 'f32' },
  /** To the nearest whole number, halves to even. */
  nearest: { args: ['f32'], result: 'f32' },
  /** Changes the sign of the first when the lowest bit of the second is set. */
  flipSign: { args: ['f32', 'i32'], result: 'f32' },
  lt: { args: ['f32', 'f32'], result: 'bool' },
  le: { args: ['f32', 'f32'], result: 'bool' },
  eq: { args: ['f32', 'f32'], result: 'bool' },
  and: { args: ['bool', 'bool'], result: 'bool' },
  or: { args: ['bool', 'bool'], result: 'bool' },
  not: { args: ['bool'], result: 'bool' },
  select: { args: [] },
  iadd: { args: ['i32', 'i32'], result: 'i32' },
  isub: { args: ['i32', 'i32'], result: 'i32' },
  imul: { args: ['i32', 'i32'], result: 'i32' },
  iand: { args: ['i32', 'i32'], result: 'i32' },
  ior: { args: ['i32', 'i32'], result: 'i32' },
  ixor: { args: ['i32', 'i32'], result: 'i32' },
  /** Shifts by the constant `immediate`. */
  ishl: { args: ['i32'], result: 'i32' },
  ishr: { args: ['i32'], result: 'i32' },
  ishrUnsigned: { args: ['i32'], result: 'i32' },
  ieq: { args: ['i32', 'i32'], result: 'bool' },
  /** Signed. */
  ilt: { args: ['i32', 'i32'], result: 'bool' },
  /** Towards zero, saturating; not-a-number gives 0. */
  toInt: { args: ['f32'], result: 'i32' },
  toFloat: { args: ['i32'], result: 'f32' },
  /**
   * `immediate` when the condition holds in any lane of the block, else 0: the rounds of a loop
   * that most lanes can skip.
   */
  countIfAny: { args: ['bool'], result: 'i32' },
  bitsToFloat: { args: ['i32'], result: 'f32' },
  floatToBits: { args: ['f32'], result: 'i32' },
} as const satisfies Record<string, { args: readonly LaneType[]; result?: LaneType }>;

/** The name of an operation. */
export type Operation = keyof typeof OPERATIONS;

/** One value of the static single-assignment form. Operands are values made earlier. */
export interface Value<T extends LaneType = LaneType> {
  readonly id: number;
  readonly type: T;
  readonly operation: Operation;
  readonly args: readonly Value[];
  readonly immediate: number;
  /** Row size of a table read. */
  readonly rowSize: number;
  /** The same in every lane of a point block (loop bounds and table rows must be). */
  readonly laneUniform: boolean;
  readonly block: Block;
  readonly body?: Block;
  readonly callee?: Func;
}

/** A single-precision number in each lane. */
export type F32 = Value<'f32'>;
/** A 32-bit integer in each lane. */
export type I32 = Value<'i32'>;
/** A truth value in each lane. */
export type Bool = Value<'bool'>;
/** A vector or a colour: three numbers in each lane. */
export type Lanes3 = readonly [F32, F32, F32];

/** A list of values computed together: a function's body, a prologue or a loop's body. */
export interface Block {
  readonly depth: number;
  readonly parent: Block | null;
  readonly values: Value[];
  /** Loop bodies: the index, then the carried values. Functions: the parameters. */
  readonly parameters: Value[];
  results: readonly Value[];
  readonly known: Map<string, Value>;
}

/** A function of a program; `partials` holds its derivatives by the active parameters. */
export interface Func {
  readonly name: string;
  readonly body: Block;
  readonly partials: Map<string, Func>;
}

/** A value a program writes, by name. */
export interface ProgramOutput {
  readonly name: string;
  readonly value: F32;
}

/**
 * A whole program. `prologue` holds what is the same for all points, `body` the rest; `inputs`
 * names the per-point lanes in the order in which a context supplies them.
 */
export interface Program {
  readonly prologue: Block;
  readonly body: Block;
  readonly functions: readonly Func[];
  readonly inputs: readonly string[];
  readonly uniformCount: number;
  readonly imageCount: number;
  readonly outputs: readonly ProgramOutput[];
}
