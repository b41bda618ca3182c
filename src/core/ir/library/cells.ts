import type { Builder } from '../builder';
import type { Bool, F32, I32, Lanes3, Value } from '../types';
import { HASH_X, HASH_Y, HASH_Z, foldLattice } from './hash';

/** How the distance to feature points is measured. */
export type CellMetric = 'straight' | 'blocks' | 'largest';

interface Point {
  readonly bits: I32;
  readonly offset: Lanes3;
  readonly distance: F32;
}
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

const finishDistance = (b: Builder, metric: CellMetric, d: F32): F32 =>
  metric === 'straight' ? b.sqrt(d) : d;

/** The feature point of the cell at an integer offset from the query's. */
function featurePoint(b: Builder, q: Query, shift: readonly [I32, I32, I32]): Point {
  const word = (axis: 0 | 1 | 2, multiplier: number): I32 =>
    b.imul(b.iadd(q.cell[axis], shift[axis]), b.i(multiplier));
  const bits = foldLattice(b, word(0, HASH_X), word(1, HASH_Y), b.ixor(word(2, HASH_Z), q.seed));
  // shift + ½ + (fraction − ½)·jitter − rest, with all that does not depend on the bits
  // computed before the loop.
  const scale = b.mul(q.jitter, b.f(1 / 1024));
  const middle = b.sub(b.f(0.5), b.mul(q.jitter, b.f(0.5)));
  const coordinate = (axis: 0 | 1 | 2): F32 => {
    const word = axis === 0 ? bits : b.ishrUnsigned(bits, axis * 10);
    return b.add(
      b.mul(b.toFloat(b.iand(word, b.i(1023))), scale),
      b.add(b.toFloat(shift[axis]), b.sub(middle, q.rest[axis])),
    );
  };
  const offset: Lanes3 = [coordinate(0), coordinate(1), coordinate(2)];
  return { bits, offset, distance: measure(b, q.metric, offset) };
}

/** A cell's feature point with the cell's number among the 125. */
interface Visited extends Point {
  readonly number: I32;
}
type Fold = (state: readonly Value[], point: Visited) => Value[];

/** The number of the query's own cell among the 125 around it. */
const MIDDLE = 62;

/** The offset, −2 to 2 along each axis, of a cell by its number 0 to 124. */
function shiftOf(b: Builder, number: I32): readonly [I32, I32, I32] {
  const fifth = b.ishr(b.imul(number, b.i(205)), 10);
  const twentyFifth = b.ishr(b.imul(number, b.i(656)), 14);
  const digit = (value: I32, tens: I32): I32 => b.isub(b.isub(value, b.imul(tens, b.i(5))), b.i(2));
  return [digit(number, fifth), digit(fifth, twentyFifth), b.isub(twentyFifth, b.i(2))];
}

/**
 * Visits the 27 cells around the query, then, only where some feature point two cells away could
 * still change the result, the rest of the 125: so the result is exact for any jitter. `reach` is
 * the distance that must be beaten. `numbered`: the last of what is carried is the number of a
 * cell.
 */
