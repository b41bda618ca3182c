import { defineNode, openOption, output } from '../define';

export const textureCoordinates = defineNode({
  id: 'model.texture-coordinates',
  version: 1,
  title: 'Texture coordinates',
  family: 'model',
  synonyms: ['uv', 'unwrap', 'texcoord', 'map coordinates', 'uv set'],
  help:
    'The model’s own texture coordinates, or its automatic atlas where it has none. v ' +
    'counts from the top, as in glTF. Where the model has no such set, its first stands.',
  formula: '(u, v, 0)',
  inputs: {},
  options: {
    set: openOption('Set', 'Which set of coordinates.', 'sets', ['First', 'The first set.']),
  },
  outputs: {
    coordinates: output.vector('Coordinates', 'u, v and 0.'),
    u: output.scalar('U', 'Across the map.', {
      quantity: 'coordinate',
      low: 'left',
      high: 'right',
    }),
    v: output.scalar('V', 'Down the map.', { quantity: 'coordinate', low: 'top', high: 'bottom' }),
  },
  lower: (b, _inputs, { set }, model) => {
    const [u, v, none] = model.textureCoordinates;
    if (set === '') return { coordinates: [u, v, none], u, v };
    const { width, lanes } = model.attribute(set);
    const has = b.lt(b.f(0), width);
    const [x, y] = [b.select(has, lanes[0], u), b.select(has, lanes[1], v)];
    return { coordinates: [x, y, none], u: x, v: y };
  },
});
