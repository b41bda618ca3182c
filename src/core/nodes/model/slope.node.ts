import { atan2 } from '../../ir/library/transcendental';
import { defineNode, input, option, output } from '../define';
import { normalise } from '../lanes';

export const slope = defineNode({
  id: 'model.slope',
  version: 1,
  title: 'Slope',
  family: 'model',
  synonyms: ['steepness', 'top', 'dust', 'snow', 'up', 'incline'],
  help:
    'How far the surface looks upwards: 1 on tops, 0.5 on walls, 0 on undersides; or the ' +
    'angle from up in degrees.',
  formula: '(1 + n·up)/2, or atan2(|n × up|, n·up) in degrees',
  inputs: {
    up: input.vector({
      title: 'Up',
      help: 'The direction that counts as up; its length does not matter.',
      default: [0, 1, 0],
      soft: [-1, 1],
      picks: 'direction',
    }),
  },
  options: {
    smoothing: option('Smoothing', 'Which normal is read.', {
      smooth: ['Smooth', 'As shaded, blended between corners.'],
      face: ['Per face', 'Flat on each triangle.'],
    }),
  },
  outputs: {
    slope: output.scalar('Slope', 'Share of upward look.', { low: 'underside', high: 'top' }),
    degrees: output.scalar('Degrees', 'Angle from up, 0 to 180.', {
      unit: '°',
      quantity: 'degrees',
    }),
  },
  lower: (b, { up }, { smoothing }, model) => {
    const n = smoothing === 'smooth' ? model.normal : model.faceNormal;
    const axis = normalise(b, up, [b.f(0), b.f(1), b.f(0)]);
    const along = b.dot(n, axis);
    const across = (i: 0 | 1 | 2, j: 0 | 1 | 2) =>
      b.sub(b.mul(n[i], axis[j]), b.mul(n[j], axis[i]));
    const [cx, cy, cz] = [across(1, 2), across(2, 0), across(0, 1)];
    const angle = atan2(b, b.sqrt(b.dot([cx, cy, cz], [cx, cy, cz])), along);
    return {
      slope: b.saturate(b.mul(b.add(b.f(1), along), b.f(0.5))),
      degrees: b.mul(angle, b.f(180 / Math.PI)),
    };
  },
});
