import { analyseLiveness } from '../../ir/liveness';
import type { Program } from '../../ir/types';
import { emitGlsl, imageSampler, inputVariable, literal } from './emit';
import type { ValueText } from './emit';

/** What stands around a program's function. */
export interface FunctionText {
  /** The uniforms of the program, as they are now. */
  readonly values: Float32Array;
  /** Where among the uniforms a value or a table begins. */
  readonly starts: readonly number[];
  /** Names of the numbers it writes, in the order of the program's outputs. */
  readonly outputs: readonly string[];
  /** The per-point inputs that are arguments: those that some output depends on. */
  readonly takes: ReadonlySet<string>;
  /** What a reader needs to know of arguments and samplers, a line each. */
  readonly remarks: readonly string[];
}

/** Values as constants where they are read; of tables only those that are read. */
class Constants implements ValueText {
  readonly declarations: string[] = [];
  private readonly tables = new Map<number, string>();

  constructor(
    private readonly values: Float32Array,
    private readonly starts: readonly number[],
  ) {}

  one(index: number): string {
    return literal('f32', this.values[index] ?? 0);
  }

  inTable(index: number, rows: string): string {
    const first = Math.max(0, ...this.starts.filter((start) => start <= index)) >> 2;
    const from = (index >> 2) - first;
    const row = from === 0 ? rows : `${String(from)} + ${rows}`;
    return `${this.table(first)}[${row}].${'xyzw'.charAt(index & 3)}`;
  }

  private table(first: number): string {
    const known = this.tables.get(first);
    if (known !== undefined) return known;
    const next = Math.min(...this.starts.filter((start) => start > first * 4), this.values.length);
    const rows = Array.from({ length: Math.ceil(next / 4) - first }, (_, row) => {
      const four = [0, 1, 2, 3].map((k) => this.one((first + row) * 4 + k));
      return `  vec4(${four.join(', ')})`;
    });
    const name = `table${String(this.tables.size)}`;
    const count = String(rows.length);
    this.declarations.push(
      `const vec4 ${name}[${count}] = vec4[${count}](\n${rows.join(',\n')}\n);`,
    );
    this.tables.set(first, name);
    return name;
  }
}

/**
 * A program as one function of GLSL ES 3.00 that stands alone: its inputs are arguments, typed
 * values are constants, and it writes a number for each output. Images are samplers to be given.
 */
export function composeFunction(program: Program, text: FunctionText): string {
  const { outputs, takes, remarks } = text;
  const constants = new Constants(text.values, text.starts);
  const glsl = emitGlsl(program, constants);
  const samplers = usedImages(program).map(
    (image) => `uniform highp sampler2D ${imageSampler(image)};`,
  );
  const given = glsl.inputs.filter((name) => takes.has(name));
  const parameters = [
    ...given.map((name) => `in float ${inputVariable(name)}`),
    ...outputs.map((name) => `out float ${name}`),
  ];
  return [
    '// GLSL ES 3.00. Lengths are metres in object space, Y up; colours are linear Rec. 709.',
    ...remarks.map((line) => `// ${line}`),
    ...samplers,
    ...constants.declarations,
    glsl.functions,
    `void evaluate(\n  ${parameters.join(',\n  ')}\n) {`,
    glsl.statements,
    ...outputs.map((name, k) => `${name} = ${glsl.outputs[k] ?? '0.0'};`),
    '}',
    '',
  ]
    .filter((part) => part !== '')
    .join('\n');
}

/** The images that some output depends on, by their numbers. */
export function usedImages(program: Program): readonly number[] {
  const liveness = analyseLiveness(program);
  const found = new Set<number>();
  const blocks = [
    program.prologue,
    program.body,
    ...liveness.functions.map(({ body }) => body),
  ].map(({ values }) => values);
  for (let values = blocks.pop(); values; values = blocks.pop())
    for (const value of values) {
      if (!liveness.isLive(value)) continue;
      if (value.operation === 'texel') found.add(value.immediate >> 2);
      if (value.body) blocks.push(value.body.values);
    }
  return [...found].sort((a, b) => a - b);
}
