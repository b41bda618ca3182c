import { defineNode, input, openOption, output } from '../define';
import { map3 } from '../lanes';

export const attribute = defineNode({
  id: 'model.attribute',
  version: 1,
  title: 'Attribute',
  family: 'model',
  synonyms: [
    'vertex colour',
    'vertex color',
    'custom data',
    'named value',
    'mesh data',
    'painted',
    'second uv',
  ],
  help:
    'Reads values the model brings for its vertices: colours, further texture coordinates, ' +
    'and whatever its maker stored. Where the model has no such attribute the fallback ' +
    'stands.',
  formula: 'blended between the corners of a triangle; the fallback where there is none',
  inputs: {
    fallback: input.colour({
      title: 'Fallback',
      help: 'What stands where the model has no such attribute.',
      default: [0, 0, 0],
    }),
  },
  options: {
    name: openOption('Attribute', 'Which of the model’s attributes is read.', 'attributes', [
      'None',
      'The fallback everywhere.',
    ]),
  },
  outputs: {
    value: output.vector('Value', 'Its first three numbers.'),
    colour: output.colour('Colour', 'The same as a colour, linear as stored.'),
    first: output.scalar('First', 'Its first number.'),
    second: output.scalar('Second', 'Its second number.'),
    third: output.scalar('Third', 'Its third number.'),
    fourth: output.scalar('Fourth', 'Its fourth number: alpha of colours; 1 where there is none.'),
    exists: output.scalar('Exists', '1 where the model has it.', {
      low: 'fallback',
      high: 'from the model',
    }),
  },
  lower: (b, { fallback }, { name }, model) => {
    const found = name === '' ? null : model.attribute(name);
    if (!found)
      return {
        value: fallback,
        colour: fallback,
        first: fallback[0],
        second: fallback[1],
        third: fallback[2],
        fourth: b.f(1),
        exists: b.f(0),
      };
    const has = b.lt(b.f(0), found.width);
    const [x, y, z, w] = found.lanes;
    const value = map3([x, y, z], (lane, k) => b.select(has, lane, fallback[k as 0]));
    return {
      value,
      colour: value,
      first: value[0],
      second: value[1],
      third: value[2],
      fourth: b.select(b.lt(b.f(3), found.width), w, b.f(1)),
      exists: b.select(has, b.f(1), b.f(0)),
    };
  },
});