function visitCells(
  b: Builder,
  q: Query,
  initial: readonly Value[],
  fold: Fold,
  reach: (state: readonly Value[]) => F32,
  numbered: boolean,
): Value[] {
  const near = b.loop(b.i(3), initial, (index, carried) => {
    let state = [...carried];
    if (numbered) state[state.length - 1] = b.i(0);
    for (let j = -1; j <= 1; j++)
      for (let i = -1; i <= 1; i++) {
        // A number that is the same in every round costs least; the round's own share is added once
        // at its end.
        const number = b.i((j + 2) * 5 + i + 2);
        state = fold(state, {
          ...featurePoint(b, q, [b.i(i), b.i(j), b.isub(index, b.i(1))]),
          number,
        });
      }
    if (!numbered) return state;
    const inRound = state.at(-1) as I32,
      before = carried.at(-1) as I32;
    state[state.length - 1] = b.select(
      b.ieq(inRound, b.i(0)),
      before,
      b.iadd(inRound, b.imul(b.iadd(index, b.i(1)), b.i(25))),
    );
    return state;
  });
  const rounds = b.countIfAny(mayReachFurther(b, q, reach(near)), 125);
  return b.loop(rounds, near, (index, carried) => {
    const shift = shiftOf(b, index);
    const outer = b.not(
      shift.map((s) => b.ilt(b.imul(s, s), b.i(4))).reduce((x, y) => b.and(x, y)),
    );
    const point = featurePoint(b, q, shift);
    return fold(carried, {
      ...point,
      number: index,
      distance: b.select(outer, point.distance, b.f(1e9)),
    });
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
    jitter: values[3] as F32,
    seed: values[4] as I32,
    metric,
  };
}

const PARAMETERS = ['f32', 'f32', 'f32', 'f32', 'i32'] as const;

/** What of a search is wanted beside the distance to the nearest point. */
export interface CellWants {
  readonly second: boolean;
  /** Of the nearest point: nothing, its hash word, or its place too. */
  readonly owner: 'nothing' | 'bits' | 'place';
}
/** What a search for feature points found, in cell widths. */
export interface CellSearch {
  /** Distance to the nearest feature point. */
  readonly first: F32;
  /** Distance to the second nearest; that of the nearest where it was not wanted. */
  readonly second: F32;
  /**
   * The nearest point: its offset from the query, and its hash word; zeros where they were not
   * wanted.
   */
  readonly offset: Lanes3;
  readonly bits: I32;
}

/**
 * One search for all that is wanted of the feature points around a place; cells are one unit wide,
 * jitter 0–1, `seed` from `seedWord`. Only a search for the second nearest looks as far as that
 * may lie.
 */
export function searchCells(
  b: Builder,
  metric: CellMetric,
  at: Lanes3,
  jitter: F32,
  seed: I32,
  { second, owner }: CellWants,
): CellSearch {
  const name = `cells_${metric}${second ? '_second' : ''}_${owner}`;
  const func = b.define(name, PARAMETERS, (values) => {
    const q = queryAt(b, metric, values);
    const far = b.f(1e9);
    const initial = [
      far,
      ...(second ? [far] : []),
      ...(owner === 'nothing' ? [] : [b.i(owner === 'place' ? MIDDLE : 0)]),
    ];
    const fold: Fold = (state, point) => {
      const d1 = state[0] as F32;
      const seconds = second ? [b.min(state[1] as F32, b.max(d1, point.distance))] : [];
      const identity = owner === 'place' ? point.number : point.bits;
      const owners =
        owner === 'nothing'
          ? []
          : [b.select(b.lt(point.distance, d1), identity, state.at(-1) as I32)];
      return [b.min(d1, point.distance), ...seconds, ...owners];
    };
    const found = visitCells(
      b,
      q,
      initial,
      fold,
      (state) => state[second ? 1 : 0] as F32,
      owner === 'place',
    );
    const distances = found
      .slice(0, second ? 2 : 1)
      .map((d) => finishDistance(b, metric, d as F32));
    const last = found.at(-1) as I32;
    if (owner !== 'place') return owner === 'bits' ? [...distances, last] : distances;
    // Only the number of the nearest cell is carried along; its point is computed once more at
    // the end.
    const { offset, bits } = featurePoint(b, q, shiftOf(b, last));
    return [...distances, bits, ...offset];
  });
  const found = b.call(func, [...at, jitter, seed]);
  const first = found[0] as F32;
  const zero = b.f(0);
  const [bits = b.i(0), x = zero, y = zero, z = zero] = found.slice(second ? 2 : 1);
  return {
    first,
    second: second ? (found[1] as F32) : first,
    offset: [x as F32, y as F32, z as F32],
    bits: bits as I32,
  };
}
