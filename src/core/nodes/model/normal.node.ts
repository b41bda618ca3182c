import { defineNode, option, output } from '../define';
import { map3 } from '../lanes';

export const normal = defineNode({
  id: 'model.normal', version: 1, title: 'Normal', family: 'model',
  synonyms: ['direction', 'facing', 'facet', 'orientation'],
  help: 'The direction the surface faces, as a unit vector in object space.',
  formula: 'signed: n; 0–1: n/2 + ½; absolute: |n|',
  inputs: {},
  options: {
    smoothing: option('Smoothing', 'Which normal is read.', {
      smooth: ['Smooth', 'As shaded, blended between corners.'], face: ['Per face', 'Flat on each triangle.'],
    }),
    range: option('Range', 'How the components are written.', {
      signed: ['Signed', '−1 to 1.'], unit: ['0–1', 'Half plus a half.'], absolute: ['Absolute', 'Without the sign, 0 to 1.'],
    }),
  },
  outputs: {
    normal: output.vector('Normal', 'The direction.'),
    x: output.scalar('X', 'Rightward part.'), y: output.scalar('Y', 'Upward part.'), z: output.scalar('Z', 'Frontward part.'),
  },
  lower: (b, _inputs, { smoothing, range }, model) => {
    const raw = smoothing === 'smooth' ? model.normal : model.faceNormal;
    const n = map3(raw, (lane) => (range === 'signed' ? lane : range === 'absolute' ? b.abs(lane) : b.add(b.mul(lane, b.f(0.5)), b.f(0.5))));
    return { normal: n, x: n[0], y: n[1], z: n[2] };
  },
});
