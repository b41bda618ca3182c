import { defineNode, output } from '../define';

export const textureCoordinates = defineNode({
  id: 'model.texture-coordinates', version: 1, title: 'Texture coordinates', family: 'model',
  synonyms: ['uv', 'unwrap', 'texcoord', 'map coordinates'],
  help: 'The model’s own texture coordinates, or its automatic atlas where it has none. v counts from the top, as in glTF.',
  formula: '(u, v, 0)',
  inputs: {},
  outputs: {
    coordinates: output.vector('Coordinates', 'u, v and 0.'),
    u: output.scalar('U', 'Across the map.', { low: 'left', high: 'right' }),
    v: output.scalar('V', 'Down the map.', { low: 'top', high: 'bottom' }),
  },
  lower: (_b, _inputs, _options, model) => {
    const uv = model.textureCoordinates;
    return { coordinates: uv, u: uv[0], v: uv[1] };
  },
});
