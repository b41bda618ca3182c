import { atan2 } from '../../ir/library/transcendental';
import type { F32, Lanes3 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import { map3, normalise, zip3 } from '../lanes';

export const gradient = defineNode({
  id: 'gradients.gradient',
  version: 1,
  title: 'Gradient',
  family: 'gradients',
  synonyms: ['fade', 'height', 'linear', 'spherical', 'radial', 'waterline'],
  help: 'A smooth passage through space: along an axis, around a centre, or about an axis.',
  formula:
    'q = (at − centre)/(length·size); linear q·axis + ½; spherical 2|q|; box 2·max|qᵢ|; ' +
    'angular angle/2π + ½; mirrored |2·linear − 1|',
  inputs: {
    at: input.vector({
      title: 'Coordinates',
      help: 'Where it is read; unwired, the position on the object.',
      default: 'position',
      soft: [-1, 1],
    }),
    centre: input.vector({
      title: 'Centre',
      help: 'Where the middle lies.',
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
      unit: 'of the object’s size',
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
      object: ['Object size', 'Relative to the object.'],
      unit: ['Coordinate unit', 'Metres, or units of the coordinates wired in.'],
    }),
  },
  outputs: {
    value: output.scalar('Value', 'The place along the passage; outside it goes on past 0 and 1.'),
  },
  lower: (b, { at, centre, axis, length }, { shape, per }, model) => {
    const unit = b.max(per === 'object' ? b.mul(length, model.size) : length, b.f(1e-12));
    const q = map3(
      zip3(at, centre, (x, y) => b.sub(x, y)),
      (lane) => b.div(lane, unit),
    );
    const n = normalise(b, axis, [b.f(0), b.f(1), b.f(0)]);
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
