import type { LaneName } from '../../base/ids';
import { present } from '../../base/assert';
import { analyseLiveness } from '../../ir/liveness';
import type { Liveness } from '../../ir/liveness';
import type { Block, Func, LaneType, Program, Value } from '../../ir/types';

/** The pieces of a fragment shader (GLSL ES 3.00) for one program. */
export interface EmittedGlsl {
  /** Function definitions, to stand before `main`. */
  readonly functions: string;
  /**
   * Statements for the body of `main`; inputs must be declared as `inputVariable(name)` before
   * them.
   */
  readonly statements: string;
  /** An expression per program output. */
  readonly outputs: readonly string[];
  /** Rows of the uniform `vec4 values[rows]`. */
  readonly valueRows: number;
  readonly inputs: readonly string[];
  /** Samplers `image0`, `image1`, … hold the sheets of as many images. */
  readonly imageCount: number;
  /**
   * Whether typed values are a uniform array, or (there are too many) a texture of rows of
   * ROW_TEXELS.
   */
  readonly valuesIn: ValuesIn;
}

/** Where a program finds its typed values: a uniform array, or a texture. */
export type ValuesIn = 'array' | 'texture';
/** More values than a weak graphics processor takes as uniforms stand in a texture. */
const MOST_UNIFORM_ROWS = 180;
/** Texels of four values in a row of the texture that holds typed values. */
export const VALUE_TEXELS = 256;

/** Declares the typed values, and `valueRow(k)` that reads four of them. */
export const declareValues = ({
  valuesIn,
  valueRows,
}: Pick<EmittedGlsl, 'valuesIn' | 'valueRows'>): string =>
  valuesIn === 'array'
    ? `uniform vec4 values[${String(valueRows)}];\n#define valueRow(k) values[k]`
    : `uniform sampler2D values;\n#define valueRow(k) texelFetch(values, ivec2((k) & ` +
      `${String(VALUE_TEXELS - 1)}, (k) / ${String(VALUE_TEXELS)}), 0)`;

/**
 * The GLSL name of a per-point input; different lanes have different names. GLSL reserves two
 * underscores in a row, so only the last of several dots becomes one.
 */
export const inputVariable = (name: LaneName): string =>
  'in_' +
  name.replace(/[^A-Za-z0-9]|Z/g, (letter, at: number, whole: string) => {
    if (letter === '.' && whole[at + 1] !== '.') return '_';
    return letter === 'Z' ? 'ZZ' : `Z${letter.charCodeAt(0).toString(16)}x`;
  });

/** The sampler that holds an image's sheet. */
export const imageSampler = (image: number): string => `image${String(image)}`;

const GLSL_TYPE: Record<LaneType, string> = { f32: 'float', i32: 'int', bool: 'bool' };
const INFIX: Partial<Record<Value['operation'], string>> = {
  add: '+',
  sub: '-',
  mul: '*',
  div: '/',
  lt: '<',
  le: '<=',
  eq: '==',
  and: '&&',
  or: '||',
  iadd: '+',
  isub: '-',
  imul: '*',
  iand: '&',
  ior: '|',
  ixor: '^',
  ieq: '==',
  ilt: '<',
  ishl: '<<',
  ishr: '>>',
};
const PREFIX: Partial<Record<Value['operation'], string>> = {
  min: 'min',
  max: 'max',
  neg: '-',
  not: '!',
  abs: 'abs',
  sqrt: 'sqrt',
  floor: 'floor',
  ceil: 'ceil',
  trunc: 'trunc',
  nearest: 'roundEven',
  toFloat: 'float',
  bitsToFloat: 'intBitsToFloat',
  floatToBits: 'floatBitsToInt',
};

/** How a program reads its typed values. */
export interface ValueText {
  /** The expression of one of them. */
  one(index: number): string;
  /** The expression of one in the row that is found so many rows after that of `index`. */
  inTable(index: number, rows: string): string;
}

