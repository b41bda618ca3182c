import { atan2 } from '../../ir/library/transcendental';
import type { Builder } from '../../ir/builder';
import type { F32, Lanes3 } from '../../ir/types';
import type { ModelReads } from '../model-reads';
import { defineNode, input, option, output } from '../define';
import { map3, normalise, zip3 } from '../lanes';

/** What a length of 1 is along each axis of space. */
function unitsOf(
  b: Builder,
  axis: Lanes3,
  shape: string,
  per: string,
  { size, boundsExtent }: Pick<ModelReads, 'size' | 'boundsExtent'>,
): Lanes3 {
  const alike = (unit: F32): Lanes3 => [unit, unit, unit];
  if (per !== 'fit') return alike(per === 'object' ? size : b.f(1));
  if (shape === 'box') return boundsExtent;
  if (shape === 'spherical') return alike(b.sqrt(b.dot(boundsExtent, boundsExtent)));
  return alike(
    b.dot(
      map3(axis, (lane) => b.abs(lane)),
      boundsExtent,
    ),
  );
}

export const gradient = defineNode({
  id: 'gradients.gradient',
  version: 2,
  former: {
    1: {
      what: 'A new one fits the object; one that is there counts its length as it did.',
      change: ({ values, options }) => ({ values, options: { per: 'object', ...options } }),
    },
  },
  title: 'Gradient',
  family: 'gradients',
  synonyms: ['fade', 'height', 'linear', 'spherical', 'radial', 'waterline'],
  help:
    'A smooth passage through space: along an axis, around a centre, or about an axis. It fits ' +
    'the box around the object, from 0 at one end to 1 at the other, unless its length counts in ' +
    'something else.',
  formula:
    'q = (at − centre)/(length·size); linear q·axis + ½; spherical 2|q|; box 2·max|qᵢ|; ' +
    'angular angle/2π + ½; mirrored |2·linear − 1|; fitted: centre from the middle of the box, ' +
    'size Σ|axisᵢ|·extentᵢ, |extent| or extentᵢ',
  inputs: {
    at: input.vector({
      title: 'Coordinates',
      help: 'Where it is read; unwired, the position on the object.',
      default: 'position',
      soft: [-1, 1],
    }),
    centre: input.vector({
      title: 'Centre',
      help: 'Where the middle lies; fitted, counted from the middle of the object.',
      default: [0, 0, 0],
      soft: [-1, 1],
    }),
    axis: input.vector({
      title: 'Axis',
      help: 'The direction of the passage.',
      default: [0, 1, 0],
      soft: [-1, 1],
    }),
    length: input.scalar({
      title: 'Length',
      help: 'How long the passage is.',
      default: 1,
      soft: [0.05, 2],
      hard: [0.000001, 100000],
      low: 'abrupt',
      high: 'drawn out',
      unit: 'of what it counts in',
    }),
  },
  options: {
    shape: option('Shape', 'The form of the passage.', {
      linear: ['Linear', 'Along the axis, ½ at the centre.'],
      spherical: ['Spherical', '0 at the centre, 1 at half the length away.'],
      box: ['Box', 'Like spherical, with square shells.'],
      angular: ['Angular', 'Around the axis, once from 0 to 1.'],
      mirrored: ['Mirrored', 'There and back, 0 at the centre.'],
    }),
    per: option('Length in', 'What the length counts in.', {
      fit: ['Object extent', 'At length 1 from one end of the object to the other.'],
      object: ['Object size', 'Relative to the object.'],
      unit: ['Coordinate unit', 'Metres, or units of the coordinates wired in.'],
    }),
  },
  outputs: {
    value: output.scalar('Value', 'The place along the passage; outside it goes on past 0 and 1.'),
  },
  lower: (b, { at, centre, axis, length }, { shape, per }, model) => {
    const n = normalise(b, axis, [b.f(0), b.f(1), b.f(0)]);
    const units = map3(unitsOf(b, n, shape, per, model), (unit) =>
      b.max(b.mul(length, unit), b.f(1e-12)),
    );
    const middle =
      per === 'fit'
        ? zip3(model.boundsMinimum, model.boundsExtent, (least, extent) =>
            b.add(least, b.mul(extent, b.f(0.5))),
          )
        : null;
    const away = zip3(at, centre, (x, y) => b.sub(x, y));
    const q = zip3(middle ? zip3(away, middle, (x, y) => b.sub(x, y)) : away, units, (x, unit) =>
      b.div(x, unit),
    );
    const linear = (): F32 => b.add(b.dot(q, n), b.f(0.5));
    switch (shape) {
      case 'linear':
        return { value: linear() };
      case 'mirrored':
        return { value: b.abs(b.sub(b.mul(linear(), b.f(2)), b.f(1))) };
      case 'spherical':
        return { value: b.mul(b.sqrt(b.dot(q, q)), b.f(2)) };
      case 'box':
        return { value: b.mul(b.max(b.max(b.abs(q[0]), b.abs(q[1])), b.abs(q[2])), b.f(2)) };
      case 'angular': {
        const lying = b.lt(b.f(0.9), b.abs(n[0]));
        const aside: Lanes3 = [
          b.select(lying, b.f(0), b.f(1)),
          b.select(lying, b.f(1), b.f(0)),
          b.f(0),
        ];
        const along = b.dot(aside, n);
        const u = normalise(
          b,
          map3(aside, (lane, k) => b.sub(lane, b.mul(n[k as 0], along))),
          [b.f(1), b.f(0), b.f(0)],
        );
        const v: Lanes3 = [
          b.sub(b.mul(n[1], u[2]), b.mul(n[2], u[1])),
          b.sub(b.mul(n[2], u[0]), b.mul(n[0], u[2])),
          b.sub(b.mul(n[0], u[1]), b.mul(n[1], u[0])),
        ];
        return {
          value: b.add(b.mul(atan2(b, b.dot(q, v), b.dot(q, u)), b.f(0.5 / Math.PI)), b.f(0.5)),
        };
      }
    }
  },
});
