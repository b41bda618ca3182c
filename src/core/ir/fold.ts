import type { Operation } from './types';

const bits = new DataView(new ArrayBuffer(4));

/** The single-precision number with these 32 bits. */
export function bitsToFloat(value: number): number {
  bits.setInt32(0, value);
  return bits.getFloat32(0);
}

/** The 32 bits of a number rounded to single precision. */
export function floatToBits(value: number): number {
  bits.setFloat32(0, value);
  return bits.getInt32(0);
}

/** Halves to even, as the processor rounds. */
export function nearestEven(value: number): number {
  if (!Number.isFinite(value) || Math.abs(value) >= 4503599627370496) return value;
  const floor = Math.floor(value);
  const rest = value - floor;
  const rounded = rest < 0.5 ? floor : rest > 0.5 ? floor + 1 : floor % 2 === 0 ? floor : floor + 1;
  return rounded === 0 && (value < 0 || Object.is(value, -0)) ? -0 : rounded;
}

/** A number truncated to 32 bits as WebAssembly does it: limited; not-a-number gives 0. */
export function saturatingInt(value: number): number {
  if (Number.isNaN(value)) return 0;
  const whole = Math.trunc(value);
  return whole >= 2147483647 ? 2147483647 : whole <= -2147483648 ? -2147483648 : whole | 0;
}

type Scalar = (a: number, b: number, immediate: number) => number;

/**
 * The meaning of every plain operation on numbers; truth values are 0 and 1. Floating results are
 * not yet rounded: the caller rounds to single precision (f32 mode and constant folding) or does
 * not (f64 mode).
 */
export const MEANING: Partial<Record<Operation, Scalar>> = {
  add: (a, b) => a + b,
  sub: (a, b) => a - b,
  mul: (a, b) => a * b,
  div: (a, b) => a / b,
  min: (a, b) => (b < a ? b : a),
  max: (a, b) => (a < b ? b : a),
  neg: (a) => -a,
  abs: (a) => Math.abs(a),
  sqrt: (a) => Math.sqrt(a),
  floor: (a) => Math.floor(a),
  ceil: (a) => Math.ceil(a),
  trunc: (a) => Math.trunc(a),
  nearest: (a) => nearestEven(a),
  flipSign: (a, b) => (b & 1 ? -a : a),
  lt: (a, b) => (a < b ? 1 : 0),
  le: (a, b) => (a <= b ? 1 : 0),
  eq: (a, b) => (a === b ? 1 : 0),
  and: (a, b) => a & b,
  or: (a, b) => a | b,
  not: (a) => 1 - a,
  iadd: (a, b) => (a + b) | 0,
  isub: (a, b) => (a - b) | 0,
  imul: (a, b) => Math.imul(a, b),
  iand: (a, b) => a & b,
  ior: (a, b) => a | b,
  ixor: (a, b) => a ^ b,
  ishl: (a, _b, n) => a << n,
  ishr: (a, _b, n) => a >> n,
  ishrUnsigned: (a, _b, n) => (a >>> n) | 0,
  ieq: (a, b) => (a === b ? 1 : 0),
  ilt: (a, b) => (a < b ? 1 : 0),
  toInt: (a) => saturatingInt(a),
  toFloat: (a) => a,
  countIfAny: (a, _b, n) => (a ? n : 0),
  bitsToFloat: (a) => bitsToFloat(a),
  floatToBits: (a) => floatToBits(a),
};