const component = (index: number): string => 'xyzw'.charAt(index & 3);
const fromRows: ValueText = {
  one: (index) => `valueRow(${String(index >> 2)}).${component(index)}`,
  inTable: (index, rows) => `valueRow(${String(index >> 2)} + ${rows}).${component(index)}`,
};

/** Compiles a program to GLSL ES 3.00. */
export function emitGlsl(program: Program, typed: ValueText = fromRows): EmittedGlsl {
  const liveness = analyseLiveness(program);
  const functions = liveness.functions
    .map((func) => new GlslWriter(liveness, program, typed).writeFunction(func))
    .join('\n');
  const writer = new GlslWriter(liveness, program, typed);
  writer.writeBlock(program.prologue);
  writer.writeBlock(program.body);
  return {
    functions,
    statements: writer.lines.join('\n'),
    outputs: program.outputs.map((output) => writer.use(output.value)),
    ...valuesOf(program),
    inputs: program.inputs,
    imageCount: program.imageCount,
  };
}

function valuesOf(program: Program): { valueRows: number; valuesIn: ValuesIn } {
  const valueRows = Math.max(1, Math.ceil(program.uniformCount / 4));
  return { valueRows, valuesIn: valueRows > MOST_UNIFORM_ROWS ? 'texture' : 'array' };
}

class GlslWriter {
  readonly lines: string[] = [];
  private readonly names = new Map<Value, string>();

  constructor(
    private readonly liveness: Liveness,
    private readonly program: Program,
    private readonly typed: ValueText,
  ) {}

  writeFunction(func: Func): string {
    const takes = func.body.parameters.map((parameter, k) => {
      this.names.set(parameter, `p${String(k)}`);
      return `${GLSL_TYPE[parameter.type]} p${String(k)}`;
    });
    const gives = func.body.results.map(
      (result, k) => `out ${GLSL_TYPE[result.type]} r${String(k)}`,
    );
    this.writeBlock(func.body);
    func.body.results.forEach((result, k) =>
      this.lines.push(`r${String(k)} = ${this.use(result)};`),
    );
    return (
      `void ${functionName(func)}(${[...takes, ...gives].join(', ')}) ` +
      `{\n${this.lines.join('\n')}\n}`
    );
  }

  writeBlock(block: Block): void {
    for (const value of block.values) {
      if (
        !this.liveness.isLive(value) ||
        this.liveness.isInline(value) ||
        value.operation === 'constant'
      )
        continue;
      if (value.operation === 'loop') this.writeLoop(value);
      else if (value.operation === 'call') this.writeCall(value);
      else if (value.operation !== 'loopResult' && value.operation !== 'callResult') {
        const name = `v${String(value.id)}`;
        this.lines.push(`${GLSL_TYPE[value.type]} ${name} = ${this.expression(value)};`);
        this.names.set(value, name);
      }
    }
  }

  use(value: Value): string {
    return this.names.get(value) ?? this.expression(value);
  }

