import type { Builder } from '../ir/builder';
import type { F32, Lanes3 } from '../ir/types';
import type { ModelReads } from './define';
import { option } from './define';
import { map3 } from './lanes';

/**
 * What places and lengths count in: the same values then fit the next model, or stay where they
 * are.
 */
export const measureOption = option('Counts in', 'What places and lengths count in.', {
  relative: [
    'Object size',
    'Places from the middle of the model’s bounds, in diameters of its smallest enclosing ' +
      'sphere: fits the next model, too.',
  ],
  units: ['Metres', 'Places from the model’s origin, real lengths.'],
});
/** What places and lengths count in: object sizes, or metres. */
export type Measure = 'relative' | 'units';

/** A place in metres of object space. */
export function placeOf(b: Builder, at: Lanes3, measure: Measure, model: ModelReads): Lanes3 {
  if (measure === 'units') return at;
  return map3(at, (lane, axis) => {
    const middle = b.add(
      model.boundsMinimum[axis as 0],
      b.mul(model.boundsExtent[axis as 0], b.f(0.5)),
    );
    return b.add(middle, b.mul(lane, model.size));
  });
}

/**
 * A place that is typed counts as the measure says; one that is wired in is in metres of object
 * space, as all outputs are.
 */
export const givenPlace = (
  b: Builder,
  input: string,
  at: Lanes3,
  measure: Measure,
  model: ModelReads,
): Lanes3 => (model.isWired(input) ? at : placeOf(b, at, measure, model));

/** A length in metres. */
export const lengthOf = (b: Builder, length: F32, measure: Measure, model: ModelReads): F32 =>
  measure === 'units' ? length : b.mul(length, model.size);
/** Metres as the measure counts them. */
export const measured = (b: Builder, metres: F32, measure: Measure, model: ModelReads): F32 =>
  measure === 'units' ? metres : b.div(metres, b.max(model.size, b.f(1e-12)));

/** The distance between two places, in their unit. */
export function distanceBetween(b: Builder, p: Lanes3, q: Lanes3): F32 {
  const apart = map3(p, (lane, k) => b.sub(lane, q[k as 0]));
  return b.sqrt(b.dot(apart, apart));
}
