import type { Builder } from '../ir/builder';
import type { F32, Lanes3 } from '../ir/types';
import { mixSurfaces, selectSurface } from '../nodes/surface-lanes';
import { toTriple } from './convert';
import type { Lowered } from './convert';

/**
 * What lies between two values by an amount: 0 is `from`, 1 is `to` to the bit, beyond 1 it goes on
 * the same way. Surfaces are mixed parameter by parameter, up to 1.
 */
export function mixByAmount(b: Builder, from: Lowered, to: Lowered, amount: F32): Lowered {
  const isWhole = b.eq(amount, b.f(1));
  if (to.kind === 'surface') {
    if (from.kind !== 'surface') return to;
    const share = b.saturate(amount);
    const mixed = mixSurfaces(b, from.surface, to.surface, () => share);
    return { kind: 'surface', surface: selectSurface(b, isWhole, to.surface, mixed) };
  }
  if (from.kind === 'surface') return to;
  const between = (a: F32, z: F32): F32 =>
    b.select(isWhole, z, b.add(a, b.mul(b.sub(z, a), amount)));
  if (to.kind === 'scalar') {
    const [start] = from.kind === 'scalar' ? from.lanes : toTriple(from);
    return { ...to, lanes: [between(start, to.lanes[0])] };
  }
  const start = toTriple(from);
  const lanes: Lanes3 = [
    between(start[0], to.lanes[0]),
    between(start[1], to.lanes[1]),
    between(start[2], to.lanes[2]),
  ];
  return { ...to, lanes };
}
