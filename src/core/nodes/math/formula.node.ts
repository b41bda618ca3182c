import { lowerFormula } from '../formula/lower';
import { parseFormula } from '../formula/parse';
import { defineNode, input, output } from '../define';
import { evenStep } from '../edges';

const value = (name: string, fallback: number) =>
  input.flex({
    title: name.toUpperCase(),
    help: `Called ${name} in the formula: a float, or a vec3 where a vector or colour arrives.`,
    default: fallback,
  });

export const formula = defineNode({
  id: 'math.formula',
  version: 1,
  title: 'Formula',
  family: 'math',
  synonyms: ['expression', 'equation', 'code', 'custom', 'script', 'calculate'],
  help:
    'An expression over its inputs in the notation of shading languages, compiled like ' +
    'everything else. Types are float, vec3 and bool; parts are .x .y .z or .r .g .b. ' +
    'Intermediate values have names: float t = a * 2.0; then the result. Dividing by 0 gives 0.',
  formula: 'what you write',
  inputs: {
    formula: input.formula({
      title: 'Formula',
      help: 'For example: float t = clamp(a, 0.0, 1.0); mix(b, c, t * t).',
      default: 'mix(b, c, smoothstep(0.0, 1.0, a))',
    }),
    a: value('a', 0.5),
    b: value('b', 0),
    c: value('c', 1),
    d: value('d', 0.5),
    e: value('e', 0.5),
    f: value('f', 0.5),
  },
  outputs: { value: output.flex('Value', 'The result: a number, or three.') },
  tolerance: {
    value: 1e-3,
    reason: 'Powers, exponents and tangents multiply the rounding of their operands.',
  },
  lower: (builder, { formula: text, a, b, c, d, e, f }, _options, model) => ({
    value: lowerFormula(builder, parseFormula(text), { a, b, c, d, e, f }, (made, x, edge) =>
      evenStep(made, x, edge, model),
    ),
  }),
});
