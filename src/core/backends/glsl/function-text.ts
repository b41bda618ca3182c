import { imageSampler, inputVariable } from './emit';
import type { EmittedGlsl } from './emit';

const literal = (value: number): string => {
  const text = Number.isFinite(value) ? String(Math.fround(value)) : '0.0';
  return /[.e]/.test(text) ? text : `${text}.0`;
};

/**
 * A program as one function of GLSL ES 3.00 that stands alone: its inputs are arguments, typed
 * values are constants, and it writes a number for each output. Images are samplers to be given.
 * @param values the uniforms of the program, as they are now
 * @param outputs names of the numbers it writes, in the order of the program's outputs
 */
export function composeFunction(
  glsl: EmittedGlsl,
  values: Float32Array,
  outputs: readonly string[],
): string {
  const rows = Array.from({ length: glsl.valueRows }, (_, row) => {
    const four = [0, 1, 2, 3].map((k) => literal(values[row * 4 + k] ?? 0));
    return `  vec4(${four.join(', ')})`;
  });
  const samplers = Array.from(
    { length: glsl.imageCount },
    (_, k) => `uniform highp sampler2D ${imageSampler(k)};`,
  );
  const count = String(glsl.valueRows);
  const takes = glsl.inputs.map((name) => `in float ${inputVariable(name)}`);
  const gives = outputs.map((name) => `out float ${name}`);
  return [
    '// GLSL ES 3.00. Lengths are metres in object space, Y up; colours are linear Rec. 709.',
    ...samplers,
    `const vec4 values[${count}] = vec4[${count}](\n${rows.join(',\n')}\n);`,
    '#define valueRow(k) values[k]',
    glsl.functions,
    `void evaluate(\n  ${[...takes, ...gives].join(',\n  ')}\n) {`,
    glsl.statements,
    ...outputs.map((name, k) => `${name} = ${glsl.outputs[k] ?? '0.0'};`),
    '}',
    '',
  ]
    .filter((part) => part !== '')
    .join('\n');
}
