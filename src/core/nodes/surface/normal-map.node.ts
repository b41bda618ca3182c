import { defineNode, input, option, output } from '../define';
import { map3, normalise } from '../lanes';
import { outOfFrame, tangentFrame } from '../tangents';

export const normalMap = defineNode({
  id: 'surface.normal-map',
  version: 1,
  title: 'Normal map',
  family: 'surface',
  synonyms: ['tangent space', 'baked relief', 'relief map'],
  help:
    'Turns the colours of a normal map into directions. Green counts upwards in the ' +
    'picture unless told otherwise. Wire the image ' +
    'as data: a map that went through the sRGB curve leans everywhere.',
  formula: 'm = 2·c − 1; n′ = s·mₓ·T + s·m_y·B + m_z·N, made unit',
  inputs: {
    map: input.colour({
      title: 'Map',
      help: 'The image’s colour, read as data; 0.5, 0.5, 1 is flat.',
      default: [0.5, 0.5, 1],
      quantity: 'normal',
    }),
    strength: input.scalar({
      title: 'Strength',
      help: '1 is the relief as stored.',
      default: 1,
      soft: [-2, 2],
      hard: [-100, 100],
      low: 'inverted',
      high: 'strong',
    }),
    normal: input.vector({
      title: 'Normal',
      help: 'The direction the relief starts from.',
      default: 'normal',
      soft: [-1, 1],
    }),
  },
  outputs: { normal: output.vector('Normal', 'Wire it to a surface’s normal.') },
  options: {
    green: option('Green', 'Which way green leans.', {
      up: ['Up', 'As glTF and most open formats store it.'],
      down: ['Down', 'Maps made for the other convention.'],
    }),
    space: option('Space', 'What the directions are relative to.', {
      tangent: ['Texture', 'Relative to the surface and its texture coordinates.'],
      object: ['Object', 'Directions of the object itself.'],
    }),
  },
  tolerance: {
    value: 5e-4,
    reason: 'Directions near the edge of the frame are quotients of small numbers.',
  },
  lower: (b, { map, strength, normal }, { green, space }, model) => {
    const start = normalise(b, normal, model.normal);
    const [x, y, z] = map3(map, (lane) => b.sub(b.mul(lane, b.f(2)), b.f(1)));
    const up = green === 'down' ? b.neg(y) : y;
    if (space === 'object')
      return {
        normal: normalise(
          b,
          [x, up, z].map((lane, k) =>
            b.mix(start[k as 0], lane, strength),
          ) as unknown as typeof start,
          start,
        ),
      };
    // Texture coordinates run down the picture, green runs up.
    return {
      normal: outOfFrame(
        b,
        tangentFrame(b, start, model),
        b.mul(x, strength),
        b.neg(b.mul(up, strength)),
        b.max(z, b.f(1e-3)),
      ),
    };
  },
});
