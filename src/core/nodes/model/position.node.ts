import { defineNode, option, output } from '../define';
import { map3 } from '../lanes';

export const position = defineNode({
  id: 'model.position',
  version: 1,
  title: 'Position',
  family: 'model',
  synonyms: ['place', 'coordinates', 'location', 'xyz', 'object space', 'world space', 'bounds'],
  help:
    'Where the point lies. Object space is in metres from the model’s origin, Y up; world ' +
    'space is the same for all models on the stage, and that of the current one; bounds ' +
    'run from 0 to 1 in its bounding box.',
  formula: 'object: p; world: at + scale·R_y(turn)·p; bounds: (p − lowest) / extent',
  inputs: {},
  options: {
    space: option('Space', 'What the coordinates count from.', {
      object: ['Object', 'Metres from the model’s origin.'],
      world: [
        'World',
        'Metres of the scene: a pattern goes on from one model on the stage to the next. ' +
          'Baked, it is object space.',
      ],
      bounds: ['Bounds', '0 to 1 inside the bounding box.'],
    }),
  },
  outputs: {
    position: output.vector('Position', 'The three coordinates.'),
    x: output.scalar('X', 'To the right.', { quantity: 'coordinate' }),
    y: output.scalar('Y', 'Upwards, from the origin.', { quantity: 'coordinate' }),
    z: output.scalar('Z', 'To the front.', { quantity: 'coordinate' }),
  },
  lower: (b, _inputs, { space }, model) => {
    const at =
      space === 'object'
        ? model.position
        : space === 'world'
          ? model.inWorld.position(model.position)
          : map3(model.position, (lane, axis) => {
              const [lowest, extent] = [
                model.boundsMinimum[axis as 0],
                model.boundsExtent[axis as 0],
              ];
              return b.div(b.sub(lane, lowest), b.max(extent, b.f(1e-12)));
            });
    return { position: at, x: at[0], y: at[1], z: at[2] };
  },
});
