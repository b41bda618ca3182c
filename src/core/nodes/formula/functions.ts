import type { Builder } from '../../ir/builder';
import { atan, atan2, cos, exp2, log2, pow, sin } from '../../ir/library/transcendental';
import type { F32, Lanes3 } from '../../ir/types';
import { cross, divide, map3, normalise, smooth, stepAt } from '../lanes';

/** Applied channel by channel; a float counts for every channel. */
interface ByLane {
  readonly takes: number;
  readonly help: string;
  readonly lane: (b: Builder, ...lanes: readonly F32[]) => F32;
}
/** Applied to whole vectors. */
interface ByVector {
  readonly takes: number;
  readonly help: string;
  readonly gives: 'float' | 'vec3';
  readonly vector: (b: Builder, ...vectors: readonly Lanes3[]) => readonly F32[];
}
/** A function that formulas may call. */
export type FormulaFunction = ByLane | ByVector;

const lane = (takes: number, help: string, make: (b: Builder, ...lanes: F32[]) => F32): ByLane => ({
  takes,
  help,
  lane: make,
});
const vector = (
  takes: number,
  gives: 'float' | 'vec3',
  help: string,
  make: (b: Builder, ...vectors: Lanes3[]) => readonly F32[],
): ByVector => ({ takes, help, gives, vector: make });
const zero3 = (b: Builder): Lanes3 => [b.f(0), b.f(0), b.f(0)];
const modulo = (b: Builder, x: F32, y: F32): F32 =>
  b.select(b.eq(y, b.f(0)), b.f(0), b.sub(x, b.mul(y, b.floor(divide(b, x, y)))));
/** π/2 − atan(x/√(1 − x²)), limited to |x| ≤ 1. */
function arcCosine(b: Builder, given: F32): F32 {
  const x = b.clamp(given, b.f(-1), b.f(1));
  return atan2(b, b.sqrt(b.max(b.sub(b.f(1), b.mul(x, x)), b.f(0))), x);
}

/** The hard step x ≥ edge. */
export type Step = (b: Builder, x: F32, edge: F32) => F32;

/** Angles, powers and logarithms. */
const ANALYTIC: Readonly<Record<string, FormulaFunction>> = {
  sin: lane(1, 'sine, in radians', sin),
  cos: lane(1, 'cosine, in radians', cos),
  tan: lane(1, 'tangent; 0 where the cosine is 0', (b, x) => divide(b, sin(b, x), cos(b, x))),
  asin: lane(1, 'arc sine; limited to −1…1', (b, x) => b.sub(b.f(Math.PI / 2), arcCosine(b, x))),
  acos: lane(1, 'arc cosine; limited to −1…1', (b, x) => arcCosine(b, x)),
  atan: lane(1, 'arc tangent; with two arguments of y and x', (b, y, x) =>
    x ? atan2(b, y, x) : atan(b, y),
  ),
  radians: lane(1, 'degrees to radians', (b, x) => b.mul(x, b.f(Math.PI / 180))),
  degrees: lane(1, 'radians to degrees', (b, x) => b.mul(x, b.f(180 / Math.PI))),
  pow: lane(2, 'power; a base below 0 counts as 0', (b, x, y) => pow(b, x, y)),
  exp: lane(1, 'e to the power', (b, x) =>
    exp2(b, b.mul(b.clamp(x, b.f(-87), b.f(87)), b.f(Math.LOG2E))),
  ),
  log: lane(1, 'natural logarithm', (b, x) => b.mul(log2(b, x), b.f(Math.LN2))),
  exp2: lane(1, '2 to the power', (b, x) => exp2(b, b.clamp(x, b.f(-126), b.f(126)))),
  log2: lane(1, 'logarithm to base 2', (b, x) => log2(b, x)),
  sqrt: lane(1, 'square root; below 0 counts as 0', (b, x) => b.sqrt(b.max(x, b.f(0)))),
  inversesqrt: lane(1, '1/√x; 0 where x is 0 or below', (b, x) =>
    divide(b, b.f(1), b.sqrt(b.max(x, b.f(0)))),
  ),
};

