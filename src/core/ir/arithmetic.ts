import { Emission } from './emission';
import type { Bool, F32, I32, LaneType, Lanes3, Value } from './types';

/** Operations on lanes: operands and results as in OPERATIONS; identities are taken out. */
export class Arithmetic extends Emission {
  add(a: F32, b: F32): F32 {
    return isZero(a, -0) ? b : isZero(b, -0) ? a : this.emit('add', 'f32', [a, b]);
  }
  sub(a: F32, b: F32): F32 {
    return isZero(b, 0) ? a : this.emit('sub', 'f32', [a, b]);
  }
  mul(a: F32, b: F32): F32 {
    return isConstant(b, 1) ? a : isConstant(a, 1) ? b : this.emit('mul', 'f32', [a, b]);
  }
  div(a: F32, b: F32): F32 {
    return isConstant(b, 1) ? a : this.emit('div', 'f32', [a, b]);
  }
  min(a: F32, b: F32): F32 {
    return this.emit('min', 'f32', [a, b]);
  }
  max(a: F32, b: F32): F32 {
    return this.emit('max', 'f32', [a, b]);
  }
  neg(a: F32): F32 {
    return this.emit('neg', 'f32', [a]);
  }
  abs(a: F32): F32 {
    return this.emit('abs', 'f32', [a]);
  }
  sqrt(a: F32): F32 {
    return this.emit('sqrt', 'f32', [a]);
  }
  floor(a: F32): F32 {
    return this.emit('floor', 'f32', [a]);
  }
  ceil(a: F32): F32 {
    return this.emit('ceil', 'f32', [a]);
  }
  trunc(a: F32): F32 {
    return this.emit('trunc', 'f32', [a]);
  }
  nearest(a: F32): F32 {
    return this.emit('nearest', 'f32', [a]);
  }
  flipSign(a: F32, lowBit: I32): F32 {
    return this.emit('flipSign', 'f32', [a, lowBit]);
  }
  lt(a: F32, b: F32): Bool {
    return this.emit('lt', 'bool', [a, b]);
  }
  le(a: F32, b: F32): Bool {
    return this.emit('le', 'bool', [a, b]);
  }
  gt(a: F32, b: F32): Bool {
    return this.lt(b, a);
  }
  ge(a: F32, b: F32): Bool {
    return this.le(b, a);
  }
  eq(a: F32, b: F32): Bool {
    return this.emit('eq', 'bool', [a, b]);
  }
  and(a: Bool, b: Bool): Bool {
    return this.emit('and', 'bool', [a, b]);
  }
  or(a: Bool, b: Bool): Bool {
    return this.emit('or', 'bool', [a, b]);
  }
  not(a: Bool): Bool {
    return this.emit('not', 'bool', [a]);
  }
  select<T extends LaneType>(condition: Bool, yes: Value<T>, no: Value<T>): Value<T> {
    if (yes === no) return yes;
    if (condition.operation === 'constant') return condition.immediate ? yes : no;
    return this.emit('select', yes.type, [condition, yes, no]);
  }
  iadd(a: I32, b: I32): I32 {
    return this.emit('iadd', 'i32', [a, b]);
  }
  isub(a: I32, b: I32): I32 {
    return this.emit('isub', 'i32', [a, b]);
  }
  imul(a: I32, b: I32): I32 {
    return this.emit('imul', 'i32', [a, b]);
  }
  iand(a: I32, b: I32): I32 {
    return this.emit('iand', 'i32', [a, b]);
  }
  ior(a: I32, b: I32): I32 {
    return this.emit('ior', 'i32', [a, b]);
  }
  ixor(a: I32, b: I32): I32 {
    return this.emit('ixor', 'i32', [a, b]);
  }
  ishl(a: I32, bits: number): I32 {
    return this.emit('ishl', 'i32', [a], { immediate: bits });
  }
  ishr(a: I32, bits: number): I32 {
    return this.emit('ishr', 'i32', [a], { immediate: bits });
  }
  ishrUnsigned(a: I32, bits: number): I32 {
    return this.emit('ishrUnsigned', 'i32', [a], { immediate: bits });
  }
  ieq(a: I32, b: I32): Bool {
    return this.emit('ieq', 'bool', [a, b]);
  }
  ilt(a: I32, b: I32): Bool {
    return this.emit('ilt', 'bool', [a, b]);
  }
  toInt(a: F32): I32 {
    return this.emit('toInt', 'i32', [a]);
  }
  toFloat(a: I32): F32 {
    return this.emit('toFloat', 'f32', [a]);
  }
  /**
   * `rounds` when the condition holds in any lane, else 0; a loop it bounds must not change lanes
   * where it does not hold.
   */
  countIfAny(condition: Bool, rounds: number): I32 {
    return this.emit('countIfAny', 'i32', [condition], { immediate: rounds, laneUniform: true });
  }
  bitsToFloat(a: I32): F32 {
    return this.emit('bitsToFloat', 'f32', [a]);
  }
  floatToBits(a: F32): I32 {
    return this.emit('floatToBits', 'i32', [a]);
  }

  /** The smaller, and the larger, of an integer and 0. */
  min0(a: I32): I32 {
    return this.select(this.ilt(a, this.i(0)), a, this.i(0));
  }
  max0(a: I32): I32 {
    return this.select(this.ilt(a, this.i(0)), this.i(0), a);
  }

  /** max(lo, min(hi, x)) with constants; not-a-number gives lo. */
  clamp(x: F32, lo: F32, hi: F32): F32 {
    return this.min(this.max(lo, x), hi);
  }
  saturate(x: F32): F32 {
    return this.clamp(x, this.f(0), this.f(1));
  }
  /** a + (b − a)·t */
  mix(a: F32, b: F32, t: F32): F32 {
    return a === b ? a : this.add(a, this.mul(this.sub(b, a), t));
  }
  dot(a: Lanes3, b: Lanes3): F32 {
    return this.add(this.add(this.mul(a[0], b[0]), this.mul(a[1], b[1])), this.mul(a[2], b[2]));
  }
}

function isConstant(value: F32, of: number): boolean {
  return value.operation === 'constant' && value.immediate === of;
}
function isZero(value: F32, of: number): boolean {
  return value.operation === 'constant' && Object.is(value.immediate, of);
}