  private expression(value: Value): string {
    const arg = (k: number): string => this.use(present(value.args[k], 'operand'));
    const infix = INFIX[value.operation];
    if (infix)
      return `(${arg(0)} ${infix} ${value.args.length > 1 ? arg(1) : String(value.immediate)})`;
    const prefix = PREFIX[value.operation];
    if (prefix)
      return value.args.length > 1 ? `${prefix}(${arg(0)}, ${arg(1)})` : `(${prefix}(${arg(0)}))`;
    switch (value.operation) {
      case 'constant':
        return literal(value.type, value.immediate);
      case 'texel':
        return (
          `texelFetch(${imageSampler(value.immediate >> 2)}, ivec2(${arg(0)}, ${arg(1)}), ` +
          `0).${'rgba'.charAt(value.immediate & 3)}`
        );
      case 'uniform':
        return this.typed.one(value.immediate);
      case 'table':
        return this.typed.inTable(value.immediate, `${arg(0)} * ${String(value.rowSize >> 2)}`);
      case 'input':
        return inputVariable(present(this.program.inputs[value.immediate], 'input name'));
      case 'select':
        return `(${arg(0)} ? ${arg(1)} : ${arg(2)})`;
      case 'flipSign':
        return `intBitsToFloat(floatBitsToInt(${arg(0)}) ^ (${arg(1)} << 31))`;
      case 'ishrUnsigned':
        return `int(uint(${arg(0)}) >> ${String(value.immediate)}u)`;
      // The conversion of a value outside the integer range is undefined in GLSL.
      case 'toInt':
        return `int(clamp(${arg(0)}, -2147483648.0, 2147483520.0))`;
      case 'countIfAny':
        return `(${arg(0)} ? ${String(value.immediate)} : 0)`;
      default:
        throw new Error(`Invariant broken: ${value.operation} has no GLSL`);
    }
  }

  private writeLoop(loop: Value): void {
    const body = present(loop.body, 'loop body');
    const [count, ...initial] = loop.args;
    const id = String(loop.id);
    initial.forEach((value, k) => {
      const name = `c${id}_${String(k)}`;
      this.lines.push(`${GLSL_TYPE[value.type]} ${name} = ${this.use(value)};`);
      this.names.set(present(body.parameters[k + 1], 'carried'), name);
    });
    this.names.set(present(body.parameters[0], 'index'), `i${id}`);
    this.lines.push(
      `for (int i${id} = 0; i${id} < ${this.use(present(count, 'count'))}; i${id}++) {`,
    );
    this.writeBlock(body);
    body.results.forEach((result, k) =>
      this.lines.push(`${GLSL_TYPE[result.type]} n${id}_${String(k)} = ${this.use(result)};`),
    );
    body.results.forEach((_, k) => this.lines.push(`c${id}_${String(k)} = n${id}_${String(k)};`));
    this.lines.push('}');
    this.nameResults(loop, (k) => `c${id}_${String(k)}`);
  }

  private writeCall(call: Value): void {
    const callee = present(call.callee, 'callee');
    const id = String(call.id);
    const results = callee.body.results.map((result, k) => {
      this.lines.push(`${GLSL_TYPE[result.type]} r${id}_${String(k)};`);
      return `r${id}_${String(k)}`;
    });
    const given = [...call.args.map((arg) => this.use(arg)), ...results];
    this.lines.push(`${functionName(callee)}(${given.join(', ')});`);
    this.nameResults(call, (k) => `r${id}_${String(k)}`);
  }

  private nameResults(owner: Value, name: (k: number) => string): void {
    for (const value of owner.block.values) {
      if (
        (value.operation === 'loopResult' || value.operation === 'callResult') &&
        value.args[0] === owner
      ) {
        this.names.set(value, name(value.immediate));
      }
    }
  }
}

/** GLSL reserves names with two underscores in a row and those that begin with `gl_`. */
const functionName = (func: Func): string =>
  `fn_${func.name.replace(/[^A-Za-z0-9]+/g, '_').replace(/_+$/, '')}`;

/** A value as GLSL writes it, to the bit in single precision. */
export function literal(type: LaneType, value: number): string {
  if (type === 'bool') return value ? 'true' : 'false';
  if (type === 'i32') return value === -2147483648 ? '(-2147483647 - 1)' : `(${String(value)})`;
  if (!Number.isFinite(value)) {
    return Number.isNaN(value)
      ? 'intBitsToFloat(0x7fc00000)'
      : value > 0
        ? 'intBitsToFloat(0x7f800000)'
        : 'intBitsToFloat(-8388608)';
  }
  const text = Object.is(value, -0) ? '-0.0' : String(Math.fround(value));
  return `(${/[.e]/.test(text) ? text : `${text}.0`})`;
}
