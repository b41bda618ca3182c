import type { Operation } from '../../ir/types';

/** Vector instructions (after the prefix 0xfd), WebAssembly core specification 2.0. */
export const SIMD = {
  load: 0,
  load32Splat: 9,
  store: 11,
  constant: 12,
  splatI32: 17,
  extractI32: 27,
  anyTrue: 83,
  load32Lane: 86,
  addI32: 174,
  mulI32: 181,
  xor: 81,
  bitselect: 82,
  shl: 171,
  shrSigned: 172,
  shrUnsigned: 173,
} as const;

/** Operations that are one vector instruction on their operands in order. */
export const DIRECT: Partial<Record<Operation, number>> = {
  add: 228,
  sub: 229,
  mul: 230,
  div: 231,
  // pmin(a, b) = b < a ? b : a and pmax(a, b) = a < b ? b : a are the meaning of our min and max.
  min: 234,
  max: 235,
  neg: 225,
  abs: 224,
  sqrt: 227,
  ceil: 103,
  floor: 104,
  trunc: 105,
  nearest: 106,
  lt: 67,
  le: 69,
  eq: 65,
  and: 78,
  or: 80,
  not: 77,
  iadd: 174,
  isub: 177,
  imul: 181,
  iand: 78,
  ior: 80,
  ixor: 81,
  ieq: 55,
  ilt: 57,
  toInt: 248,
  toFloat: 250,
};

/** Scalar instructions. */
export const CORE = {
  block: 0x02,
  loop: 0x03,
  if: 0x04,
  end: 0x0b,
  br: 0x0c,
  brIf: 0x0d,
  call: 0x10,
  select: 0x1b,
  localGet: 0x20,
  localSet: 0x21,
  localTee: 0x22,
  i32Const: 0x41,
  i32Lt: 0x48,
  i32LtUnsigned: 0x49,
  i32Ge: 0x4e,
  i32GeUnsigned: 0x4f,
  i32Add: 0x6a,
  i32Sub: 0x6b,
  i32Mul: 0x6c,
  i32Eqz: 0x45,
  empty: 0x40,
} as const;

/** Value types of the binary format. Source: WebAssembly Core Specification 2.0, section 5.3. */
export const TYPE = { i32: 0x7f, v128: 0x7b, func: 0x60 } as const;
