import type { Builder } from '../../ir/builder';
import { atan, cos, exp2, log2, pow, sin } from '../../ir/library/transcendental';
import type { F32 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import { divide, eachLane, smoothMinimum } from '../lanes';

interface Operation {
  readonly title: string;
  readonly help: string;
  readonly operands: 1 | 2 | 3;
  readonly neutral?: number;
  readonly make: (b: Builder, x: F32, y: F32, z: F32) => F32;
}
/** With their neutral operand these give the other one to the bit, whatever it is. */
const EXACT: ReadonlySet<string> = new Set(['add', 'subtract', 'multiply', 'divide']);
const OPERATIONS = {
  add: { title: 'Add', help: 'a + b', operands: 2, neutral: 0, make: (b, x, y) => b.add(x, y) },
  subtract: {
    title: 'Subtract',
    help: 'a − b',
    operands: 2,
    neutral: 0,
    make: (b, x, y) => b.sub(x, y),
  },
  multiply: {
    title: 'Multiply',
    help: 'a × b',
    operands: 2,
    neutral: 1,
    make: (b, x, y) => b.mul(x, y),
  },
  divide: { title: 'Divide', help: 'a / b; 0 where b is 0', operands: 2, neutral: 1, make: divide },
  power: { title: 'Power', help: 'a^b; a below 0 counts as 0', operands: 2, neutral: 1, make: pow },
  minimum: {
    title: 'Minimum',
    help: 'the smaller',
    operands: 2,
    neutral: 1,
    make: (b, x, y) => b.min(x, y),
  },
  maximum: {
    title: 'Maximum',
    help: 'the larger',
    operands: 2,
    neutral: 0,
    make: (b, x, y) => b.max(x, y),
  },
  smoothMinimum: {
    title: 'Smooth minimum',
    help: 'the smaller, rounded over a width c',
    operands: 3,
    neutral: 1,
    make: smoothMinimum,
  },
  smoothMaximum: {
    title: 'Smooth maximum',
    help: 'the larger, rounded over a width c',
    operands: 3,
    neutral: 0,
    make: (b, x, y, z) => b.neg(smoothMinimum(b, b.neg(x), b.neg(y), z)),
  },
  modulo: {
    title: 'Modulo',
    help: 'a − b·floor(a/b), with the sign of b; 0 where b is 0',
    operands: 2,
    neutral: 1,
    make: (b, x, y) =>
      b.select(b.eq(y, b.f(0)), b.f(0), b.sub(x, b.mul(y, b.floor(divide(b, x, y))))),
  },
  average: {
    title: 'Average',
    help: '(a + b)/2',
    operands: 2,
    make: (b, x, y) => b.mul(b.add(x, y), b.f(0.5)),
  },
  multiplyAdd: {
    title: 'Multiply and add',
    help: 'a × b + c',
    operands: 3,
    neutral: 1,
    make: (b, x, y, z) => b.add(b.mul(x, y), z),
  },
  squareRoot: {
    title: 'Square root',
    help: '√a; below 0 counts as 0',
    operands: 1,
    make: (b, x) => b.sqrt(b.max(x, b.f(0))),
  },
  exponent: {
    title: 'Exponent',
    help: 'e^a, limited to |a| ≤ 87',
    operands: 1,
    make: (b, x) => exp2(b, b.mul(b.clamp(x, b.f(-87), b.f(87)), b.f(Math.LOG2E))),
  },
  logarithm: {
    title: 'Logarithm',
    help: 'ln a; 0 or below counts as the smallest number',
    operands: 1,
    make: (b, x) => b.mul(log2(b, x), b.f(Math.LN2)),
  },
  absolute: { title: 'Absolute', help: '|a|', operands: 1, make: (b, x) => b.abs(x) },
  sign: {
    title: 'Sign',
    help: '−1, 0 or 1',
    operands: 1,
    make: (b, x) => b.select(b.lt(x, b.f(0)), b.f(-1), b.select(b.lt(b.f(0), x), b.f(1), b.f(0))),
  },
  fraction: {
    title: 'Fraction',
    help: 'a − floor(a)',
    operands: 1,
    make: (b, x) => b.sub(x, b.floor(x)),
  },
  floor: {
    title: 'Floor',
    help: 'the whole number below',
    operands: 1,
    make: (b, x) => b.floor(x),
  },
  ceiling: {
    title: 'Ceiling',
    help: 'the whole number above',
    operands: 1,
    make: (b, x) => b.ceil(x),
  },
  round: {
    title: 'Round',
    help: 'the nearest whole number, halves to even',
    operands: 1,
    make: (b, x) => b.nearest(x),
  },
  sine: { title: 'Sine', help: 'sin a, a in radians', operands: 1, make: sin },
  cosine: { title: 'Cosine', help: 'cos a, a in radians', operands: 1, make: cos },
  tangent: {
    title: 'Tangent',
    help: 'sin a / cos a; 0 where cos a is 0',
    operands: 1,
    make: (b, x) => divide(b, sin(b, x), cos(b, x)),
  },
  arcTangent: { title: 'Arc tangent', help: 'atan a, in radians', operands: 1, make: atan },
  invert: { title: 'Invert', help: '1 − a', operands: 1, make: (b, x) => b.sub(b.f(1), x) },
  negate: { title: 'Negate', help: '−a', operands: 1, make: (b, x) => b.neg(x) },
} as const satisfies Record<string, Operation>;
type OperationName = keyof typeof OPERATIONS;
const NAMES = Object.keys(OPERATIONS) as OperationName[];
const entryOf = (name: OperationName): Operation => OPERATIONS[name];

export const math = defineNode({
  id: 'math.math',
  version: 1,
  title: 'Math',
  family: 'math',
  synonyms: ['calculate', 'arithmetic', 'operation'],
  presets: {
    option: 'operation',
    synonyms: {
      invert: ['flip', 'complement', 'one minus', 'reverse'],
      add: ['plus', 'sum'],
      subtract: ['minus', 'difference'],
      multiply: ['times', 'product', 'and'],
      exponent: ['exp'],
      logarithm: ['log', 'ln'],
      squareRoot: ['sqrt'],
      absolute: ['abs'],
      fraction: ['frac'],
      modulo: ['mod', 'repeat'],
      minimum: ['min', 'darker'],
      maximum: ['max', 'lighter'],
      power: ['pow'],
      average: ['mean'],
    },
  },
  help:
    'One operation on scalars, vectors or colours alike, lane by lane; a scalar counts for ' +
    'every lane.',
  formula: 'depends on the operation; each choice tells its own',
  inputs: {
    a: input.flex({ title: 'A', help: 'First operand.', default: 0.5 }),
    b: input.flex({ title: 'B', help: 'Second operand.', default: 0.5 }),
    c: input.flex({ title: 'C', help: 'Third operand, or the rounding width.', default: 0.1 }),
  },
  options: {
    operation: option(
      'Operation',
      'What is done.',
      Object.fromEntries(
        NAMES.map((name) => [name, [entryOf(name).title, entryOf(name).help]]),
      ) as unknown as Record<OperationName, readonly [string, string]>,
    ),
  },
  idle: ({ operation }) =>
    entryOf(operation).operands === 1 ? ['b', 'c'] : entryOf(operation).operands === 2 ? ['c'] : [],
  neutral: Object.fromEntries(
    NAMES.flatMap((name) => {
      const { neutral } = entryOf(name);
      const isExact = EXACT.has(name);
      return neutral === undefined
        ? []
        : [[name, { input: 'b' as const, value: neutral, isExact }]];
    }),
  ),
  // What is added at last stays, whatever becomes of the factor before it.
  sides: ({ operation }) => (operation === 'multiplyAdd' ? null : ['a', 'b']),
  outputs: { value: output.flex('Value', 'The result.') },
  tolerance: {
    value: 1e-3,
    reason: 'Powers, exponents and tangents multiply the rounding of their operands.',
  },
  lower: (builder, { a, b, c }, { operation }) => {
    const { operands, make } = entryOf(operation);
    const used = [a, b, c].slice(0, operands);
    const zero = builder.f(0);
    return { value: eachLane(used, ([x, y, z]) => make(builder, x ?? zero, y ?? zero, z ?? zero)) };
  },
});
