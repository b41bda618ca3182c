import type { Builder } from '../builder';
import type { Bool, F32, I32, Lanes3, Value } from '../types';
import { HASH_X, HASH_Y, HASH_Z, foldLattice } from './hash';

export type CellMetric = 'straight' | 'blocks' | 'largest';

interface Point { readonly bits: I32; readonly offset: Lanes3; readonly distance: F32 }
interface Query {
  readonly cell: readonly [I32, I32, I32];
  readonly rest: Lanes3;
  readonly jitter: F32;
  readonly seed: I32;
  readonly metric: CellMetric;
}

/** Squared for the straight metric, so that the root is taken once at the end. */
function measure(b: Builder, metric: CellMetric, [x, y, z]: Lanes3): F32 {
  if (metric === 'straight') return b.dot([x, y, z], [x, y, z]);
  const [ax, ay, az] = [b.abs(x), b.abs(y), b.abs(z)];
  return metric === 'blocks' ? b.add(b.add(ax, ay), az) : b.max(b.max(ax, ay), az);
}

const finishDistance = (b: Builder, metric: CellMetric, d: F32): F32 => (metric === 'straight' ? b.sqrt(d) : d);

/** The feature point of the cell at an integer offset from the query's. */
function featurePoint(b: Builder, q: Query, shift: readonly [I32, I32, I32]): Point {
  const word = (axis: 0 | 1 | 2, multiplier: number): I32 => b.imul(b.iadd(q.cell[axis], shift[axis]), b.i(multiplier));
  const bits = foldLattice(b, word(0, HASH_X), word(1, HASH_Y), b.ixor(word(2, HASH_Z), q.seed));
  // shift + ½ + (fraction − ½)·jitter − rest, with all that does not depend on the bits worked out before the loop.
  const scale = b.mul(q.jitter, b.f(1 / 1024));
  const middle = b.sub(b.f(0.5), b.mul(q.jitter, b.f(0.5)));
  const coordinate = (axis: 0 | 1 | 2): F32 => {
    const word = axis === 0 ? bits : b.ishrUnsigned(bits, axis * 10);
    return b.add(b.mul(b.toFloat(b.iand(word, b.i(1023))), scale), b.add(b.toFloat(shift[axis]), b.sub(middle, q.rest[axis])));
  };
  const offset: Lanes3 = [coordinate(0), coordinate(1), coordinate(2)];
  return { bits, offset, distance: measure(b, q.metric, offset) };
}

type Fold = (state: readonly Value[], point: Point) => Value[];

/**
 * Visits the 27 cells around the query, then, only where some feature point two cells away could still change the
 * result, the rest of the 125: so the result is exact for any jitter. `reach` is the distance that must be beaten.
 */
function visitCells(b: Builder, q: Query, initial: readonly Value[], fold: Fold, reach: (state: readonly Value[]) => F32): Value[] {
  const near = b.loop(b.i(3), initial, (index, carried) => {
    let state = carried;
    for (let j = -1; j <= 1; j++) for (let i = -1; i <= 1; i++) {
      state = fold(state, featurePoint(b, q, [b.i(i), b.i(j), b.isub(index, b.i(1))]));
    }
    return state;
  });
  const rounds = b.countIfAny(mayReachFurther(b, q, reach(near)), 125);
  return b.loop(rounds, near, (index, carried) => {
    const fifth = b.ishr(b.imul(index, b.i(205)), 10);
    const twentyFifth = b.ishr(b.imul(index, b.i(656)), 14);
    const shift: [I32, I32, I32] = [
      b.isub(b.isub(index, b.imul(fifth, b.i(5))), b.i(2)), b.isub(b.isub(fifth, b.imul(twentyFifth, b.i(5))), b.i(2)),
      b.isub(twentyFifth, b.i(2)),
    ];
    const outer = b.not(shift.map((s) => b.ilt(b.imul(s, s), b.i(4))).reduce((x, y) => b.and(x, y)));
    const point = featurePoint(b, q, shift);
    return fold(carried, { ...point, distance: b.select(outer, point.distance, b.f(1e9)) });
  });
}

/** Whether a point two cells away can be nearer than `reach`. */
function mayReachFurther(b: Builder, q: Query, reach: F32): Bool {
  const edge = q.rest.map((t) => b.min(t, b.sub(b.f(1), t))).reduce((x, y) => b.min(x, y));
  const margin = b.add(b.sub(b.f(1.5), b.mul(q.jitter, b.f(0.5))), edge);
  return b.lt(q.metric === 'straight' ? b.mul(margin, margin) : margin, reach);
}

function queryAt(b: Builder, metric: CellMetric, values: readonly Value[]): Query {
  const at = values.slice(0, 3) as unknown as Lanes3;
  const cell = at.map((c) => b.floor(c)) as unknown as Lanes3;
  return {
    cell: cell.map((c) => b.toInt(c)) as unknown as [I32, I32, I32],
    rest: [b.sub(at[0], cell[0]), b.sub(at[1], cell[1]), b.sub(at[2], cell[2])],
    jitter: values[3] as F32, seed: values[4] as I32, metric,
  };
}

const PARAMETERS = ['f32', 'f32', 'f32', 'f32', 'i32'] as const;

/** Distance to the nearest feature point; cells are one unit wide, jitter 0–1, `seed` from `seedWord`. */
export function cellNearest(b: Builder, metric: CellMetric, at: Lanes3, jitter: F32, seed: I32): F32 {
  const func = b.define(`cellNearest_${metric}`, PARAMETERS, (values) => {
    const q = queryAt(b, metric, values);
    const [best] = visitCells(b, q, [b.f(1e9)], ([d], p) => [b.min(d as F32, p.distance)], ([d]) => d as F32);
    return [finishDistance(b, metric, best as F32)];
  });
  return b.call(func, [...at, jitter, seed])[0] as F32;
}

/** Distances to the nearest and to the second nearest feature point. */
export function cellSecond(b: Builder, metric: CellMetric, at: Lanes3, jitter: F32, seed: I32): readonly [F32, F32] {
  const func = b.define(`cellSecond_${metric}`, PARAMETERS, (values) => {
    const q = queryAt(b, metric, values);
    const far = b.f(1e9);
    const [first, second] = visitCells(b, q, [far, far], (state, p) => {
      const [d1, d2] = state as [F32, F32];
      return [b.min(d1, p.distance), b.min(d2, b.max(d1, p.distance))];
    }, (state) => state[1] as F32);
    return [finishDistance(b, metric, first as F32), finishDistance(b, metric, second as F32)];
  });
  return b.call(func, [...at, jitter, seed]) as unknown as [F32, F32];
}

/** The nearest feature point: its offset from the query, and its hash word. */
export function cellOwner(b: Builder, metric: CellMetric, at: Lanes3, jitter: F32, seed: I32): { offset: Lanes3; bits: I32 } {
  const func = b.define(`cellOwner_${metric}`, PARAMETERS, (values) => {
    const q = queryAt(b, metric, values);
    const zero = b.f(0);
    const state = visitCells(b, q, [b.f(1e9), zero, zero, zero, b.i(0)], ([d, x, y, z, bits], p) => {
      const nearer = b.lt(p.distance, d as F32);
      return [
        b.min(d as F32, p.distance), ...[x, y, z].map((c, k) => b.select(nearer, p.offset[k] as F32, c as F32)),
        b.select(nearer, p.bits, bits as I32),
      ];
    }, (carried) => carried[0] as F32);
    return state.slice(1);
  });
  const [x, y, z, bits] = b.call(func, [...at, jitter, seed]);
  return { offset: [x as F32, y as F32, z as F32], bits: bits as I32 };
}
