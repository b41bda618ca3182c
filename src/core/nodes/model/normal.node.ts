import { defineNode, input, option, output } from '../define';
import { map3, normalise, turnInOrder, zip3 } from '../lanes';

export const normal = defineNode({
  id: 'model.normal',
  version: 1,
  title: 'Normal',
  family: 'model',
  synonyms: ['direction', 'facing', 'facet', 'orientation'],
  help:
    'The direction the surface faces, as a unit vector: in the model’s own space, or in ' +
    'that of the scene, where models on the stage are turned.',
  formula: 'n = unit(R_z·R_y·R_x·N + offset); signed: n; 0–1: n/2 + ½; absolute: |n|',
  inputs: {
    turn: input.vector({
      title: 'Turn',
      help: 'Degrees about X, then Y, then Z.',
      default: [0, 0, 0],
      soft: [-180, 180],
      step: 1,
      unit: '°',
      section: 'Turn and offset',
    }),
    offset: input.vector({
      title: 'Offset',
      help: 'Added after the turn; the sum is made unit again.',
      default: [0, 0, 0],
      soft: [-1, 1],
      section: 'Turn and offset',
    }),
    detail: input.vector({
      title: 'Detail',
      help: 'The normal that is read with detail: wire a bump here.',
      default: 'normal',
      soft: [-1, 1],
    }),
  },
  options: {
    smoothing: option('Smoothing', 'Which normal is read.', {
      smooth: ['Smooth', 'As shaded, blended between corners.'],
      face: ['Per face', 'Flat on each triangle.'],
      detail: ['With detail', 'The one that is wired into Detail.'],
    }),
    space: option('Space', 'Whose directions it is written in.', {
      object: ['Object', 'Those of the model.'],
      world: ['World', 'Those of the scene, in which models on the stage may be turned.'],
    }),
    range: option('Range', 'How the components are written.', {
      signed: ['Signed', '−1 to 1.'],
      unit: ['0–1', 'Half plus a half.'],
      absolute: ['Absolute', 'Without the sign, 0 to 1.'],
    }),
  },
  outputs: {
    normal: output.vector('Normal', 'The direction.'),
    x: output.scalar('X', 'Rightward part.', { quantity: 'coordinate' }),
    y: output.scalar('Y', 'Upward part.', { quantity: 'coordinate' }),
    z: output.scalar('Z', 'Frontward part.', { quantity: 'coordinate' }),
  },
  idle: ({ smoothing }) => (smoothing === 'detail' ? [] : ['detail']),
  lower: (b, { turn, offset, detail }, { smoothing, space, range }, model) => {
    const own =
      smoothing === 'smooth'
        ? model.normal
        : smoothing === 'face'
          ? model.faceNormal
          : normalise(b, detail, model.normal);
    const read = space === 'world' ? model.inWorld.direction(own) : own;
    const turned = turnInOrder(b, read, turn);
    const isStill = [...turn, ...offset]
      .map((lane) => b.eq(lane, b.f(0)))
      .reduce((x, y) => b.and(x, y));
    const moved = normalise(
      b,
      zip3(turned, offset, (x, y) => b.add(x, y)),
      read,
    );
    // Untouched, the normal stays exactly as it is.
    const raw = zip3(read, moved, (still, other) => b.select(isStill, still, other));
    const n = map3(raw, (lane) =>
      range === 'signed'
        ? lane
        : range === 'absolute'
          ? b.abs(lane)
          : b.add(b.mul(lane, b.f(0.5)), b.f(0.5)),
    );
    return { normal: n, x: n[0], y: n[1], z: n[2] };
  },
});
