import type { Builder } from '../ir/builder';
import type { F32 } from '../ir/types';
import { fraction, stepAt } from './lanes';

/**
 * Where a value lies between two ends, 0 to 1, and what becomes of it outside. Equal ends make the
 * step at them.
 */
export function domainPlace(
  b: Builder,
  value: F32,
  from: F32,
  to: F32,
  outside: 'hold' | 'repeat' | 'mirror',
): F32 {
  const width = b.sub(to, from);
  const flat = b.eq(width, b.f(0));
  // The division is by what is the same everywhere, as a rule, and leaves the loop over points.
  const place = b.mul(b.sub(value, from), b.div(b.f(1), b.select(flat, b.f(1), width)));
  const t = b.select(flat, stepAt(b, value, from), place);
  if (outside === 'repeat') return fraction(b, t);
  if (outside === 'mirror')
    return b.abs(b.sub(t, b.mul(b.f(2), b.floor(b.add(b.mul(t, b.f(0.5)), b.f(0.5))))));
  return t;
}