/** Functions of whole vectors. */
const VECTORS: Readonly<Record<string, FormulaFunction>> = {
  dot: vector(2, 'float', 'the dot product', (b, x, y) => [b.dot(x, y)]),
  cross: vector(2, 'vec3', 'the cross product', (b, x, y) => cross(b, x, y)),
  length: vector(1, 'float', 'the length of a vector', (b, x) => [b.sqrt(b.dot(x, x))]),
  distance: vector(2, 'float', 'how far apart', (b, x, y) => {
    const d = map3(x, (at, k) => b.sub(at, y[k as 0]));
    return [b.sqrt(b.dot(d, d))];
  }),
  normalize: vector(1, 'vec3', 'with length 1; 0 stays 0', (b, x) => normalise(b, x, zero3(b))),
  reflect: vector(2, 'vec3', 'mirrored at a plane with a unit normal: reflect(v, n)', (b, v, n) => {
    const twice = b.mul(b.f(2), b.dot(v, n));
    return map3(v, (at, k) => b.sub(at, b.mul(twice, n[k as 0])));
  }),
};

/** Rounding, limits and steps, with a hard step of the caller's choice. */
const stepping = (step: Step): Readonly<Record<string, FormulaFunction>> => ({
  abs: lane(1, 'without its sign', (b, x) => b.abs(x)),
  sign: lane(1, '−1, 0 or 1', (b, x) =>
    b.select(b.lt(x, b.f(0)), b.f(-1), b.select(b.lt(b.f(0), x), b.f(1), b.f(0))),
  ),
  floor: lane(1, 'whole number below', (b, x) => b.floor(x)),
  ceil: lane(1, 'whole number above', (b, x) => b.ceil(x)),
  trunc: lane(1, 'whole number towards 0', (b, x) => b.trunc(x)),
  round: lane(1, 'nearest whole number, halves to even', (b, x) => b.nearest(x)),
  fract: lane(1, 'x − floor(x)', (b, x) => b.sub(x, b.floor(x))),
  mod: lane(2, 'x − y·floor(x/y); 0 where y is 0', (b, x, y) => modulo(b, x, y)),
  min: lane(2, 'the smaller', (b, x, y) => b.min(x, y)),
  max: lane(2, 'the larger', (b, x, y) => b.max(x, y)),
  clamp: lane(3, 'kept between two ends', (b, x, low, high) => b.clamp(x, low, high)),
  mix: lane(3, 'a + (b − a)·t', (b, x, y, t) => b.mix(x, y, t)),
  step: lane(2, '1 where x ≥ edge: step(edge, x)', (b, edge, x) => step(b, x, edge)),
  smoothstep: lane(
    3,
    'eased from 0 to 1: smoothstep(low, high, x); equal ends give a step',
    (b, low, high, x) => {
      const width = b.sub(high, low);
      const flat = b.eq(width, b.f(0));
      return b.select(
        flat,
        step(b, x, low),
        smooth(b, b.saturate(b.div(b.sub(x, low), b.select(flat, b.f(1), width)))),
      );
    },
  ),
});

/**
 * What a formula may call. Names and meaning: Khronos, The OpenGL ES Shading Language 3.00, chapter
 * 8; what that leaves undefined is defined here.
 */
export const functionsWith = (step: Step): Readonly<Record<string, FormulaFunction>> => ({
  ...ANALYTIC,
  ...stepping(step),
  ...VECTORS,
});
/** All functions of formulas, with hard steps. */
export const FUNCTIONS = functionsWith(stepAt);
/** Names that stand for numbers in formulas. */
export const CONSTANTS: Readonly<Record<string, number>> = { PI: Math.PI, TAU: 2 * Math.PI };
