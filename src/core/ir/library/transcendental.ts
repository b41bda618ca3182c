import type { Builder } from '../builder';
import type { F32 } from '../types';

/** Horner's scheme, highest coefficient first. */
function polynomial(b: Builder, x: F32, coefficients: readonly number[]): F32 {
  const [first, ...rest] = coefficients;
  return rest.reduce((sum, coefficient) => b.add(b.mul(sum, x), b.f(coefficient)), b.f(first ?? 0));
}

/**
 * 2^x for x in [-126, 127] (limited to it); relative error below 3e-7.
 * Polynomial: Taylor series of 2^f on |f| ≤ ½, degree 7.
 */
export function exp2(b: Builder, given: F32): F32 {
  const x = b.clamp(given, b.f(-126), b.f(127));
  const whole = b.nearest(x);
  const rest = b.sub(x, whole);
  const series = polynomial(
    b,
    rest,
    [
      1.5252734e-5, 1.540353e-4, 1.3333558e-3, 9.6181291e-3, 5.5504109e-2, 2.4022651e-1,
      6.9314718e-1, 1,
    ],
  );
  const power = b.bitsToFloat(b.ishl(b.iadd(b.toInt(whole), b.i(127)), 23));
  return b.mul(series, power);
}

/**
 * log2(x) for x > 0 (smaller values count as the smallest normal number); absolute error below
 * 2e-7·max(1, |log2 x|).
 */
export function log2(b: Builder, given: F32): F32 {
  const x = b.max(given, b.f(1.1754944e-38));
  const exponent = b.isub(b.iand(b.ishrUnsigned(b.floatToBits(x), 23), b.i(255)), b.i(127));
  // Dividing by the power of two, not cutting bits, keeps the derivative.
  const mantissa = b.mul(
    b.mul(x, b.bitsToFloat(b.ishl(b.isub(b.i(127), b.min0(exponent)), 23))),
    b.bitsToFloat(b.ishl(b.isub(b.i(127), b.max0(exponent)), 23)),
  );
  const high = b.lt(b.f(Math.SQRT2), mantissa);
  const m = b.select(high, b.mul(mantissa, b.f(0.5)), mantissa);
  const e = b.add(b.toFloat(exponent), b.select(high, b.f(1), b.f(0)));
  const t = b.div(b.sub(m, b.f(1)), b.add(m, b.f(1)));
  const scale = 2 / Math.LN2;
  const series = polynomial(b, b.mul(t, t), [scale / 9, scale / 7, scale / 5, scale / 3, scale]);
  return b.add(e, b.mul(t, series));
}

/**
 * x^y for x > 0; 0 for x ≤ 0 (1 when y is 0 too). A negative base has no real power and counts as
 * 0.
 */
export function pow(b: Builder, x: F32, y: F32): F32 {
  const positive = exp2(b, b.mul(y, log2(b, x)));
  return b.select(b.le(x, b.f(0)), b.select(b.eq(y, b.f(0)), b.f(1), b.f(0)), positive);
}

/**
 * Sine and cosine for |x| ≤ 8192 rad; absolute error below 2e-6. Source: S. Moshier, Cephes
 * library, sinf/cosf (public).
 */
function sineOfQuadrant(b: Builder, x: F32, quadrantShift: number): F32 {
  const quadrant = b.nearest(b.mul(x, b.f(2 / Math.PI)));
  const reduced = b.sub(
    b.sub(b.sub(x, b.mul(quadrant, b.f(1.5703125))), b.mul(quadrant, b.f(4.837512969970703e-4))),
    b.mul(quadrant, b.f(7.54978995489188e-8)),
  );
  const z = b.mul(reduced, reduced);
  const sine = b.add(
    b.mul(
      b.mul(polynomial(b, z, [-1.9515295891e-4, 8.3321608736e-3, -1.6666654611e-1]), z),
      reduced,
    ),
    reduced,
  );
  const cosine = b.add(
    b.mul(
      b.mul(
        polynomial(b, z, [2.443315711809948e-5, -1.388731625493765e-3, 4.166664568298827e-2]),
        z,
      ),
      z,
    ),
    b.sub(b.f(1), b.mul(z, b.f(0.5))),
  );
  const q = b.iadd(b.toInt(quadrant), b.i(quadrantShift));
  const odd = b.ieq(b.iand(q, b.i(1)), b.i(1));
  return b.flipSign(b.select(odd, cosine, sine), b.ishr(q, 1));
}
/** The sine of an angle in radians. */
export const sin = (b: Builder, x: F32): F32 => sineOfQuadrant(b, x, 0);
/** The cosine of an angle in radians. */
export const cos = (b: Builder, x: F32): F32 => sineOfQuadrant(b, x, 1);

/**
 * Arc tangent in radians; absolute error below 3e-7. Source: S. Moshier, Cephes library, atanf
 * (public).
 */
export function atan(b: Builder, x: F32): F32 {
  const magnitude = b.abs(x);
  const steep = b.lt(b.f(2.414213562373095), magnitude);
  const middle = b.lt(b.f(0.4142135623730951), magnitude);
  const one = b.f(1);
  const reduced = b.select(
    steep,
    b.div(b.f(-1), magnitude),
    b.select(middle, b.div(b.sub(magnitude, one), b.add(magnitude, one)), magnitude),
  );
  const base = b.select(steep, b.f(Math.PI / 2), b.select(middle, b.f(Math.PI / 4), b.f(0)));
  const z = b.mul(reduced, reduced);
  const series = polynomial(
    b,
    z,
    [8.05374449538e-2, -1.38776856032e-1, 1.99777106478e-1, -3.33329491539e-1],
  );
  const angle = b.add(base, b.add(b.mul(b.mul(series, z), reduced), reduced));
  return b.select(b.lt(x, b.f(0)), b.neg(angle), angle);
}

/** The angle of (x, y) in (−π, π]; 0 at the origin. */
export function atan2(b: Builder, y: F32, x: F32): F32 {
  const zero = b.f(0);
  const upright = b.eq(x, zero);
  const quotient = atan(b, b.div(y, b.select(upright, b.f(1), x)));
  const turned = b.select(
    b.lt(x, zero),
    b.add(quotient, b.select(b.lt(y, zero), b.f(-Math.PI), b.f(Math.PI))),
    quotient,
  );
  const pole = b.select(
    b.lt(y, zero),
    b.f(-Math.PI / 2),
    b.select(b.lt(zero, y), b.f(Math.PI / 2), zero),
  );
  return b.select(upright, pole, turned);
}
